import type { UnitModel } from './unit-model';

/** Words that say nothing about a fault. */
const COMMON = new Set(
  'a an and are as at but by can do does for from had has have in into is it its no not of off on one or out that the then there they this to up was when will with without'.split(
    ' ',
  ),
);

/** The stems of the words that mean something: small letters, first five of each. */
function stems(text: string): ReadonlySet<string> {
  const words = text.toLowerCase().match(/[a-z]{3,}/g) ?? [];
  return new Set(words.filter((word) => !COMMON.has(word)).map((word) => word.slice(0, 5)));
}

export interface Recognised {
  readonly name: string;
  readonly seen: string;
  readonly because: string;
  /** Words that both share, as a share of the pattern's. */
  readonly share: number;
}

/**
 * The patterns of a unit that a complaint may speak of, the closest first: by the words that both
 * have. It proposes; a person says whether it is so.
 */
export function recognise(model: UnitModel, complaint: string): readonly Recognised[] {
  const said = stems(complaint);
  return model.patterns
    .map(({ name, seen, because }): Recognised => {
      const own = stems(seen);
      const both = [...own].filter((stem) => said.has(stem)).length;
      return { name, seen, because, share: own.size === 0 ? 0 : both / own.size };
    })
    .filter(({ share }) => share > 0)
    .sort((a, b) => b.share - a.share);
}
