import { slowness } from '../../board';
import { formatQuantity } from '../../quantity';
import { whereSaid } from '../compare';
import type { Place } from '../place';
import { danger, ok, warn, type FitnessRemark } from '../remark';
import type { FuseSpec } from '../spec';

/** Currents that count as the same: what rounding in words may do. */
const SAME = 0.02;
/**
 * Amperes that a small fuse of 250 V breaks, by its letter: low 35 A or ten times its rating,
 * enhanced 150 A, high 1500 A. Source: IEC 60127-2.
 */
const BREAKING_AMPERE = { L: 35, E: 150, H: 1500 } as const;

/** What no fuse may be replaced by. */
export const WIRE_IS_NO_FUSE = danger(
  'fuse-wire',
  'a wire is no fuse: what should blow then is the track, the transformer or the house',
);

/**
 * Judges a fuse against the one that belongs there: same current and speed, voltage and breaking
 * capacity at least as high, never a wire. A lower current or a faster fuse hurts nobody, but may
 * blow at switch-on. Source: IEC 60127-1 (markings); the rule is common practice.
 */
export function judgeFuse(
  was: FuseSpec,
  offered: FuseSpec,
  place: Place,
): readonly FitnessRemark[] {
  if (offered.isWire) return [WIRE_IS_NO_FUSE];
  return [
    current(was.ampere, offered.ampere),
    ...load(offered.ampere, place.workingAmpere),
    speed(was.speed, offered.speed),
    volts(was.volt, offered.volt, place.workingVolt),
    breaking(was, offered),
    ...whereSaid(was.meltingA2s, () => melting(was.meltingA2s!, offered.meltingA2s)),
  ];
}

const ampere = (value: number): string => formatQuantity(value, 'A', 3);

function current(wanted: number | undefined, offered: number | undefined): FitnessRemark {
  if (wanted === undefined)
    return warn(
      'fuse-current',
      'the sheet does not say which fuse belongs here: read the cap of the old one or the print beside its holder',
    );
  if (offered === undefined)
    return warn('fuse-current', `no current written: ${ampere(wanted)} belongs here`);
  if (offered > wanted * (1 + SAME))
    return danger(
      'fuse-current',
      `${ampere(offered)} is more than the ${ampere(wanted)} that belongs here`,
    );
  if (offered < wanted * (1 - SAME))
    return warn(
      'fuse-current',
      `${ampere(offered)} is less than ${ampere(wanted)}: safe, but it may blow without a fault`,
    );
  return ok('fuse-current', `${ampere(offered)} belongs here`);
}

/** Against what the good board draws through it: a larger fuse than needed protects nothing. */
function load(offered: number | undefined, working: number | undefined): FitnessRemark[] {
  if (offered === undefined || working === undefined || working < offered) return [];
  return [
    warn(
      'fuse-load',
      `the good board draws ${ampere(working)} through it: ${ampere(offered)} blows at once`,
    ),
  ];
}

function speed(wanted: FuseSpec['speed'], offered: FuseSpec['speed']): FitnessRemark {
  if (wanted === undefined)
    return warn(
      'fuse-speed',
      offered === undefined
        ? 'speed not judged: neither the old one nor the new one says it'
        : `the sheet does not say which speed belongs here; ${offered} was written`,
    );
  if (offered === undefined) return warn('fuse-speed', `no speed written: ${wanted} belongs here`);
  const slower = slowness(offered) - slowness(wanted);
  if (slower > 0)
    return danger(
      'fuse-speed',
      `${offered} is slower than the ${wanted} that belongs here: the part behind it may burn first`,
    );
  return slower < 0
    ? warn('fuse-speed', `${offered} is faster than ${wanted}: safe, but it may blow at switch-on`)
    : ok('fuse-speed', `${offered} belongs here`);
}

/** working: volts of the circuit that it has to break. */
function volts(
  wanted: number | undefined,
  offered: number | undefined,
  working: number | undefined,
): FitnessRemark {
  if (working !== undefined && offered !== undefined && offered < working)
    return danger(
      'fuse-volts',
      `${offered} V is below the ${formatQuantity(working, 'V', 3)} of the circuit: an arc may stand in it when it blows`,
    );
  if (wanted === undefined)
    return warn(
      'fuse-volts',
      'volts not judged: the sheet does not say them; at least the volts of the circuit, on the mains 250 V',
    );
  if (offered === undefined) return warn('fuse-volts', `no volts written: at least ${wanted} V`);
  return offered < wanted
    ? danger(
        'fuse-volts',
        `${offered} V is below ${wanted} V: an arc may stand in it when it blows`,
      )
    : ok('fuse-volts', `${offered} V is enough`);
}

/** Amperes that it breaks: as written, else by its letter. */
function breaks({ breakingAmpere, breaking: letter, ampere: rated }: FuseSpec): number | undefined {
  if (breakingAmpere !== undefined) return breakingAmpere;
  if (letter === undefined) return undefined;
  return letter === 'L' ? Math.max(BREAKING_AMPERE.L, 10 * (rated ?? 0)) : BREAKING_AMPERE[letter];
}

function breaking(was: FuseSpec, offered: FuseSpec): FitnessRemark {
  const [wanted, own] = [breaks(was), breaks(offered)];
  if (wanted === undefined)
    return warn(
      'fuse-breaking',
      'breaking capacity not judged: take the letter (H, L) of the one that came off',
    );
  const words = was.breaking ?? ampere(wanted);
  if (own === undefined)
    return warn('fuse-breaking', `no breaking capacity written: ${words} belongs here`);
  return own < wanted * (1 - SAME)
    ? danger(
        'fuse-breaking',
        `${offered.breaking ?? ampere(own)} breaks less than the ${words} that belongs here`,
      )
    : ok('fuse-breaking', `${ampere(own)} breaks enough`);
}

function melting(wanted: number, offered: number | undefined): FitnessRemark {
  if (offered === undefined)
    return warn('fuse-melting', `no melting integral written: ${wanted} A²s came off`);
  return offered > wanted * 1.25
    ? danger(
        'fuse-melting',
        `${offered} A²s lets through more than the ${wanted} A²s that came off before it blows`,
      )
    : ok('fuse-melting', `${offered} A²s for ${wanted} A²s`);
}
