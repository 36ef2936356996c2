import type { Part } from '../board';
import { formatCompact } from '../quantity';
import { judgeCapacitor } from './capacitor-fit';
import { judgeFuse } from './fuse-fit';
import type { OfferedPart } from './offered';
import { danger, ok, stop, warn, type FitnessRemark } from './remark';

/** What is known of the place that a part goes to. */
export interface Place {
  /** A leg lies on the mains. */
  readonly onMains: boolean;
  /** Volts across the part with the power on, where the circuit tells. */
  readonly workingVolt?: number | undefined;
}

/**
 * Judges a replacement against the part it is to replace. What was not judged is said so and is
 * never green. Common practice, no published source, where none is named.
 */
export function judgeReplacement(
  original: Part,
  offered: OfferedPart,
  place: Place = { onMains: false },
): readonly FitnessRemark[] {
  switch (original.kind) {
    case 'capacitor':
      return judgeCapacitor(original, offered, place.onMains, place.workingVolt);
    case 'resistor':
      return judgeResistor(original, offered);
    case 'fuse':
      return judgeFuse(original, offered);
    default:
      return [
        warn(
          'not-judged',
          'not judged: compare type, pin-out and ratings with the one that came off',
        ),
      ];
  }
}

/** Words that say a resistor is there to burn safely. */
const FUSIBLE = /\b(fusible|fusing|safety)\b/i;
const FLAMEPROOF = /\b(flame-?proof|fire-?proof|metal[ -]oxide)\b/i;

function judgeResistor(
  original: Extract<Part, { kind: 'resistor' }>,
  offered: OfferedPart,
): readonly FitnessRemark[] {
  const words = [original.role, original.note, original.rating, original.package].join(' ');
  const remarks: FitnessRemark[] = [resistance(original, offered), watts(words, offered)];
  if (FUSIBLE.test(words))
    remarks.push(
      offered.fusible
        ? ok('fusible', 'fusible, as it must be')
        : danger(
            'fusible',
            'a fusible resistor belongs here: another one burns where this one opens',
          ),
    );
  if (FLAMEPROOF.test(words))
    remarks.push(
      offered.flameproof || offered.fusible
        ? ok('fusible', 'flameproof, as it must be')
        : danger('fusible', 'a flameproof resistor belongs here'),
    );
  return remarks;
}

function resistance(
  original: Extract<Part, { kind: 'resistor' }>,
  offered: OfferedPart,
): FitnessRemark {
  if (original.unknown)
    return warn('value', 'value not judged: the sheet does not say what came off');
  const wanted = formatCompact(original.resistanceOhm, 'ohm');
  if (offered.value === undefined)
    return warn('value', `no value written: the board wants ${wanted}`);
  const margin = original.tolerance ?? 0.05;
  const fits = Math.abs(offered.value / original.resistanceOhm - 1) <= margin + 1e-9;
  const written = formatCompact(offered.value, 'ohm');
  return fits
    ? ok('value', `${written} fits ${wanted}`)
    : stop('value', `${written} is not ${wanted}`);
}

function watts(words: string, { watt }: OfferedPart): FitnessRemark {
  const was = /(\d+(?:\.\d+)?)\s*W\b/.exec(words)?.[1];
  if (was === undefined)
    return warn(
      'watts',
      'watts not judged: the sheet does not say them; no smaller body than the one that came off',
    );
  if (watt === undefined) return warn('watts', `no watts written: at least ${was} W`);
  return watt < Number(was)
    ? stop('watts', `${watt} W is below ${was} W`)
    : ok('watts', `${watt} W is enough (${was} W came off)`);
}
