import type { Belief, Diagnoser } from '@hanzai/core/diagnosis';
import type { SuspectPair } from './engine-messages';

/** Pairs that are named, from this chance on. */
const PAIRS = { from: 0.02, most: 3 } as const;

/** Pairs of faults worth naming, and which of the two made the other. */
export function pairsOf(
  { causes, space }: Diagnoser,
  { suspects }: Belief,
): readonly SuspectPair[] {
  const places = new Map(space.hypotheses.map(({ name }, i) => [name, i]));
  const made = (victim: string, culprit: string): boolean =>
    (causes.get(places.get(victim) ?? -1) ?? []).some(
      (cause) => cause.culprit === places.get(culprit),
    );
  return suspects
    .flatMap(({ hypothesis, probability }) =>
      hypothesis.type === 'joint' && probability >= PAIRS.from ? [{ hypothesis, probability }] : [],
    )
    .slice(0, PAIRS.most)
    .map(({ hypothesis: { name, members }, probability }) => {
      const [a, b, ...more] = members.map((member) => member.name);
      const two = a !== undefined && b !== undefined && more.length === 0;
      const because = !two
        ? undefined
        : made(a, b)
          ? { victim: a, culprit: b }
          : made(b, a)
            ? { victim: b, culprit: a }
            : undefined;
      return { name, probability, because };
    });
}
