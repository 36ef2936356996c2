import { parseFuse, slowness, type Part } from '../board';
import { formatQuantity } from '../quantity';
import { danger, ok, warn, type FitnessRemark } from './remark';
import type { OfferedPart } from './offered';

/** Currents that count as the same: what rounding in words may do. */
const SAME = 0.02;

/**
 * Judges a fuse against the one that belongs there: same current and speed, voltage and breaking
 * capacity at least as high, never a wire. A lower current or a faster fuse hurts nobody, but may
 * blow at switch-on. Source: IEC 60127-1 (markings); the rule is common practice.
 */
export function judgeFuse(original: Part, offered: OfferedPart): readonly FitnessRemark[] {
  const { fuse } = offered;
  if (fuse.isWire)
    return [
      danger(
        'fuse-wire',
        'a wire is no fuse: what should blow then is the track, the transformer or the house',
      ),
    ];
  const wanted = parseFuse(original.rating ?? '');
  return [
    current(wanted.ampere, fuse.ampere),
    ...speed(wanted.speed, fuse.speed),
    ...volts(wanted.volt, fuse.volt),
    ...breaking(wanted.breaking, fuse.breaking),
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

function speed(
  wanted: ReturnType<typeof parseFuse>['speed'],
  offered: typeof wanted,
): FitnessRemark[] {
  if (wanted === undefined)
    return offered === undefined
      ? [warn('fuse-speed', 'speed not judged: neither the old one nor the new one says it')]
      : [
          warn(
            'fuse-speed',
            `the sheet does not say which speed belongs here; ${offered} was written`,
          ),
        ];
  if (offered === undefined)
    return [warn('fuse-speed', `no speed written: ${wanted} belongs here`)];
  const slower = slowness(offered) - slowness(wanted);
  if (slower > 0)
    return [
      danger(
        'fuse-speed',
        `${offered} is slower than the ${wanted} that belongs here: the part behind it may burn first`,
      ),
    ];
  return [
    slower < 0
      ? warn(
          'fuse-speed',
          `${offered} is faster than ${wanted}: safe, but it may blow at switch-on`,
        )
      : ok('fuse-speed', `${offered} belongs here`),
  ];
}

function volts(wanted: number | undefined, offered: number | undefined): FitnessRemark[] {
  if (wanted === undefined)
    return [
      warn(
        'fuse-volts',
        'volts not judged: the sheet does not say them; at least the volts of the circuit, on the mains 250 V',
      ),
    ];
  if (offered === undefined) return [warn('fuse-volts', `no volts written: at least ${wanted} V`)];
  return [
    offered < wanted
      ? danger(
          'fuse-volts',
          `${offered} V is below ${wanted} V: an arc may stand in it when it blows`,
        )
      : ok('fuse-volts', `${offered} V is enough`),
  ];
}

function breaking(
  wanted: ReturnType<typeof parseFuse>['breaking'],
  offered: typeof wanted,
): FitnessRemark[] {
  if (wanted === undefined)
    return [
      warn(
        'fuse-breaking',
        'breaking capacity not judged: take the letter (H, L) of the one that came off',
      ),
    ];
  if (offered === undefined)
    return [warn('fuse-breaking', `no breaking capacity written: ${wanted} belongs here`)];
  const order = ['L', 'E', 'H'];
  return [
    order.indexOf(offered) < order.indexOf(wanted)
      ? danger('fuse-breaking', `${offered} breaks less than the ${wanted} that belongs here`)
      : ok('fuse-breaking', `${offered} breaks enough`),
  ];
}
