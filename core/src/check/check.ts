import { formatQuantity } from '../quantity';

/** What a guided check came to, with what would settle it where it did not. */
export interface CheckResult {
  readonly verdict: 'good' | 'doubtful' | 'bad';
  /** Each a sentence without its full stop, the weightiest first. */
  readonly because: readonly string[];
  readonly settle?: string;
}

/** What was given for a check: numbers in SI units, infinite for OL; words of a choice. */
export type Given = Readonly<Record<string, number | string | undefined>>;

/** One thing that a check asks for. */
export interface CheckField {
  readonly key: string;
  readonly label: string;
  readonly unit: 'ohm' | 'V' | 'A' | 's' | 'Hz' | 'H' | '' | 'choice';
  readonly hint?: string;
  readonly choices?: readonly string[];
  /** Whether OL says something here too; of ohms it always does. */
  readonly overload?: true;
  /** Whether nothing can be said without it. */
  readonly needed?: true;
}

/** A guided check: what is measured, in its order, and what follows from it. */
export interface GuidedCheck {
  readonly name: string;
  readonly title: string;
  /** What it is good for, and what to see to before it. */
  readonly about: string;
  /** How the board has to be for it: the caution of the step goes with it. */
  readonly power: 'off' | 'on' | 'bench-supply';
  readonly fields: readonly CheckField[];
  /** Undefined while too little was given. */
  readonly judge: (given: Given) => CheckResult | undefined;
}

export const numberOf = (given: Given, key: string): number | undefined => {
  const value = given[key];
  return typeof value === 'number' && !Number.isNaN(value) ? value : undefined;
};

/** Ohms in words. */
export const ohm = (value: number): string =>
  Number.isFinite(value) ? formatQuantity(value, 'ohm', 3) : 'OL';

/** good up to the first size, bad beyond the second, doubtful between them. */
export function graded(
  value: number,
  good: number,
  bad: number,
  words: string,
  settle: string,
): CheckResult {
  if (value <= good) return { verdict: 'good', because: [words] };
  return { verdict: value > bad ? 'bad' : 'doubtful', because: [words], settle };
}

/** The worst of several, with all their reasons, the worst first. */
export function together(results: readonly (CheckResult | undefined)[]): CheckResult | undefined {
  const rank = { good: 0, doubtful: 1, bad: 2 } as const;
  const known = results
    .filter((one) => one !== undefined)
    .sort((a, b) => rank[b.verdict] - rank[a.verdict]);
  const [worst] = known;
  if (!worst) return undefined;
  const settle = known.find((one) => one.settle !== undefined)?.settle;
  return {
    verdict: worst.verdict,
    because: known.flatMap(({ because }) => because),
    ...(settle === undefined ? {} : { settle }),
  };
}
