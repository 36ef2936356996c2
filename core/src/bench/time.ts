/**
 * A pause longer than this between two entries is not bench time, minutes. From memory of shop
 * practice.
 */
export const LONGEST_GAP_MINUTES = 20;
/** What the first entry of a stretch of work stands for, minutes. */
const FIRST_ENTRY_MINUTES = 2;

/**
 * Bench time from the moments at which something was entered: gaps up to LONGEST_GAP_MINUTES count,
 * longer ones start a new stretch. moments: milliseconds, any order. Returns minutes.
 */
export function benchMinutes(moments: readonly number[]): number {
  return benchMinutesBy(moments.map((at) => ({ at, of: '' }))).get('') ?? 0;
}

/**
 * The same by what was worked at: the time before an entry is that of its own kind of work. at:
 * milliseconds, any order. Returns minutes by `of`; together they are `benchMinutes`.
 */
export function benchMinutesBy<Of extends string>(
  entries: readonly { readonly at: number; readonly of: Of }[],
): ReadonlyMap<Of, number> {
  const minutes = new Map<Of, number>();
  const sorted = [...entries].sort((a, b) => a.at - b.at);
  sorted.forEach(({ at, of }, i) => {
    const gap = i === 0 ? Infinity : (at - sorted[i - 1]!.at) / 60_000;
    minutes.set(
      of,
      (minutes.get(of) ?? 0) + (gap <= LONGEST_GAP_MINUTES ? gap : FIRST_ENTRY_MINUTES),
    );
  });
  return minutes;
}
