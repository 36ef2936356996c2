import { partValue, type BoardIndex, type Part } from '../board';
import { isWet } from '../survey';

/** What a part is as it is bought: parts with the same words are like each other. */
function words(part: Part): string {
  const volt = part.kind === 'capacitor' ? (part.ratedVolt ?? '') : '';
  const dielectric = part.kind === 'capacitor' ? (part.dielectric ?? '') : '';
  return [part.kind, partValue(part), volt, dielectric].join(' ').toLowerCase();
}

function firstOf(index: BoardIndex, ref: string): Part | undefined {
  return index.replaceable.get(ref)?.[0];
}

/** Parts of the same value and kind, the part itself with them. ref: as it is replaced. */
export function likeParts(index: BoardIndex, ref: string): readonly string[] {
  const own = firstOf(index, ref);
  if (!own) return [];
  return [...index.replaceable.keys()].filter(
    (other) => words(firstOf(index, other)!) === words(own),
  );
}

/**
 * Parts that age in the same way, the part itself with them: all wet capacitors, all arrays, all
 * memory and adapters of one family; else those like it.
 */
export function agedParts(index: BoardIndex, ref: string): readonly string[] {
  const own = firstOf(index, ref);
  if (!own) return [];
  if (own.kind === 'capacitor' && isWet(own))
    return [...index.replaceable.keys()].filter((other) => {
      const part = firstOf(index, other)!;
      return part.kind === 'capacitor' && isWet(part);
    });
  if (own.kind === 'resistor' && own.ref.includes('.'))
    return [...index.replaceable].flatMap(([other, parts]) =>
      parts[0]!.kind === 'resistor' && parts[0]!.ref.includes('.') ? [other] : [],
    );
  return likeParts(index, ref);
}
