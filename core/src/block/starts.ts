/** One start of a unit, with the conditions it was made under. */
export interface Start {
  readonly clean: boolean;
  readonly conditions: readonly string[];
}

/**
 * A condition against how the starts went: counts and how likely a split at least this uneven is by
 * chance.
 */
export interface ConditionTest {
  readonly condition: string;
  readonly withFailed: number;
  readonly withClean: number;
  readonly withoutFailed: number;
  readonly withoutClean: number;
  /** Two-sided probability of the exact test. */
  readonly chance: number;
  /** The same corrected for having looked at so many conditions at once. */
  readonly corrected: number;
  readonly verdict: 'fails with it' | 'fails without it' | 'no telling';
}

/**
 * A split less likely by chance than this is taken as a tie between condition and fault. Common
 * practice, no published source.
 */
const TELLING = 0.05;

function logFactorials(most: number): Float64Array {
  const table = new Float64Array(most + 1);
  for (let n = 2; n <= most; n += 1) table[n] = table[n - 1]! + Math.log(n);
  return table;
}

/**
 * Fisher's exact test of a table of counts [[a, b], [c, d]], two-sided: the chance of a table with
 * the same margins that is no likelier than this one. Source: R. A. Fisher, The Design of
 * Experiments, 1935.
 */
export function exactTest(a: number, b: number, c: number, d: number): number {
  const log = logFactorials(a + b + c + d);
  const [row1, row2, column1] = [a + b, c + d, a + c];
  const chance = (x: number): number =>
    Math.exp(
      log[row1]! -
        log[x]! -
        log[row1 - x]! +
        log[row2]! -
        log[column1 - x]! -
        log[row2 - column1 + x]! -
        (log[row1 + row2]! - log[column1]! - log[row1 + row2 - column1]!),
    );
  const seen = chance(a);
  let sum = 0;
  for (let x = Math.max(0, column1 - row2); x <= Math.min(row1, column1); x += 1) {
    const p = chance(x);
    if (p <= seen * (1 + 1e-9)) sum += p;
  }
  return Math.min(1, sum);
}

/**
 * Every condition that was there in some starts and not in others, the most telling first. One of
 * many tests is telling by chance alone, so the verdict goes by the corrected chance. Source of the
 * correction: S. Holm, Scand. J. Statist. 6, 1979.
 */
export function testConditions(starts: readonly Start[]): readonly ConditionTest[] {
  const names = [...new Set(starts.flatMap(({ conditions }) => conditions))];
  const tests = names
    .map((condition) => {
      const count = (present: boolean, clean: boolean): number =>
        starts.filter(
          (start) => start.clean === clean && start.conditions.includes(condition) === present,
        ).length;
      const [withFailed, withClean, withoutFailed, withoutClean] = [
        count(true, false),
        count(true, true),
        count(false, false),
        count(false, true),
      ];
      const more =
        withFailed * (withoutFailed + withoutClean) > withoutFailed * (withFailed + withClean);
      return {
        condition,
        withFailed,
        withClean,
        withoutFailed,
        withoutClean,
        more,
        chance: exactTest(withFailed, withClean, withoutFailed, withoutClean),
      };
    })
    .sort((x, y) => x.chance - y.chance);
  // Conditions that come and go together, or one with the other's absence, are one test.
  const split = (condition: string): string => {
    const row = starts.map(({ conditions }) => conditions.includes(condition));
    return row.map((present) => Number(present === row[0])).join('');
  };
  const splits = new Set(tests.map(({ condition }) => split(condition)));
  let least = 0;
  return tests.map(({ more, ...test }): ConditionTest => {
    least = Math.min(1, Math.max(least, test.chance * splits.size));
    if (splits.size > 1) splits.delete(split(test.condition));
    return {
      ...test,
      corrected: least,
      verdict: least >= TELLING ? 'no telling' : more ? 'fails with it' : 'fails without it',
    };
  });
}

/**
 * Clean starts in a row after which a fault that showed in `failed` of `total` starts would have
 * shown itself again with the confidence given. The rate itself is only known from those starts:
 * it is Beta(failed + 1, clean + 1), and the chance of n clean ones in a row is the product of
 * (clean + 1 + i) / (total + 2 + i). Source: the beta-binomial distribution with a uniform prior.
 */
export function cleanStartsNeeded(failed: number, total: number, confidence = 0.95): number {
  if (!(failed >= 0 && total >= failed))
    throw new RangeError(`cleanStartsNeeded: ${failed} failed of ${total} starts`);
  let chance = 1;
  let starts = 0;
  while (chance > 1 - confidence + 1e-12) {
    chance *= (total - failed + 1 + starts) / (total + 2 + starts);
    starts += 1;
  }
  return starts;
}

/**
 * The same where the share of starts in which the fault shows is known well. Source: the binomial,
 * (1 - rate)^n.
 */
export function cleanStartsAtRate(rate: number, confidence = 0.95): number {
  if (rate >= 1) return 1;
  return Math.ceil(Math.log(1 - confidence) / Math.log(1 - rate) - 1e-9);
}

/**
 * The largest failure rate that so many clean starts in a row still leave open; about 3/n at 95 %.
 * Source: as above.
 */
export function rateLeftOpen(cleanStarts: number, confidence = 0.95): number {
  return cleanStarts === 0 ? 1 : 1 - (1 - confidence) ** (1 / cleanStarts);
}

/**
 * How often the fault shows: failed starts over all, counted so that neither none nor all is taken
 * for never or always. Source: Laplace's rule of succession.
 */
export function failureRate(starts: readonly Start[]): number {
  return (starts.filter(({ clean }) => !clean).length + 1) / (starts.length + 2);
}

/** Clean starts at the end of the log. */
export function cleanRun(starts: readonly Start[]): number {
  const last = starts.findLastIndex(({ clean }) => !clean);
  return starts.length - 1 - last;
}
