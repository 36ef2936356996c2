import type { BoardIndex } from '../board';
import type { Measurement } from './measurement';
import type { ReadingValue } from './readout';

/**
 * What a healthy slip of the finger looks like, so far beyond a board that it is asked about once.
 * Common practice, no published source.
 */
const BEYOND = {
  /** Times the largest supply, and volts beside it. */
  supplies: 2,
  volt: 5,
  /** Where no supply is known. */
  unknownVolt: 400,
  ampere: 10,
  /** The meter's own last range ends here: more reads OL. */
  ohm: 40e6,
  /** No ESR meter goes on beyond this. */
  esrOhm: 100,
  diodeVolt: 3,
} as const;

/**
 * What is odd about a value at its points, in words that can be answered by filing it all the same;
 * undefined where nothing is.
 */
export function doubtOf(
  index: BoardIndex,
  { kind }: Measurement,
  value: ReadingValue,
): string | undefined {
  if (typeof value !== 'number') return undefined;
  const size = Math.abs(value);
  switch (kind) {
    case 'voltage': {
      const most = mostVolt(index);
      return size > most
        ? `the supplies of this sheet hardly give more than ${Number(most.toPrecision(2))} V`
        : undefined;
    }
    case 'diode':
      if (size > BEYOND.diodeVolt) return 'a diode test shows OL above 3 V';
      return value < 0 ? 'a diode test reads no negative volts' : undefined;
    case 'resistance':
      return size > BEYOND.ohm
        ? 'the last range of the meter ends at 40 MΩ: more reads OL'
        : undefined;
    case 'esr':
      return size > BEYOND.esrOhm
        ? 'an ESR meter reads ohms, not farads, and few go beyond 100 Ω'
        : undefined;
    case 'current':
      return size > BEYOND.ampere ? 'more than 10 A through a control board' : undefined;
    default:
      return undefined;
  }
}

/** Volts that a board hardly has: well above its largest supply. */
function mostVolt({ board }: BoardIndex): number {
  const supplies = board.parts.flatMap((part) => {
    if (part.kind === 'voltageSource') return [Math.abs(part.volt)];
    return part.kind === 'transformer' ? [part.peakVolt] : [];
  });
  const largest = Math.max(0, ...supplies);
  return largest === 0 ? BEYOND.unknownVolt : BEYOND.supplies * largest + BEYOND.volt;
}
