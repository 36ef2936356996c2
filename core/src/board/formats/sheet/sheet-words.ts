import { parseQuantity, parseTolerance } from '../../../quantity';

/** One word of a line: text in double quotes is one word. */
export interface SheetWord {
  readonly text: string;
  readonly quoted: boolean;
}

/** The words of a line, and what stands behind a # or behind json= (which takes the rest). */
export interface SheetLine {
  readonly words: readonly SheetWord[];
  readonly remark?: string;
  readonly json?: string;
}

/** Splits a line; blanks and a # within double quotes are part of their word. */
export function splitLine(line: string): SheetLine {
  const words: SheetWord[] = [];
  for (let offset = 0; offset < line.length;) {
    const rest = line.slice(offset);
    const blank = /^\s+/.exec(rest)?.[0].length ?? 0;
    const text = rest.slice(blank);
    if (text.startsWith('#')) return { words, remark: text.slice(1).trim() };
    if (text.startsWith('json=')) return { words, json: text.slice(5) };
    const word = /^(?:[^\s"]|"[^"]*"|")+/.exec(text)?.[0];
    if (word === undefined) break;
    words.push({ text: word.replace(/"/g, ''), quoted: word.includes('"') });
    offset += blank + word.length;
  }
  return { words };
}

/** A text as a line has it: in quotes where it has blanks, a # or nothing in it. */
export function wordFor(text: string): string {
  return text === '' || /[\s#]/.test(text) ? `"${text}"` : text;
}

/** `key=value` words whose value is a figure or a word of the part itself. */
export interface Attributes {
  readonly [key: string]: string;
}

// prettier-ignore
const KEYS: ReadonlySet<string> = new Set(['tol', 'esr', 'dcr', 'pos', 'pins', 'side', 'package', 'role', 'fit', 'rating', 'note', 'coil', 'pullin', 'ratio', 'primary', 'secondary', 'peak']);

/** The two sides of `key=value`, where it is an attribute and no pin. */
export function attributeOf({ text }: SheetWord): readonly [string, string] | undefined {
  const at = text.indexOf('=');
  return at > 0 && KEYS.has(text.slice(0, at))
    ? [text.slice(0, at), text.slice(at + 1)]
    : undefined;
}

/** The two sides of `pin=net`. */
export function pinOf({ text }: SheetWord): readonly [string, string] | undefined {
  const at = text.indexOf('=');
  // `+=VM` and `-=0` are pins too.
  return at > 0 && at < text.length - 1 ? [text.slice(0, at), text.slice(at + 1)] : undefined;
}

const numbers = (text: string): number[] => text.split(',').map(Number);
const isPlace = (place: readonly number[]): boolean =>
  place.length === 2 && place.every(Number.isFinite);

/** The fields of a part that attributes stand for; a text says what one of them should be. */
export function fieldsOf(attributes: Attributes): Record<string, unknown> | string {
  const fields: Record<string, unknown> = {};
  for (const [key, text] of Object.entries(attributes)) {
    const expected = put(fields, key, text);
    if (expected !== undefined) return `${key}=${text}: expected ${expected}`;
  }
  return fields;
}

function put(fields: Record<string, unknown>, key: string, text: string): string | undefined {
  if (text === '?') return undefined; // not known: as if it were not there
  const set = (field: string, value: unknown, expected: string): string | undefined => {
    if (value === undefined) return expected;
    fields[field] = value;
    return undefined;
  };
  const amount = (unit: string): number | undefined => {
    const read = parseQuantity(text);
    return read.ok &&
      read.value !== 'OL' &&
      (read.unit === '' || read.unit === unit) &&
      read.value >= 0
      ? read.value
      : undefined;
  };
  switch (key) {
    case 'tol':
      return set('tolerance', parseTolerance(text), 'a tolerance such as 5%');
    case 'esr':
      return set('esrOhm', amount('ohm'), 'ohms such as 0.12');
    case 'dcr':
      return set('dcResistanceOhm', amount('ohm'), 'ohms such as 8');
    case 'coil':
    case 'primary':
    case 'secondary':
      return set(`${key}Ohm`, amount('ohm'), 'ohms such as 400');
    case 'pullin':
      return set('pullInVolt', amount('V'), 'volts such as 7.5');
    case 'peak':
      return set('peakVolt', amount('V'), 'volts such as 17');
    case 'ratio':
      return set('transferRatio', amount(''), 'a ratio such as 0.5');
    case 'fit':
      return set(
        'fitYear',
        /^(19|2[01])\d\d$/.test(text) ? Number(text) : undefined,
        'a year such as 1988',
      );
    case 'pos':
      return set(
        'positionMm',
        isPlace(numbers(text)) ? numbers(text) : undefined,
        'millimetres such as pos=12.5,40',
      );
    case 'side':
      return set('side', text === 'top' || text === 'bottom' ? text : undefined, 'top or bottom');
    case 'pins': {
      const places = text.split(';').map((one) => (one === '-' ? null : numbers(one)));
      return set(
        'pinPositionsMm',
        places.every((one) => one === null || isPlace(one)) ? places : undefined,
        'places such as pins=1,2;-;3,4',
      );
    }
    default:
      return set(key, text === '' ? undefined : text, 'a word');
  }
}
