import type { Diagnoser } from '../diagnosis';
import { setupMinutes, type CostTable } from './cost';
import { expectedInformation, outlooksByOutcome, type Information, type Outlook } from './information';
import { CATEGORY_BOUNDS, groupCount, outlooksOf, type OutlookBase } from './outlook';
import type { ProposedMeasurement } from './proposal';

interface Proposal {
  readonly proposal: ProposedMeasurement;
  readonly information: Information;
}

/** First readings whose bits per minute come this near to the best count as a tie. */
const TIE = 0.85;
/** How many tied readings are looked at, and among how many a second one is sought. */
const MOST_TIED = 4;
const MOST_SECOND = 10;
/** Outcomes less likely than this are not followed. */
const UNLIKELY = 0.03;

/** Where the best readings are about as good as each other, looks one step further: what the best second reading would add after each outcome of the first, over the minutes of
 *  both. Puts the tied ones in that order, in place; proposals: best first by bits per minute. Source: Heckerman, Breese & Rommelse, CACM 38(3), 1995 (look-ahead). */
export function lookTwoSteps(diagnoser: Diagnoser, view: OutlookBase, proposals: Proposal[], costs: CostTable, absent: readonly string[]): void {
  const rate = ({ proposal }: Proposal): number => proposal.gainBits / proposal.minutes;
  const tied = proposals.slice(0, MOST_TIED).filter((one) => rate(one) >= TIE * rate(proposals[0]!));
  if (tied.length < 2) return;
  const seconds = proposals.slice(0, MOST_SECOND).map(({ proposal }) => ({ proposal, outlooks: outlooksOf(diagnoser, view, proposal.measurement, absent) }));
  const worth = new Map(tied.map((first, i) => [first, worthOf(first, seconds[i]!.outlooks, seconds, view, costs)]));
  tied.sort((a, b) => worth.get(b)! - worth.get(a)!);
  proposals.splice(0, tied.length, ...tied);
}

/** Bits per minute of a reading with the best one after it. */
function worthOf(
  { proposal: first }: Proposal,
  outlooks: readonly Outlook[],
  seconds: readonly { readonly proposal: ProposedMeasurement; readonly outlooks: readonly Outlook[] }[],
  view: OutlookBase,
  costs: CostTable,
): number {
  let bits = first.gainBits;
  let minutes = first.minutes;
  for (const { probability, shares } of outlooksByOutcome(outlooks, CATEGORY_BOUNDS[first.kind])) {
    if (probability < UNLIKELY) continue;
    let best = { rate: 0, gain: 0, minutes: 0 };
    for (const { proposal, outlooks: predictions } of seconds) {
      if (proposal === first) continue;
      const after = predictions.map((outlook, i) => ({ ...outlook, probability: shares[i]! }));
      const gain = expectedInformation(after, groupCount(view), CATEGORY_BOUNDS[proposal.kind]).gainBits;
      const cost = costs.reading[proposal.kind] + setupMinutes(first.setup, proposal.setup, costs);
      if (gain / cost > best.rate) best = { rate: gain / cost, gain, minutes: cost };
    }
    bits += probability * best.gain;
    minutes += probability * best.minutes;
  }
  return bits / minutes;
}
