import type { Measurement } from '../instrument';
import type { Information } from './information';

/**
 * A reading that could be taken, what it would tell, and the minutes it takes, any change of setup
 * included.
 */
export interface WeighedMeasurement {
  readonly measurement: Measurement;
  readonly information: Information;
  readonly minutes: number;
}

/** Bits a minute. */
export const rateOf = ({ information: { gainBits }, minutes }: WeighedMeasurement): number =>
  gainBits / minutes;
