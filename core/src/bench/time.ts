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
  const sorted = [...moments].sort((a, b) => a - b);
  let minutes = 0;
  sorted.forEach((moment, i) => {
    const gap = i === 0 ? Infinity : (moment - sorted[i - 1]!) / 60_000;
    minutes += gap <= LONGEST_GAP_MINUTES ? gap : FIRST_ENTRY_MINUTES;
  });
  return minutes;
}
