import type { Setup } from '../board';
import type { Measurement, ReadingKind, ReadingValue, Readout } from '../instrument';
import type { Touch } from './touches';

/** One way a proposed reading may come out, in the trade's terms. */
export interface Prospect {
  readonly probability: number;
  readonly display: string;
  /** A reading that stands for it. */
  readonly value: ReadingValue;
  /** The parts that would then lead, likeliest first, with their probability. */
  readonly leading: readonly { readonly ref: string; readonly probability: number }[];
}

export interface ProposedMeasurement {
  readonly setup: Setup;
  readonly kind: ReadingKind;
  readonly at: string;
  readonly to: string;
  /** Expected information about which part it is, bits. */
  readonly gainBits: number;
  /** Minutes of work, any change of setup included. */
  readonly minutes: number;
  readonly measurement: Measurement;
  /** What a healthy board shows. */
  readonly expected: Readout;
  readonly prospects: readonly Prospect[];
  /** Why, in words: `tells F1 from L1; 0.9 bit for half a minute`. */
  readonly reason: string;
}

/** Something to be done without a meter, and the reading to be taken after it. Minutes: of both. */
export interface ProposedTouch extends ProposedMeasurement {
  readonly touch: Touch;
}
