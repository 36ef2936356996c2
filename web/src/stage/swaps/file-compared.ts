import type { CaseState } from '../../case/use-case';
import type { Compared } from './AsEvidence';

/** The blocks that each comparison speaks of, the nearest first: units differ in what they have. */
const SPEAKS_OF = {
  layout: ['medium'],
  'pin-out': ['cable', 'flex', 'host-line', 'host'],
} as const;
const MOST_TITLE = 200;

/**
 * Files what a comparison came to: as a check of the block that it speaks of, as a note where the
 * unit has none. Why not, in words; undefined where it was filed.
 */
export function fileCompared(
  { model, append }: Pick<CaseState, 'model' | 'append'>,
  of: keyof typeof SPEAKS_OF,
  { good, words }: Compared,
): string | undefined {
  const block = SPEAKS_OF[of].find((name) => model?.blocks.some((one) => one.name === name));
  if (block === undefined) return append({ kind: 'finding', text: words.slice(0, 500) });
  const title = words.length > MOST_TITLE ? `${words.slice(0, MOST_TITLE - 1)}…` : words;
  return append({ kind: 'check', title, block, good, of });
}
