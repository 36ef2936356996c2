import {
  formatCompact,
  formatQuantity,
  isPreferred,
  nearestPreferred,
  type Unit,
} from '../quantity';
import { ok, stop, warn, type FitnessRemark, type RemarkCode } from './remark';

/** A figure of a part: what it is called, its unit, and which remark it makes. */
export interface Figure {
  readonly code: RemarkCode;
  readonly what: string;
  readonly unit: Unit | '°C' | 'mm' | 'W' | 'h' | 'A²s' | '';
}

/** Figures that are equal but for rounding. */
const SAME = 1e-6;

export const shown = (value: number, unit: Figure['unit']): string => {
  if (unit === '°C' || unit === 'mm' || unit === 'h' || unit === 'A²s')
    return `${Number(value.toPrecision(3))} ${unit}`;
  if (unit === 'W') return `${Number(value.toPrecision(3))} W`;
  return formatQuantity(value, unit, 3);
};

/**
 * Says where a value stands in no series of preferred ones (IEC 60063): a digit may have been read
 * wrongly. Silent where the part that came off has the same.
 */
export function preferred(
  unit: 'ohm' | 'F',
  was: number | undefined,
  offered: number | undefined,
): FitnessRemark[] {
  if (offered === undefined || !(offered > 0) || isPreferred(offered)) return [];
  if (was !== undefined && Math.abs(offered / was - 1) < SAME) return [];
  const near = formatCompact(nearestPreferred(offered, 24), unit);
  return [
    warn(
      'value',
      `${formatCompact(offered, unit)} stands in no series of values (nearest ${near}): read it again, old and special parts apart`,
    ),
  ];
}

/**
 * The offered figure is no lower than that of what came off. Where one of the two is not said it is
 * not judged. here: what the place itself asks for, where that is known.
 */
export function atLeast(
  { code, what, unit }: Figure,
  was: number | undefined,
  offered: number | undefined,
  here?: number,
): FitnessRemark {
  if (here !== undefined && offered !== undefined && offered < here * (1 - SAME))
    return stop(
      code,
      `${what}: ${shown(offered, unit)} is below the ${shown(here, unit)} of this place`,
    );
  if (was === undefined) return warn(code, `${what} not judged: of what came off it is not known`);
  if (offered === undefined) return warn(code, `no ${what} written: at least ${shown(was, unit)}`);
  return offered < was * (1 - SAME)
    ? stop(code, `${what}: ${shown(offered, unit)} is below the ${shown(was, unit)} that came off`)
    : ok(code, `${what}: ${shown(offered, unit)} is enough (${shown(was, unit)} came off)`);
}

/** The offered figure is no higher than `factor` times that of what came off. */
export function atMost(
  { code, what, unit }: Figure,
  was: number | undefined,
  offered: number | undefined,
  factor = 1,
): FitnessRemark {
  if (was === undefined) return warn(code, `${what} not judged: of what came off it is not known`);
  if (offered === undefined) return warn(code, `no ${what} written: at most ${shown(was, unit)}`);
  return offered > was * factor * (1 + SAME)
    ? stop(code, `${what}: ${shown(offered, unit)} is above the ${shown(was, unit)} that came off`)
    : ok(code, `${what}: ${shown(offered, unit)} is no more than what came off`);
}

/**
 * The offered figure lies near that of what came off: ok within `near`, to be thought of within
 * `far`, both as a share.
 */
export function nearly(
  { code, what, unit }: Figure,
  was: number | undefined,
  offered: number | undefined,
  near: number,
  far = near,
): FitnessRemark {
  if (was === undefined) return warn(code, `${what} not judged: of what came off it is not known`);
  if (offered === undefined)
    return warn(code, `no ${what} written: ${shown(was, unit)} belongs here`);
  const off = Math.abs(offered / was - 1) - SAME;
  if (off <= near) return ok(code, `${what}: ${shown(offered, unit)} for ${shown(was, unit)}`);
  const words = `${what}: ${shown(offered, unit)} is not ${shown(was, unit)}`;
  return off <= far ? warn(code, words) : stop(code, words);
}

/** One of several words is the same; a difference stops with `why`. */
export function sameWord<T extends string | boolean>(
  code: RemarkCode,
  what: string,
  was: T | undefined,
  offered: T | undefined,
  why = '',
): FitnessRemark {
  if (was === undefined) return warn(code, `${what} not judged: of what came off it is not known`);
  if (offered === undefined) return warn(code, `no ${what} written: ${String(was)} belongs here`);
  return was === offered
    ? ok(code, `${what} as before${typeof was === 'string' ? `: ${was}` : ''}`)
    : stop(code, `${what}: ${String(offered)} is not ${String(was)}${why ? `: ${why}` : ''}`);
}

/** Only where what came off said it: a figure that seldom matters. */
export const whereSaid = (
  was: number | string | boolean | undefined,
  remark: () => FitnessRemark,
): readonly FitnessRemark[] => (was === undefined ? [] : [remark()]);
