import { nameKey, replaceableRef, type Part } from '../board';
import { jointHypothesis, type JointHypothesis, type SingleHypothesis } from '../fault';
import type { Reading } from '../instrument';
import type { Cause } from './causes';
import { best, peak, type ReadingRows } from './reading-rows';
import { gridSize, logMeanExp } from './severity-grid';

/**
 * What the singles say so far. rows: by reading; totals[h]: their sum for single h over its grid.
 */
export interface Evidence {
  readonly readings: readonly Reading[];
  readonly singles: readonly SingleHypothesis[];
  readonly totals: readonly Float64Array[];
  readonly rows: readonly ReadingRows[];
  /** What may have opened each fault that opens something, by position. */
  readonly causes: ReadonlyMap<number, readonly Cause[]>;
}

/** Several faults at once, with where they stand among the singles and on their grids. */
export interface Joint {
  readonly hypothesis: JointHypothesis;
  readonly positions: readonly number[];
  readonly peaks: readonly number[];
}

/**
 * Share of faulty boards that have two faults. From memory of bench practice with units stored for
 * years.
 */
const DOUBLE_SHARE = 0.1;
/**
 * Two parts of one cohort (same kind, value and year) fail together this much more often than
 * chance would have it. From memory of bench practice.
 */
const COHORT_FACTOR = 12;
/** A reading is unexplained by a hypothesis where another explains it this much better, nats. */
const UNEXPLAINED = 4;
/** Leading singles by belief, and for each unexplained reading, from which doubles are built. */
const LEADING = 7;
const LEADING_PER_READING = 4;
const MOST_SINGLES = 20;
/** Pairs that are worked out in full. */
const MOST_PAIRS = 16;

/** Victims whose causes are looked at, and causes of each. */
const MOST_VICTIMS = 4;
const CAUSES_EACH = 6;
/** A fault below this share of the leader's belief, nats, is not asked for its cause. */
const VICTIM_WITHIN = 4;

/**
 * The pairs of faults worth looking at. While a single fault explains every reading: that fault
 * with what may have caused it. Else also pairs of the leading singles and of what explains the
 * readings that the leaders leave over, with brothers of the leaders.
 */
export function pairsFor(evidence: Evidence): readonly Joint[] {
  const { readings, singles } = evidence;
  if (readings.length === 0) return [];
  const { scores, order } = ranked(evidence);
  const left = leftOver(evidence.rows, atPeak(evidence, order[0]!));
  const caused = causedPairs(evidence, order, scores, left);
  if (left.length === 0 || readings.length < 2) return built(evidence, caused);
  const chosen = new Set(order.slice(0, LEADING));
  for (const r of left)
    for (const h of bestFor(evidence, r).slice(0, LEADING_PER_READING)) chosen.add(h);
  for (const h of order.slice(0, 3))
    brothersOf(singles, h)
      .slice(0, 4)
      .forEach((brother) => chosen.add(brother));
  return built(evidence, [...caused, ...pairs(evidence, [...chosen].slice(0, MOST_SINGLES))]);
}

/** Singles by how well they explain one reading, what they are worth beforehand included. */
function bestFor({ singles, rows }: Evidence, r: number): number[] {
  const own = rows[r]!.bests.map((best, h) => Math.log(singles[h]!.prior) + best);
  return [...own.keys()].sort((a, b) => own[b]! - own[a]!);
}

/**
 * One or more faults at chosen severities, with what each reading says of them (nats), and what all
 * of them say with their prior.
 */
export interface Base {
  readonly joint: Joint;
  readonly byReading: readonly number[];
  readonly score: number;
}

/** Explanations that another fault is looked for beside, and faults tried beside each. */
const MOST_BASES = 2;
const TRIED_BESIDE = 12;
/** Another fault must promise so much better an explanation to be tried, nats. */
const WORTH_TRYING = 3;

/**
 * The leading single faults, each at the severity that suits it best, for a second one to be looked
 * for on the board with it.
 */
export function leadingSingles(evidence: Evidence): readonly Base[] {
  const { scores, order } = ranked(evidence);
  return order.slice(0, MOST_BASES).map((h): Base => {
    const at = peak(evidence.totals[h]!);
    const single = evidence.singles[h]!;
    const hypothesis = jointHypothesis([single], [severityAt(single, at)], single.prior);
    return {
      joint: { hypothesis, positions: [h], peaks: [at] },
      byReading: atPeak(evidence, h),
      score: scores[h]!,
    };
  });
}

/** What prior and readings say of each single, nats, and its positions with the likeliest first. */
function ranked({ singles, totals }: Evidence): {
  readonly scores: readonly number[];
  readonly order: readonly number[];
} {
  const scores = totals.map((total, i) => Math.log(singles[i]!.prior) + logMeanExp(total));
  return { scores, order: [...scores.keys()].sort((a, b) => scores[b]! - scores[a]!) };
}

/** What each reading says of a single at the severity that suits it best. */
function atPeak({ totals, rows }: Evidence, h: number): readonly number[] {
  const at = peak(totals[h]!);
  return rows.map((own) => own.rows[h]![at]!);
}

/**
 * Faults worth trying beside the leading explanations, on the board with those in it: they explain
 * something that is left over, as far as each alone tells.
 */
export function worthTrying(
  evidence: Evidence,
  bases: readonly Base[],
): readonly { readonly base: Base; readonly h: number }[] {
  const { rows, singles } = evidence;
  const leaders = [...bases].sort((a, b) => b.score - a.score).slice(0, MOST_BASES);
  const leavesSome = ({ byReading }: Base): boolean => leftOver(rows, byReading).length > 0;
  // Where the likeliest explains everything nothing more is looked for.
  if (!leaders[0] || !leavesSome(leaders[0])) return [];
  return leaders.filter(leavesSome).flatMap((base) => {
    const { joint, byReading } = base;
    const sofar = byReading.reduce((sum, value) => sum + value, 0);
    const promises = singles.flatMap((single, h) => {
      if (
        joint.positions.includes(h) ||
        joint.hypothesis.members.some(
          (member) => sameSite(member, single) || (member.sheet && single.sheet),
        )
      )
        return [];
      const promised = best(besideSums(rows, h, byReading));
      return promised < sofar + WORTH_TRYING
        ? []
        : [{ base, h, score: Math.log(beside(evidence, single)) + promised }];
    });
    return promises.sort((a, b) => b.score - a.score).slice(0, TRIED_BESIDE);
  });
}

/** An explanation with one fault more, at a point of its grid. */
export function withOneMore(evidence: Evidence, { joint }: Base, h: number, point: number): Joint {
  const { singles } = evidence;
  const positions = [...joint.positions, h].sort((a, b) => a - b);
  const at = (position: number): number => joint.positions.indexOf(position);
  const states = positions.map((p) =>
    p === h ? severityAt(singles[h]!, point) : joint.hypothesis.states[at(p)]!.severity!,
  );
  const hypothesis = jointHypothesis(
    positions.map((p) => singles[p]!),
    states,
    joint.hypothesis.prior * beside(evidence, singles[h]!),
  );
  return {
    hypothesis,
    positions,
    peaks: positions.map((p) => (p === h ? point : joint.peaks[at(p)]!)),
  };
}

/**
 * How well a single explains what others leave, at each of its points. byReading: what they say.
 */
function besideSums(
  rows: readonly ReadingRows[],
  h: number,
  byReading: readonly number[],
): Float64Array {
  const sums = new Float64Array(rows[0]!.rows[h]!.length);
  rows.forEach(({ rows: own }, r) =>
    own[h]!.forEach((value, i) => (sums[i]! += Math.max(value, byReading[r]!))),
  );
  return sums;
}

/** Chance of a fault beside others that are there already. */
function beside({ singles }: Evidence, { prior, sheet }: SingleHypothesis): number {
  if (sheet) return sheet.chance;
  return DOUBLE_SHARE * (prior / faultyShare(singles));
}

const faultyShare = (singles: readonly SingleHypothesis[]): number =>
  singles.reduce((sum, { prior, sheet }) => sum + (sheet ? 0 : prior), 0);

/** Two faults that may be there at once, by position, the first before the second. */
interface Candidate {
  readonly h: number;
  readonly k: number;
  readonly prior: number;
}

/**
 * Pairs of an effect and its cause: the effects that lead, and those that explain what the leader
 * leaves over, each with the causes that the readings allow best.
 */
function causedPairs(
  { singles, rows, totals, causes }: Evidence,
  order: readonly number[],
  scores: readonly number[],
  left: readonly number[],
): readonly Candidate[] {
  const leading = order
    .filter((h) => causes.has(h) && scores[h]! > scores[order[0]!]! - VICTIM_WITHIN)
    .slice(0, MOST_VICTIMS);
  const others = left.flatMap((r) => {
    const { bests } = rows[r]!;
    const own = [...causes.keys()].sort(
      (a, b) => bests[b]! - bests[a]! || singles[b]!.prior - singles[a]!.prior,
    );
    return own.slice(0, 2);
  });
  return [...new Set([...leading, ...others])].flatMap((victim) => {
    const at = peak(totals[victim]!);
    const promised = causes.get(victim)!.map(({ culprit, chance }) => {
      const fits = rows.reduce(
        (sum, { rows: own, bests }) => sum + Math.max(own[victim]![at]!, bests[culprit]!),
        0,
      );
      return {
        culprit,
        prior: singles[culprit]!.prior * chance,
        score: fits + Math.log(singles[culprit]!.prior),
      };
    });
    return promised
      .sort((a, b) => b.score - a.score)
      .slice(0, CAUSES_EACH)
      .map(({ culprit, prior }): Candidate => ({
        h: Math.min(victim, culprit),
        k: Math.max(victim, culprit),
        prior,
      }));
  });
}

/**
 * Pairs with the severities that the readings ask for once both are there: each reading is
 * explained by the better of the two.
 */
function built(
  { singles, totals, rows }: Evidence,
  candidates: readonly Candidate[],
): readonly Joint[] {
  const likeliest = new Map<string, Candidate>();
  for (const one of candidates) {
    const key = `${one.h} ${one.k}`;
    if (one.prior > (likeliest.get(key)?.prior ?? 0)) likeliest.set(key, one);
  }
  return [...likeliest.values()].map(({ h, k, prior }): Joint => {
    const peaks: [number, number] = [peak(totals[h]!), peak(totals[k]!)];
    for (let round = 0; round < 2; round += 1) {
      peaks[1] = peak(
        besideSums(
          rows,
          k,
          rows.map((own) => own.rows[h]![peaks[0]]!),
        ),
      );
      peaks[0] = peak(
        besideSums(
          rows,
          h,
          rows.map((own) => own.rows[k]![peaks[1]]!),
        ),
      );
    }
    const states = [severityAt(singles[h]!, peaks[0]), severityAt(singles[k]!, peaks[1])];
    return {
      hypothesis: jointHypothesis([singles[h]!, singles[k]!], states, prior),
      positions: [h, k],
      peaks,
    };
  });
}

/**
 * Readings that a healthy board or something else explains much better than these explanations of
 * theirs.
 */
function leftOver(rows: readonly ReadingRows[], byReading: readonly number[]): number[] {
  return rows.flatMap((own, r) =>
    byReading[r]! < Math.max(best(own.healthy), best(own.bests)) - UNEXPLAINED ? [r] : [],
  );
}

/**
 * The pairs of these that promise most: each reading is at best explained as well as the better of
 * the two explains it alone.
 */
function pairs(evidence: Evidence, chosen: readonly number[]): readonly Candidate[] {
  const { singles, totals, rows: known } = evidence;
  const faulty = faultyShare(singles);
  const peaks = new Map(chosen.map((h) => [h, peak(totals[h]!)]));
  const promise = (h: number, k: number): number =>
    known.reduce(
      (sum, { rows }) => sum + Math.max(rows[h]![peaks.get(h)!]!, rows[k]![peaks.get(k)!]!),
      0,
    );
  const found = chosen.flatMap((first, i) =>
    chosen.slice(i + 1).flatMap((second) => {
      const [h, k] = first < second ? [first, second] : [second, first];
      const [a, b] = [singles[h]!, singles[k]!];
      if (sameSite(a, b) || (a.sheet && b.sheet)) return [];
      const prior = a.sheet
        ? a.sheet.chance * b.prior
        : b.sheet
          ? a.prior * b.sheet.chance
          : 2 *
            DOUBLE_SHARE *
            (a.prior / faulty) *
            (b.prior / faulty) *
            faulty *
            (areBrothers(a, b) ? COHORT_FACTOR : 1);
      return [{ h, k, prior, score: Math.log(prior) + promise(h, k) }];
    }),
  );
  return found.sort((a, b) => b.score - a.score).slice(0, MOST_PAIRS);
}

/** Two faults of one part are one fault as far as repair goes. */
function sameSite(a: SingleHypothesis, b: SingleHypothesis): boolean {
  return a.refs.some((ref) => b.refs.includes(ref));
}

function partOf({ fault }: SingleHypothesis): Part | undefined {
  return fault.type === 'mode' ? fault.part : undefined;
}

/** Same kind, value and year, and the same way of failing. */
function areBrothers(a: SingleHypothesis, b: SingleHypothesis): boolean {
  const [p, q] = [partOf(a), partOf(b)];
  if (
    !p ||
    !q ||
    p.kind !== q.kind ||
    a.fault.type !== 'mode' ||
    b.fault.type !== 'mode' ||
    a.fault.mode.name !== b.fault.mode.name
  )
    return false;
  const value = (part: Part): unknown =>
    part.kind === 'capacitor'
      ? `${part.capacitanceFarad} ${part.dielectric ?? ''}`
      : part.kind === 'resistor'
        ? part.resistanceOhm
        : 'model' in part
          ? part.model.name
          : '';
  return (
    value(p) === value(q) &&
    p.fitYear === q.fitYear &&
    nameKey(replaceableRef(p.ref)) !== nameKey(replaceableRef(q.ref))
  );
}

function brothersOf(singles: readonly SingleHypothesis[], h: number): number[] {
  return singles.flatMap((candidate, i) =>
    i !== h && areBrothers(singles[h]!, candidate) ? [i] : [],
  );
}

/**
 * The severity of a single at a point of its grid, between its solved ones on a log scale. at:
 * guesses at edges stand one after another.
 */
function severityAt(single: SingleHypothesis, point: number): number {
  const { severities, discrete } = single;
  const size = gridSize(single);
  const at = point % size;
  if (discrete || severities.length === 1) return severities[at]!;
  const share = (at / (size - 1)) * (severities.length - 1);
  const left = Math.min(Math.floor(share), severities.length - 2);
  return severities[left]! * (severities[left + 1]! / severities[left]!) ** (share - left);
}
