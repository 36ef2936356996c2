import type { Belief, Suspect } from './belief';

/** Faults that the readings moved apart by less than this they do not tell apart, decibans. */
const SAME = 0.5;

/**
 * Parts that the readings taken do not tell apart: what they do to the likeliest fault of the one
 * they do to that of the other, so that between them only what was thought before any reading
 * counts. Groups of two and more, likeliest first; of parts with a chance of at least `least`.
 */
export function partsAlike(
  { byPart, suspects }: Pick<Belief, 'byPart' | 'suspects'>,
  least: number,
): readonly (readonly string[])[] {
  const groups: { readonly said: number; readonly refs: string[] }[] = [];
  for (const { ref, probability } of byPart) {
    if (probability < least) continue;
    const leader = suspects.find(
      ({ hypothesis: { refs } }) => refs.length === 1 && refs[0] === ref,
    );
    if (!leader) continue;
    const said = weightOf(leader);
    const group = groups.find((one) => Math.abs(one.said - said) < SAME);
    if (group) group.refs.push(ref);
    else groups.push({ said, refs: [ref] });
  }
  return groups.map(({ refs }) => refs).filter(({ length }) => length > 1);
}

/** What all readings together did to a fault, up to what is common to all faults, decibans. */
function weightOf({ hypothesis, probability }: Suspect): number {
  return 10 * Math.log10(Math.max(probability, 1e-30) / hypothesis.prior);
}
