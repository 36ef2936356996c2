import type { Evidence } from './joints';
import type { Predictor } from './prediction';
import { addTo, peak } from './reading-rows';
import { FINE, fineLikelihood, logMeanRefined } from './severity-grid';
import type { SharedLevels } from './shared-levels';

/**
 * Faults of which a closer look is taken at the severity, and where: a neighbour on the grid
 * explains the readings worse by so much, nats.
 */
const MOST_CLOSER = 60;
const SHARP_NATS = 1;

/**
 * Positions of the singles over a range of severities that count, and of which the readings ask for
 * one severity more sharply than the grid has it. scores: prior and mean together, nats.
 */
export function worthACloserLook(
  { singles, totals }: Evidence,
  scores: Float64Array,
): readonly number[] {
  const order = [...singles.keys()].sort((a, b) => scores[b]! - scores[a]!).slice(0, MOST_CLOSER);
  return order.filter((h) => {
    const { severities, discrete } = singles[h]!;
    if (discrete || severities.length < 2) return false;
    const total = totals[h]!;
    const at = peak(total);
    return [at - 1, at + 1].every((i) => !(total[i]! > total[at]! - SHARP_NATS));
  });
}

/** ln of the mean likelihood of a single over its severities, looked at closely about its peak. */
export function refinedMean(
  { readings, singles, totals, rows }: Evidence,
  h: number,
  predictor: Predictor,
  voltSpan: number,
  shared: SharedLevels,
): number {
  const [single, total] = [singles[h]!, totals[h]!];
  const at = peak(total);
  const fine = new Float64Array(2 * FINE);
  readings.forEach((reading, r) => {
    const { measurement: m, absent } = reading;
    // An ESR of which no sheet tells is wide anyway.
    if (shared.has(r)) addTo(fine, new Float64Array(fine.length).fill(rows[r]!.rows[h]![at]!));
    else
      addTo(
        fine,
        fineLikelihood(
          reading,
          predictor.under(single, m, absent),
          single.severities,
          at,
          voltSpan,
        ),
      );
  });
  return logMeanRefined(total, at, fine);
}
