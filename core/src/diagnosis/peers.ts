import { median } from '../statistics';

/** How one of several like parts reads beside its brothers. */
export interface PeerVerdict {
  /** Its reading over the middle of the others. */
  readonly ratio: number;
  /** Distance from the others in their own spread, on a log scale. */
  readonly score: number;
  readonly verdict: 'like the others' | 'higher' | 'lower';
  /** True where no data sheet is needed to condemn it. */
  readonly decisive: boolean;
}

/**
 * Least spread of ln ESR or ln ohms between like parts: brothers that read the same to the last
 * count still differ. From memory of bench practice.
 */
const LEAST_SPREAD = 0.25;
/**
 * From this score a part is out of line; a ratio beyond this is decisive with three or fewer
 * brothers. Common practice, no published source.
 */
const OUT_OF_LINE = 3.5;
const DECISIVE_RATIO = 5;
/**
 * Readings below this many counts of the meter say nothing of a ratio; they are taken at the floor.
 * Unit of the readings.
 */
const DEFAULT_FLOOR = 0.02;

/**
 * Compares like parts with each other, each with the rest, by median and median deviation on a log
 * scale. values: 2 to 20 readings of one kind, above or at zero.
 * floor: the smallest value that the meter tells apart. Source of the score: Iglewicz & Hoaglin,
 * How to Detect and Handle Outliers, ASQC 1993 (modified z-score).
 */
export function comparePeers(
  values: readonly number[],
  floor = DEFAULT_FLOOR,
): readonly PeerVerdict[] {
  if (values.length < 2 || values.length > 20)
    throw new RangeError(`comparePeers: ${values.length} values, expected 2 to 20`);
  const logs = values.map((value) => Math.log(Math.max(value, floor)));
  return logs.map((own, i): PeerVerdict => {
    const others = logs.filter((_, k) => k !== i);
    const middle = median(others)!;
    const spread = Math.max(
      LEAST_SPREAD,
      1.4826 * median(others.map((value) => Math.abs(value - middle)))!,
    );
    const score = (own - middle) / spread;
    const ratio = Math.exp(own - middle);
    const out = Math.abs(score) >= OUT_OF_LINE;
    const verdict = !out ? 'like the others' : score > 0 ? 'higher' : 'lower';
    // With two of a kind either may be the bad one: a ratio alone does not say which.
    const decisive = out && values.length > 2 && Math.max(ratio, 1 / ratio) >= DECISIVE_RATIO;
    return { ratio, score, verdict, decisive };
  });
}

/**
 * One reading beside that of a known-good sister board, the sister's spread known or not. Returns
 * the distance in standard deviations on a log scale.
 */
export function compareSister(
  own: number,
  sister: readonly number[],
  floor = DEFAULT_FLOOR,
): PeerVerdict {
  if (sister.length === 0) throw new RangeError('compareSister: no reading of the sister board');
  const log = (value: number): number => Math.log(Math.max(value, floor));
  const logs = sister.map(log);
  const middle = median(logs)!;
  const spread = Math.max(
    LEAST_SPREAD,
    logs.length > 2 ? 1.4826 * median(logs.map((value) => Math.abs(value - middle)))! : 0,
  );
  const score = (log(own) - middle) / spread;
  const ratio = Math.exp(log(own) - middle);
  const out = Math.abs(score) >= OUT_OF_LINE;
  return {
    ratio,
    score,
    verdict: !out ? 'like the others' : score > 0 ? 'higher' : 'lower',
    decisive: out && Math.max(ratio, 1 / ratio) >= DECISIVE_RATIO,
  };
}
