/** A zero of the leads is good for so long, ms. Common practice, no published source. */
const GOOD_FOR = 20 * 60_000;
/** Where a doubtful reading is within this many times the residue, the zero decides. */
const DECIDES_WITHIN = 5;

/** Why the leads are to be held together and zeroed now; undefined where they need not be. */
export function zeroAsked(
  zero: { readonly ohm: number; readonly at: number } | undefined,
  now: number,
  doubtfulOhms: readonly number[],
): string | undefined {
  if (!zero) return 'hold the leads together and zero the meter first';
  if (now - zero.at > GOOD_FOR) return 'the zero of the leads is older than 20 minutes';
  if (zero.ohm > 0 && doubtfulOhms.some((ohm) => ohm <= DECIDES_WITHIN * zero.ohm))
    return 'a doubtful reading is so small that the zero of the leads decides it';
  return undefined;
}
