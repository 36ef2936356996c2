/**
 * Combined standard uncertainty of a result from what each input contributes: its sensitivity times
 * its own standard uncertainty. correlation: of the inputs with each other, where they are not
 * independent. Source: JCGM 100:2008 (GUM), 5.1.2 and 5.2.2.
 */
export function combinedUncertainty(
  contributions: readonly number[],
  correlation?: readonly (readonly number[])[],
): number {
  if (!correlation) return Math.hypot(...contributions);
  let square = 0;
  contributions.forEach((one, i) =>
    contributions.forEach((other, k) => {
      square += one * other * (i === k ? 1 : correlation[i]![k]!);
    }),
  );
  return Math.sqrt(Math.max(0, square));
}

/** Standard uncertainty of what lies anywhere within a limit. Source: JCGM 100:2008, 4.3.7. */
export const rectangular = (limit: number): number => limit / Math.sqrt(3);
