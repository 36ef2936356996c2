import { PULSING_AT, scaled, type Belief, type Diagnoser, type Scaled } from '../diagnosis';
import type { Hypothesis } from '../fault';
import { STANDARD_METER as METER, type Measurement, type ReadingKind, type Response } from '../instrument';
import { expectedInformation, type Information, type Outlook } from './information';

/** Hypotheses below this probability are left out of the outlook: they cannot move a decision. */
const NEGLIGIBLE = 2e-4;
/** With more hypotheses than this in play, one severity stands for each: the field is wide open and detail does not matter yet. */
const MANY = 120;

/** So too where there are so many readings to weigh that they would have to be predicted more often than this. */
const MOST_PREDICTIONS = 60_000;

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

/** What still counts after a belief: hypotheses too unlikely to move a decision are left out. readings: how many are to be weighed. */
export function outlookBase(belief: Belief, readings: number): OutlookBase {
  const kept = belief.suspects.filter(({ probability }) => probability >= NEGLIGIBLE);
  const refs = [...new Set(kept.map(({ hypothesis }) => hypothesis.refs[0]!))];
  const position = new Map(refs.map((ref, i) => [ref, i]));
  const total = kept.reduce((sum, { probability }) => sum + probability, 0) + belief.healthy + belief.unmodelled;
  const wideField = kept.length > MANY || kept.length * readings > MOST_PREDICTIONS;
  const entries = kept.map(({ hypothesis, probability }) => {
    const severities = standIns(hypothesis, wideField);
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
  let latest = { response, predicted: predictedBy(m.kind, response) };
  const outlooks: Outlook[] = [
    { group: view.refs.length, probability: view.healthy, predicted: latest.predicted },
    { group: view.refs.length + 1, probability: view.unmodelled, predicted: undefined },
  ];
  for (const { hypothesis, severities, group, probability } of view.entries) {
    for (const i of severities) {
      const answer = predictor.at(hypothesis, i, m, absent);
      if (answer !== latest.response) latest = { response: answer, predicted: predictedBy(m.kind, answer) };
      outlooks.push({ group, probability: probability / severities.length, predicted: latest.predicted });
    }
  }
  return outlooks;
}

/** What everything that may be so predicts for each of these readings, in their order: as `outlooksOf`, but what one group predicts alike taken together. Asks one faulty
 *  board after another, so that each is factored once and not once a reading. Yields the share done. */
export function* foresee(
  { predictor }: Diagnoser,
  view: OutlookBase,
  measurements: readonly Measurement[],
  absent: readonly string[],
): Generator<number, readonly (readonly Outlook[])[]> {
  const groups = view.refs.length;
  const bySetup = [...measurements.keys()].sort((a, b) => compare(measurements[a]!.setup, measurements[b]!.setup));
  const sound = measurements.map((m) => predictor.healthy(m, absent));
  /** By reading and group: the probability of what predicts the sound board's answer. */
  const unmoved = new Float64Array(measurements.length * groups);
  const moved = measurements.map((): Moved[] => []);
  for (const [e, { hypothesis, severities, group, probability }] of view.entries.entries()) {
    const share = probability / severities.length;
    for (const i of severities) {
      for (let k = 0; k < bySetup.length; k += 1) {
        const at = bySetup[k]!;
        const answer = predictor.at(hypothesis, i, measurements[at]!, absent);
        const last = moved[at]!.at(-1);
        if (answer === sound[at]) unmoved[at * groups + group]! += share;
        else if (last?.answer === answer && last.group === group) last.probability += share;
        else moved[at]!.push({ group, answer, probability: share });
        if (k % 16 === 15) yield e / view.entries.length;
      }
    }
  }
  return measurements.map(({ kind }, at) => {
    const predicted = predictedBy(kind, sound[at]!);
    const outlooks: Outlook[] = [
      { group: groups, probability: view.healthy, predicted },
      { group: groups + 1, probability: view.unmodelled, predicted: undefined },
    ];
    for (let group = 0; group < groups; group += 1) {
      const probability = unmoved[at * groups + group]!;
      if (probability > 0) outlooks.push({ group, probability, predicted });
    }
    for (const { group, probability, answer } of moved[at]!) outlooks.push({ group, probability, predicted: predictedBy(kind, answer) });
    return outlooks;
  });
}

/** An answer that is not the sound board's, and what of one group's probability predicts it. */
interface Moved {
  readonly group: number;
  readonly answer: Response;
  probability: number;
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** An answer on its kind's natural scale; undefined where nobody knows it. */
function predictedBy(kind: ReadingKind, answer: Response): Scaled | undefined {
  const predicted = scaled(kind, answer);
  return predicted.unknown ? undefined : predicted;
}

/** Number of groups that outlooks of this view speak of: the suspects, healthy, "none of these". */
export const groupCount = (view: OutlookBase): number => view.refs.length + 2;

export function informationOf(outlooks: readonly Outlook[], view: OutlookBase, { kind }: Measurement): Information {
  return expectedInformation(outlooks, groupCount(view), CATEGORY_BOUNDS[kind]);
}

/** Where the outcomes of a reading part that is a category and not a number, on its natural scale. */
export const CATEGORY_BOUNDS: Partial<Record<ReadingKind, readonly number[]>> = {
  logic: [METER.logicLowVolt, METER.logicHighVolt, PULSING_AT / 2],
  continuity: [METER.continuityOhm],
  symptom: [0.5],
};
