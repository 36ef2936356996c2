import type { Diagnoser } from '../diagnosis';
import { setupMinutes, type CostTable } from './cost';
import { expectedInformation, outlooksByOutcome, type Outlook } from './information';
import { CATEGORY_BOUNDS, groupCount, outlooksOf, type OutlookBase } from './outlook';
import { rateOf, type WeighedMeasurement } from './weighed';

/** First readings whose bits per minute come this near to the best count as a tie. */
const TIE = 0.85;
/** How many tied readings are looked at, and among how many a second one is sought. */
const MOST_TIED = 4;
const MOST_SECOND = 10;
/** Outcomes less likely than this are not followed. */
const UNLIKELY = 0.03;

/**
 * Where the best readings are about as good as each other, looks one step further: what the best
 * second reading would add after each outcome of the first, over the minutes of
 * both. Puts the tied ones in that order, in place; weighed: best first by bits per minute. Source:
 * Heckerman, Breese & Rommelse, CACM 38(3), 1995 (look-ahead).
 */
export function lookTwoSteps(
  diagnoser: Diagnoser,
  view: OutlookBase,
  weighed: WeighedMeasurement[],
  costs: CostTable,
  absent: readonly string[],
): void {
  const tied = weighed
    .slice(0, MOST_TIED)
    .filter((one) => rateOf(one) >= TIE * rateOf(weighed[0]!));
  if (tied.length < 2) return;
  const seconds = weighed.slice(0, MOST_SECOND).map((second) => ({
    second,
    outlooks: outlooksOf(diagnoser, view, second.measurement, absent),
  }));
  const worth = new Map(
    tied.map((first, i) => [first, worthOf(first, seconds[i]!.outlooks, seconds, view, costs)]),
  );
  tied.sort((a, b) => worth.get(b)! - worth.get(a)!);
  weighed.splice(0, tied.length, ...tied);
}

/** Bits per minute of a reading with the best one after it. */
function worthOf(
  first: WeighedMeasurement,
  outlooks: readonly Outlook[],
  seconds: readonly {
    readonly second: WeighedMeasurement;
    readonly outlooks: readonly Outlook[];
  }[],
  view: OutlookBase,
  costs: CostTable,
): number {
  let bits = first.information.gainBits;
  let minutes = first.minutes;
  for (const { probability, shares } of outlooksByOutcome(
    outlooks,
    CATEGORY_BOUNDS[first.measurement.kind],
  )) {
    if (probability < UNLIKELY) continue;
    let best = { rate: 0, gain: 0, minutes: 0 };
    for (const { second, outlooks: predictions } of seconds) {
      if (second === first) continue;
      const { kind, setup } = second.measurement;
      const after = predictions.map((outlook, i) => ({ ...outlook, probability: shares[i]! }));
      const gain = expectedInformation(after, groupCount(view), CATEGORY_BOUNDS[kind]).gainBits;
      const cost = costs.reading[kind] + setupMinutes(first.measurement.setup, setup, costs);
      if (gain / cost > best.rate) best = { rate: gain / cost, gain, minutes: cost };
    }
    bits += probability * best.gain;
    minutes += probability * best.minutes;
  }
  return bits / minutes;
}
