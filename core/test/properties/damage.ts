import fc from 'fast-check';

/**
 * One way of spoiling a text, as files are spoilt: cut off, lines lost, doubled or swapped, letters
 * and numbers wrong.
 */
export type Damage = (text: string) => string;

const inLines = (text: string, change: (lines: string[]) => void): string => {
  const lines = text.split('\n');
  change(lines);
  return lines.join('\n');
};

const at = fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true });
const place = (share: number, length: number): number => Math.floor(share * length);
/** Any one of them. */
export const damage: fc.Arbitrary<Damage> = fc.oneof(
  at.map(
    (share): Damage =>
      (text) =>
        text.slice(0, place(share, text.length)),
  ),
  at.map(
    (share): Damage =>
      (text) =>
        inLines(text, (lines) => lines.splice(place(share, lines.length), 1)),
  ),
  at.map(
    (share): Damage =>
      (text) =>
        inLines(text, (lines) =>
          lines.splice(place(share, lines.length), 0, lines[place(share, lines.length)]!),
        ),
  ),
  fc.tuple(at, at).map(
    ([a, b]): Damage =>
      (text) =>
        inLines(text, (lines) => {
          const [i, j] = [place(a, lines.length), place(b, lines.length)];
          [lines[i], lines[j]] = [lines[j]!, lines[i]!];
        }),
  ),
  fc
    .tuple(at, fc.string({ maxLength: 6, unit: 'binary' }))
    .map(([share, rubbish]): Damage => (text) => {
      const i = place(share, text.length);
      return text.slice(0, i) + rubbish + text.slice(i + rubbish.length);
    }),
  fc
    .tuple(at, fc.constantFrom('-1', '0', '1e400', 'NaN', '1,5', '""', '99999999999'))
    .map(([share, number]): Damage => (text) => {
      const numbers = [...text.matchAll(/\d+(\.\d+)?/g)];
      const hit = numbers[place(share, numbers.length)];
      return hit ? text.slice(0, hit.index) + number + text.slice(hit.index + hit[0].length) : text;
    }),
);
