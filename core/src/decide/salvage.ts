import { NO_LIBRARY, partValue, type BoardIndex, type DeviceLibrary } from '../board';
import { judgeFit, readSpec, specOfParts, verdictOf, type PartSpec } from '../part';

/** Something that another case waits for, as it was written: `C6, 100u 16V, ordered`. */
export interface Need {
  readonly number: number;
  readonly words: string;
}

export interface Salvaged {
  readonly ref: string;
  readonly text: string;
  /** Cases that wait for one that it may do for. */
  readonly for: readonly number[];
  /** Why it is worth taking: somebody waits for it, or it is of a kind that is hard to get. */
  readonly because: 'waited for' | 'hard to get';
}

/** Kinds that are seldom to be had, with what is programmed or wound. From memory of bench practice. */
const HARD: readonly string[] = [
  'chip',
  'winding',
  'opto',
  'relay',
  'transformer',
  'switch',
  'amplifier',
];

/**
 * The part that is waited for, by words such as `C6, 100u 16V, ordered`: without its designator and
 * what became of the order. Undefined where they do not tell what it is.
 */
export function neededSpec(
  words: string,
  library: DeviceLibrary = NO_LIBRARY,
): PartSpec | undefined {
  const asked = words
    .replace(/^\s*[A-Z]{1,3}\d+[a-z]?\s*[,:]\s*/i, '')
    .replace(/[,;]?\s*(ordered|on order|back order|from .*)\s*$/i, '')
    .trim();
  const spec = readSpec(asked, library);
  return spec.kind === 'unknown' ? undefined : spec;
}

/** Whether one part may do for another, as far as words tell. */
export const mayDoFor = (was: PartSpec, offered: PartSpec): boolean =>
  was.kind === offered.kind && verdictOf(judgeFit(was, offered)) !== 'no';

/**
 * What is worth keeping of a board that is given up: what other cases wait for first, then what is
 * hard to get. bad: designators that are suspected or were found bad; they are never kept.
 */
export function salvageOf(
  index: BoardIndex,
  bad: ReadonlySet<string>,
  needs: readonly Need[],
): readonly Salvaged[] {
  const wanted = needs.flatMap(({ number, words }) => {
    const spec = neededSpec(words);
    return spec ? [{ number, spec }] : [];
  });
  const all = [...index.replaceable].flatMap(([ref, parts]): Salvaged[] => {
    const [part] = parts;
    if (!part || bad.has(ref)) return [];
    const own = specOfParts(parts);
    const doesFor = wanted.filter(({ spec }) => mayDoFor(spec, own)).map(({ number }) => number);
    const text = [
      partValue(part),
      part.rating ?? (part.kind === 'capacitor' && part.ratedVolt ? `${part.ratedVolt}V` : ''),
    ]
      .filter(Boolean)
      .join(' ');
    if (doesFor.length > 0)
      return [{ ref, text, for: [...new Set(doesFor)], because: 'waited for' }];
    return HARD.includes(part.kind) ? [{ ref, text, for: [], because: 'hard to get' }] : [];
  });
  return all.sort((a, b) => b.for.length - a.for.length);
}
