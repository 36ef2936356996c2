/** The middle value, of an even count the mean of the two in the middle; null of none. */
export function median(values: readonly number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length / 2;
  return (sorted[Math.ceil(middle) - 1]! + sorted[Math.floor(middle)]!) / 2;
}
