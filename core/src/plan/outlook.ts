import { PULSING_AT, scaled, type Belief, type Diagnoser } from '../diagnosis';
import type { Hypothesis } from '../fault';
import { STANDARD_METER as METER, type Measurement, type ReadingKind } from '../instrument';
import { expectedInformation, type Information, type Outlook } from './information';

/** Hypotheses below this probability are left out of the outlook: they cannot move a decision. */
const NEGLIGIBLE = 2e-4;
/** With more hypotheses than this in play, one severity stands for each: the field is wide open and detail does not matter yet. */
const MANY = 120;

/** The hypotheses that still count, by group, with what stands for their severities. */
export interface OutlookBase {
  readonly entries: readonly {
    readonly hypothesis: Hypothesis;
    readonly severities: readonly number[];
    readonly group: number;
    readonly probability: number;
  }[];
  readonly refs: readonly string[];
  readonly healthy: number;
  readonly unmodelled: number;
}

/** What still counts after a belief: hypotheses too unlikely to move a decision are left out. */
export function outlookBase(belief: Belief): OutlookBase {
  const kept = belief.suspects.filter(({ probability }) => probability >= NEGLIGIBLE);
  const refs = [...new Set(kept.map(({ hypothesis }) => hypothesis.refs[0]!))];
  const position = new Map(refs.map((ref, i) => [ref, i]));
  const total = kept.reduce((sum, { probability }) => sum + probability, 0) + belief.healthy + belief.unmodelled;
  const entries = kept.map(({ hypothesis, probability }) => {
    const severities = standIns(hypothesis, kept.length > MANY);
    const group = position.get(hypothesis.refs[0]!)!;
    return { hypothesis, severities, group, probability: probability / total };
  });
  return { entries, refs, healthy: belief.healthy / total, unmodelled: belief.unmodelled / total };
}

/** Which severities of a hypothesis stand for it in a plan: alternatives all count, a range by its ends and its middle; one is enough in a wide field. */
function standIns({ severities, discrete }: Hypothesis, wideField: boolean): readonly number[] {
  const middle = (severities.length - 1) >> 1;
  if (wideField) return [middle];
  return discrete ? severities.map((_, i) => i) : [...new Set([0, middle, severities.length - 1])];
}

/** What everything that may be so predicts for a reading: healthy first, then "none of these", then the entries with each of their severities, always in this order. */
export function outlooksOf({ predictor }: Diagnoser, view: OutlookBase, m: Measurement, absent: readonly string[]): Outlook[] {
  const response = predictor.healthy(m, absent);
  const sound = scaled(m.kind, response);
  let latest = { response, predicted: sound.unknown ? undefined : sound };
  const outlooks: Outlook[] = [
    { group: view.refs.length, probability: view.healthy, predicted: latest.predicted },
    { group: view.refs.length + 1, probability: view.unmodelled, predicted: undefined },
  ];
  for (const { hypothesis, severities, group, probability } of view.entries) {
    for (const i of severities) {
      const answer = predictor.at(hypothesis, i, m, absent);
      if (answer !== latest.response) {
        const predicted = scaled(m.kind, answer);
        latest = { response: answer, predicted: predicted.unknown ? undefined : predicted };
      }
      outlooks.push({ group, probability: probability / severities.length, predicted: latest.predicted });
    }
  }
  return outlooks;
}

/** Works out what `outlooksOf` will ask for all these readings, one faulty board after another: each is then factored once and not once a reading. Yields the share done. */
export function* foresee(
  { predictor }: Diagnoser,
  view: OutlookBase,
  measurements: readonly Measurement[],
  absent: readonly string[],
): Generator<number, void> {
  const bySetup = [...measurements].sort((a, b) => (a.setup < b.setup ? -1 : a.setup > b.setup ? 1 : 0));
  for (const [e, { hypothesis, severities }] of view.entries.entries()) {
    for (const i of severities) {
      for (const [k, m] of bySetup.entries()) {
        predictor.at(hypothesis, i, m, absent);
        if (k % 16 === 15) yield e / view.entries.length;
      }
    }
  }
}

/** Number of groups that outlooks of this view speak of: the suspects, healthy, "none of these". */
export const groupCount = (view: OutlookBase): number => view.refs.length + 2;

export function informationOf(diagnoser: Diagnoser, view: OutlookBase, m: Measurement, absent: readonly string[]): Information {
  return expectedInformation(outlooksOf(diagnoser, view, m, absent), groupCount(view), CATEGORY_BOUNDS[m.kind]);
}

/** Where the outcomes of a reading part that is a category and not a number, on its natural scale. */
export const CATEGORY_BOUNDS: Partial<Record<ReadingKind, readonly number[]>> = {
  logic: [METER.logicLowVolt, METER.logicHighVolt, PULSING_AT / 2],
  continuity: [METER.continuityOhm],
  symptom: [0.5],
};
