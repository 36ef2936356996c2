import {
  PULSING_AT,
  scaled,
  type Asked,
  type Belief,
  type Diagnoser,
  type Scaled,
} from '../diagnosis';
import type { Hypothesis } from '../fault';
import {
  STANDARD_METER as METER,
  type Measurement,
  type ReadingKind,
  type Response,
} from '../instrument';
import {
  expectedInformation,
  mostInformation,
  type Information,
  type Outlook,
} from './information';

/** Hypotheses below this probability are left out of the outlook: they cannot move a decision. */
const NEGLIGIBLE = 2e-4;
/**
 * With more hypotheses than this in play, one severity stands for each: the field is wide open and
 * detail does not matter yet.
 */
const MANY = 120;

/**
 * So too where there are so many readings to weigh that they would have to be predicted more often
 * than this.
 */
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

/**
 * What still counts after a belief: hypotheses too unlikely to move a decision are left out.
 * readings: how many are to be weighed. most: of the likeliest, where not all; then one severity
 * stands for each.
 */
export function outlookBase(belief: Belief, readings: number, most?: number): OutlookBase {
  const kept = belief.suspects
    .filter(({ probability }) => probability >= NEGLIGIBLE)
    .slice(0, most);
  const refs = [...new Set(kept.map(({ hypothesis }) => hypothesis.refs[0]!))];
  const position = new Map(refs.map((ref, i) => [ref, i]));
  const total =
    kept.reduce((sum, { probability }) => sum + probability, 0) +
    belief.healthy +
    belief.unmodelled;
  const wideField =
    most !== undefined || kept.length > MANY || kept.length * readings > MOST_PREDICTIONS;
  const entries = kept.map(({ hypothesis, probability }) => {
    const severities = standIns(hypothesis, wideField);
    const group = position.get(hypothesis.refs[0]!)!;
    return { hypothesis, severities, group, probability: probability / total };
  });
  return { entries, refs, healthy: belief.healthy / total, unmodelled: belief.unmodelled / total };
}

/**
 * Which severities of a hypothesis stand for it in a plan: alternatives all count, a range by its
 * ends and its middle; one is enough in a wide field.
 */
function standIns({ severities, discrete }: Hypothesis, wideField: boolean): readonly number[] {
  const middle = (severities.length - 1) >> 1;
  if (wideField) return [middle];
  return discrete ? severities.map((_, i) => i) : [...new Set([0, middle, severities.length - 1])];
}

/**
 * What everything that may be so predicts for a reading: healthy first, then "none of these", then
 * the entries with each of their severities, always in this order.
 */
export function outlooksOf(
  { predictor }: Diagnoser,
  view: OutlookBase,
  m: Measurement,
  absent: readonly string[],
): Outlook[] {
  const response = predictor.healthy(m, absent);
  let latest = { response, predicted: predictedBy(m.kind, response) };
  const outlooks: Outlook[] = [
    { group: view.refs.length, probability: view.healthy, predicted: latest.predicted },
    { group: view.refs.length + 1, probability: view.unmodelled, predicted: undefined },
  ];
  for (const { hypothesis, severities, group, probability } of view.entries) {
    for (const i of severities) {
      const answer = predictor.at(hypothesis, i, m, absent);
      if (answer !== latest.response)
        latest = { response: answer, predicted: predictedBy(m.kind, answer) };
      outlooks.push({
        group,
        probability: probability / severities.length,
        predicted: latest.predicted,
      });
    }
  }
  return outlooks;
}

/**
 * What everything that may be so predicts for each of these readings, in their order: as
 * `outlooksOf`, but what one group predicts alike taken together; undefined for
 * readings that cannot tell as much as `leastBits`. Asks one faulty board after another, so that
 * each is factored once and not once a reading. Yields the share done.
 */
export function* foresee(
  { predictor }: Diagnoser,
  view: OutlookBase,
  measurements: readonly Measurement[],
  absent: readonly string[],
  leastBits = 0,
): Generator<number, readonly (readonly Outlook[] | undefined)[]> {
  const foreseen = measurements.map(
    (m) => new Foreseen(predictor.ask(m, absent), view.refs.length),
  );
  const bySetup = [...foreseen].sort((a, b) => compare(a.asked.m.setup, b.asked.m.setup));
  for (const [e, { hypothesis, severities, group, probability }] of view.entries.entries()) {
    for (const i of severities) {
      const answering = predictor.answering(hypothesis, i);
      for (let from = 0; from < bySetup.length; from += READINGS_A_TURN) {
        for (const one of bySetup.slice(from, from + READINGS_A_TURN))
          one.take(answering(one.asked), group, probability / severities.length);
        yield e / view.entries.length;
      }
    }
  }
  return foreseen.map((one) => (one.mostBits(view) < leastBits ? undefined : one.outlooks(view)));
}

/** Readings asked between two yields. */
const READINGS_A_TURN = 16;

/** What is foreseen for one reading. */
class Foreseen {
  /** By group: the probability of what predicts the sound board's answer. */
  private readonly unmoved: Float64Array;
  private readonly moved: Moved[] = [];

  constructor(
    readonly asked: Asked,
    groups: number,
  ) {
    this.unmoved = new Float64Array(groups);
  }

  take(answer: Response, group: number, probability: number): void {
    const { moved, unmoved } = this;
    const last = moved[moved.length - 1];
    if (answer === this.asked.healthy) unmoved[group]! += probability;
    else if (last?.answer === answer && last.group === group) last.probability += probability;
    else moved.push({ group, answer, probability });
  }

  /** More than this the reading cannot tell. */
  mostBits({ unmodelled }: OutlookBase): number {
    let others = unmodelled;
    for (const { probability } of this.moved) others += probability;
    return mostInformation(Math.min(1, others), this.moved.length + 1);
  }

  outlooks({ healthy, unmodelled }: OutlookBase): readonly Outlook[] {
    const { unmoved, moved, asked } = this;
    const { kind } = asked.m;
    const groups = unmoved.length;
    const predicted = predictedBy(kind, asked.healthy);
    const outlooks: Outlook[] = [
      { group: groups, probability: healthy, predicted },
      { group: groups + 1, probability: unmodelled, predicted: undefined },
    ];
    for (let group = 0; group < groups; group += 1) {
      const probability = unmoved[group]!;
      if (probability > 0) outlooks.push({ group, probability, predicted });
    }
    for (const { group, probability, answer } of moved)
      outlooks.push({ group, probability, predicted: predictedBy(kind, answer) });
    return outlooks;
  }
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

export function informationOf(
  outlooks: readonly Outlook[],
  view: OutlookBase,
  { kind }: Measurement,
): Information {
  return expectedInformation(outlooks, groupCount(view), CATEGORY_BOUNDS[kind]);
}

/**
 * Where the outcomes of a reading part that is a category and not a number, on its natural scale.
 */
export const CATEGORY_BOUNDS: Partial<Record<ReadingKind, readonly number[]>> = {
  logic: [METER.logicLowVolt, METER.logicHighVolt, PULSING_AT / 2],
  continuity: [METER.continuityOhm],
  symptom: [0.5],
};
