import type { BoardIndex } from '../board';
import type { HazardKind, UnitModel } from '../block';
import {
  ENERGY_LIMIT_JOULE,
  METER_LIMIT_VOLT,
  storedCharges,
  TOUCH_LIMIT_VOLT,
  type StoredCharge,
} from './discharge';
import { FINDING_RULES, type FindingKind } from './look';

/**
 * The steps that a hazard locks: probes on a board with power, hands in the open case, and a meter
 * that drives a current of its own (ohms, continuity, diode test, ESR).
 */
export type Gate = 'power' | 'open' | 'meter';

/** Something that can hurt. */
export interface Hazard {
  /** Stays the same for the same hazard of the same case. */
  readonly key: string;
  readonly kind: HazardKind;
  readonly words: string;
  readonly from: string;
  readonly gates: readonly Gate[];
  /** True where only somebody who looks can say whether this unit has it. */
  readonly ifFitted: boolean;
  /**
   * What keeps the charge, where one does. seconds: until it is below the touch limit by resistors
   * that stay there; undefined where none are known.
   */
  readonly charge:
    | {
        readonly title: string;
        readonly volt: number;
        readonly farad: number;
        readonly seconds: number | undefined;
      }
    | undefined;
}

/**
 * Which steps wait for which kind: what bites when the case is open, and what bites when power is
 * on.
 */
// prettier-ignore
const GATES: Readonly<Record<HazardKind, readonly Gate[]>> = {
  mains: ['power', 'open'], 'stored-charge': ['open', 'power'], laser: ['power'], hot: ['power'], spring: ['open'], chemical: ['open'], static: ['open'],
};

/** What every line about danger ends with. */
export const DEFER = 'Follow local codes; mains and laser work only if you are qualified.';

/**
 * Every hazard of a case: from the model of the unit, from the parts of its board, from what was
 * seen on it.
 */
export function hazardsOf(
  model: UnitModel | undefined,
  index: BoardIndex | undefined,
  seen: readonly FindingKind[],
): readonly Hazard[] {
  return [...(model ? ofModel(model) : []), ...(index ? ofBoard(index) : []), ...ofSight(seen)];
}

function ofModel(model: UnitModel): readonly Hazard[] {
  return (model.hazards ?? []).map(({ name, kind, note, volt, farad, ifFitted }) => ({
    key: `unit-${name}`,
    kind,
    words: note,
    from: model.title,
    gates: GATES[kind],
    ifFitted: ifFitted === true,
    charge:
      volt !== undefined && farad !== undefined
        ? { title: note, volt, farad, seconds: undefined }
        : undefined,
  }));
}

function ofBoard(index: BoardIndex): readonly Hazard[] {
  const named = (index.board.hazards ?? []).map(({ ref, kind, note }): Hazard => ({
    // By what it is, not by its place in the list: another line in front changes nothing.
    key: `board-${kind}-${
      ref ??
      note
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .slice(0, 60)
    }`,
    kind,
    words: ref ? `${ref}: ${note}` : note,
    from: 'board sheet',
    gates: GATES[kind],
    ifFitted: false,
    charge: undefined,
  }));
  const charged = storedCharges(index).filter(bites);
  return [
    ...named,
    ...charged.map((charge): Hazard => ({
      key: `charge-${charge.ref}`,
      kind: 'stored-charge',
      words: chargeWords(charge),
      from: 'worked out of the board',
      gates: GATES['stored-charge'],
      ifFitted: false,
      charge: {
        title: charge.ref,
        volt: charge.volt,
        farad: charge.farad,
        seconds: charge.seconds,
      },
    })),
  ];
}

function ofSight(seen: readonly FindingKind[]): readonly Hazard[] {
  return [...new Set(seen)].flatMap((what): Hazard[] => {
    const { caution, title, withPower } = FINDING_RULES[what];
    if (!caution) return [];
    const gates: readonly Gate[] = withPower ? ['open', 'power'] : GATES.chemical;
    return [
      {
        key: `seen-${what}`,
        kind: 'chemical',
        words: `${title} was seen: ${caution}`,
        from: 'what was seen',
        gates,
        ifFitted: false,
        charge: undefined,
      },
    ];
  });
}

function bites({ volt, joule }: StoredCharge): boolean {
  return volt > TOUCH_LIMIT_VOLT || joule >= ENERGY_LIMIT_JOULE;
}

function chargeWords({ ref, volt, joule, seconds, pathOhm, together, from }: StoredCharge): string {
  const who = together.length > 0 ? `${ref} with ${together.join(', ')}` : ref;
  const most = {
    circuit: 'holds',
    mains: 'lies on the mains: holds up to its peak,',
    rating: 'may hold',
  }[from];
  return `${who} ${most} ${Math.round(volt)} V and ${joule.toPrecision(2)} J: ${leftWords(seconds, pathOhm !== undefined)}`;
}

/**
 * What becomes of a charge by itself. It never promises: the resistor that leads it away may be the
 * part that failed.
 */
export function leftWords(seconds: number | undefined, hasPath = seconds !== undefined): string {
  if (!hasPath || seconds === undefined)
    return 'nothing on the sheet is sure to lead it away, it may stay for days; discharge, measure, and read again after a minute';
  if (seconds === 0) return 'low enough to touch, high enough to burn; discharge and measure';
  return `below ${TOUCH_LIMIT_VOLT} V after about ${Math.ceil(seconds)} s if its bleeder is whole; measure, and read again after a minute`;
}

/** Who acknowledged what. */
export interface Acknowledged {
  readonly hazard: string;
  readonly who: string;
  /** Somebody looked: this unit does not have it. */
  readonly notHere?: boolean;
}

/** Volts measured on a charge. current: nothing was powered since. */
export interface Residual {
  readonly hazard: string;
  readonly volt: number;
  readonly current: boolean;
}

/**
 * Why a step is still locked: a hazard that nobody has acknowledged, or a charge that was not
 * measured low enough since the power was last on.
 */
export interface Lock {
  readonly hazard: Hazard;
  readonly need: 'acknowledge' | 'measure';
  /** The voltage to come below. */
  readonly belowVolt?: number;
}

/** Volts to which a charge must be down before a step. Only what can bite is asked for. */
const BELOW: Readonly<Record<Gate, number | undefined>> = {
  power: undefined,
  open: TOUCH_LIMIT_VOLT,
  meter: METER_LIMIT_VOLT,
};

/** What still locks a kind of step. */
export function lockedBy(
  hazards: readonly Hazard[],
  acknowledged: readonly Acknowledged[],
  gate: Gate,
  residuals: readonly Residual[] = [],
): readonly Lock[] {
  const done = new Map(acknowledged.map((one) => [one.hazard, one]));
  const below = BELOW[gate];
  return hazards.flatMap((hazard): Lock[] => {
    const { key, gates, charge, ifFitted } = hazard;
    if (ifFitted && done.get(key)?.notHere === true) return [];
    if (gates.includes(gate) && !done.has(key)) return [{ hazard, need: 'acknowledge' }];
    if (below === undefined || !charge || charge.volt <= TOUCH_LIMIT_VOLT) return [];
    const read = residuals.findLast((one) => one.hazard === key && one.current);
    return read && read.volt < below ? [] : [{ hazard, need: 'measure', belowVolt: below }];
  });
}
