import { parseQuantity } from '../quantity';

/**
 * Speeds of small fuses by their letters, the fastest first. Source: IEC 60127-1: FF, F, M, T, TT.
 */
const SPEEDS = ['FF', 'F', 'M', 'T', 'TT'] as const;
export type FuseSpeed = (typeof SPEEDS)[number];

/** What is printed on a fuse's cap, as far as it was written down. */
export interface FuseRating {
  readonly ampere: number | undefined;
  readonly speed: FuseSpeed | undefined;
  readonly volt: number | undefined;
  /** High or low breaking capacity (H, L), or E for enhanced. */
  readonly breaking: 'H' | 'L' | 'E' | undefined;
  /** Something that is no fuse: wire, foil, solder, a bridge. */
  readonly isWire: boolean;
}

const WIRE = /\b(wire|foil|bridge|bridged|link|solder|jumper|nail|strand|short)\b/i;
// prettier-ignore
const SPEED_WORDS: readonly (readonly [RegExp, FuseSpeed])[] = [
  [/\b(super|very)[ -]?fast\b/i, 'FF'], [/\b(fast|quick)\b/i, 'F'], [/\bmedium\b/i, 'M'], [/\b(slow|time[ -]?lag|anti[ -]?surge|delayed?)\b/i, 'T'],
];

/**
 * Reads `T315mAH 250V`, `F1.6A`, `500mA slow 250 V`, `T2A L 250V`. Words that say nothing are left
 * alone.
 */
export function parseFuse(text: string): FuseRating {
  const marked =
    /(?:^|\s)(FF|TT|[FMT])?\s*L?\s*(\d+(?:[.,]\d+)?)\s*(m?A)\s*([HLE])?(?=\s|\/|,|$)/i.exec(text);
  const milli = marked?.[3]?.toLowerCase() === 'ma' ? 1e-3 : 1;
  const alone = /(?:^|\s)([HLE])(?=\s|$)/.exec(text)?.[1];
  const volts = text.split(/[\s,/]+/).flatMap((word) => {
    const parsed = parseQuantity(word);
    return parsed.ok && parsed.unit === 'V' && parsed.value !== 'OL' ? [parsed.value] : [];
  });
  const spaced = /(\d+(?:[.,]\d+)?)\s+V(?:ac|dc)?\b/i.exec(text);
  return {
    ampere: marked ? Number(marked[2]!.replace(',', '.')) * milli : undefined,
    speed:
      (marked?.[1]?.toUpperCase() as FuseSpeed | undefined) ??
      SPEED_WORDS.find(([words]) => words.test(text))?.[1],
    volt: volts[0] ?? (spaced ? Number(spaced[1]!.replace(',', '.')) : undefined),
    breaking: (marked?.[4] ?? alone)?.toUpperCase() as FuseRating['breaking'],
    isWire: WIRE.test(text),
  };
}

/** How slow a speed is: larger is slower. */
export function slowness(speed: FuseSpeed): number {
  return SPEEDS.indexOf(speed);
}
