import { parseQuantity } from '../quantity';
import { lettersOf } from './part-words';

/** What a marking on a part may mean, as words of a bench sheet. To be confirmed by a person. */
export interface Suggestion {
  /** `74LS14`, `470u 16V electrolytic`. */
  readonly words: string;
  /** What it was read from. */
  readonly from: string;
}

/** What optical reading takes for another sign, towards what the place asks for. */
const TO_DIGIT: Readonly<Record<string, string>> = {
  O: '0',
  Q: '0',
  D: '0',
  I: '1',
  L: '1',
  '|': '1',
  Z: '2',
  S: '5',
  G: '6',
  B: '8',
};

/** Equal for texts that differ by what is often misread. */
function readingKey(text: string): string {
  return [...text.toUpperCase()].map((sign) => TO_DIGIT[sign] ?? sign).join('');
}

/** Letters before and behind the number that say who made it and in what package. */
const MAKER = /^(?:[A-Z]{1,3})(?=[0-9OILSB])/;
const PACKAGE = /(?:[A-Z]{1,3}\d?|-\d{1,2})$/;

/**
 * What the text on a part may say: the number of a chip that the library knows, capacitance and
 * volts, ohms. Signs that are often mistaken for each other count as the same. known: numbers of
 * chips. ref: whose marking it is, which says what it can be. Nothing is a fact: a person looks at the part and takes one or none.
 */
export function markingSuggestions(
  text: string,
  known: readonly string[],
  ref = '',
): readonly Suggestion[] {
  const byKey = new Map(known.map((number) => [readingKey(number), number]));
  const found = new Map<string, Suggestion>();
  const add = (words: string, from: string): void => {
    if (!found.has(words)) found.set(words, { words, from });
  };
  const tokens = text
    .split(/[\s,;]+/)
    .map((token) => token.replace(/[^\w.µμ|/+-]/g, ''))
    .filter((token) => token.length > 1 && token.length < 24);
  const letters = lettersOf(ref);
  const isOpen = !['C', 'R', 'RN', 'U', 'IC'].includes(letters);
  for (const token of isOpen || letters === 'U' || letters === 'IC' ? tokens : []) {
    const number = chipNumber(token, byKey);
    if (number) add(number, token);
  }
  const joined = text.replace(/[μµ]/g, 'u').replace(/\s+/g, ' ');
  for (const suggestion of isOpen || letters === 'C' ? capacitors(joined) : [])
    add(suggestion.words, suggestion.from);
  for (const [from] of isOpen || letters.startsWith('R')
    ? joined.matchAll(/\b\d{1,3}[kKMR]\d?\b/g)
    : []) {
    const ohms = parseQuantity(from.replace('K', 'k'));
    if (ohms.ok && ohms.value !== 'OL') add(from.replace('K', 'k'), from);
  }
  return [...found.values()].slice(0, 6);
}

function chipNumber(token: string, byKey: ReadonlyMap<string, string>): string | undefined {
  const upper = token.toUpperCase().replace(/[^A-Z0-9|]/g, '');
  // With and without who made it, with and without what package it is in: the longest match counts.
  const heads = [upper, upper.replace(MAKER, '')];
  for (const head of heads)
    for (const tail of [head, head.replace(PACKAGE, ''), head.slice(0, -1)])
      if (tail.length > 2) {
        const number = byKey.get(readingKey(tail));
        if (number) return number;
      }
  return undefined;
}

/** `470uF 16V`, `4.7 35V`, `10/25`: microfarad and volts; `104` on a ceramic: digits and zeros. */
function capacitors(text: string): readonly Suggestion[] {
  const found: Suggestion[] = [];
  for (const [from, farads, unit = 'u', volts] of text.matchAll(
    /\b(\d{1,4}(?:\.\d)?)\s*(u|n|p)?F?\s*[ /]\s*(\d{1,3}(?:\.\d)?)\s*V\b/gi,
  ))
    found.push({ words: `${farads}${unit.toLowerCase()} ${volts}V`, from });
  for (const [from, farads, unit] of text.matchAll(/\b(\d{1,4}(?:\.\d)?)\s*(u|n|p)F\b/gi))
    found.push({ words: `${farads}${unit!.toLowerCase()}`, from });
  // IEC 60062: two figures and how many noughts follow, picofarad.
  for (const [from, figures, noughts] of text.matchAll(/\b([1-9]\d)([1-6])[JKMZ]?\b/g)) {
    const picofarad = Number(figures) * 10 ** Number(noughts);
    if (picofarad < 100 || picofarad > 2.2e6) continue;
    const [value, unit] =
      picofarad >= 1e6
        ? [picofarad / 1e6, 'u']
        : picofarad >= 1e3
          ? [picofarad / 1e3, 'n']
          : [picofarad, 'p'];
    found.push({ words: `${value}${unit}`, from });
  }
  return found;
}
