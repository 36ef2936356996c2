import { ScpiError } from './error';

/** One argument of a command, by how it was written. Source: IEEE 488.2, 7.7. */
export type ScpiData =
  | { readonly type: 'number'; readonly value: number; readonly suffix: string }
  | { readonly type: 'word'; readonly text: string }
  | { readonly type: 'string'; readonly text: string }
  | { readonly type: 'block'; readonly text: string }
  | { readonly type: 'expression'; readonly text: string };

/** One command or query of a program message. */
export interface ScpiUnit {
  /** `*IDN`, or the mnemonics of a header one by one, in capitals. */
  readonly path: readonly string[];
  /** Written with a colon in front: counted from the root. */
  readonly rooted: boolean;
  readonly isQuery: boolean;
  readonly data: readonly ScpiData[];
}

/** The longest mnemonic and the longest word as data. Source: IEEE 488.2, 7.6.1.4.1 and 7.7.1.4. */
const LONGEST_WORD = 12;
/** The largest exponent, and most digits, of a number. Source: IEEE 488.2, 7.7.2.4.1. */
const LARGEST_EXPONENT = 32_000;
const MOST_DIGITS = 255;

/** White space of a program message: all of ASCII up to the space, but for the end of a line. */
// eslint-disable-next-line no-control-regex -- the standard counts control characters as white space
const WHITE = /[\x00-\x09\x0b-\x20]/;
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:\s*[eE]\s*[+-]?\d+)?/y;
const RADIX: Readonly<Record<string, readonly [number, RegExp]>> = {
  H: [16, /^[0-9A-F]+$/i],
  Q: [8, /^[0-7]+$/],
  B: [2, /^[01]+$/],
};

/**
 * Reads one program message (a line without its end) into its commands, one after the other, so
 * that those before a mistake can be carried out: the mistake is thrown as a ScpiError when its turn
 * comes. Source: IEEE 488.2, chapter 7; SCPI-1999, volume 1, chapter 6.
 */
export function* readMessage(text: string): Generator<ScpiUnit> {
  const at = new Cursor(text);
  at.skipWhite();
  while (!at.done) {
    yield readUnit(at);
    at.skipWhite();
    if (at.done) return;
    // readUnit ends at a semicolon or at the end of the line.
    at.take();
    at.skipWhite();
  }
}

/** A place in a text that is read from left to right. */
class Cursor {
  place = 0;

  constructor(readonly text: string) {}

  get done(): boolean {
    return this.place >= this.text.length;
  }

  /** The next character; empty at the end. */
  get next(): string {
    return this.text.charAt(this.place);
  }

  take(count = 1): string {
    const taken = this.text.slice(this.place, this.place + count);
    this.place += count;
    return taken;
  }

  match(pattern: RegExp): string | undefined {
    pattern.lastIndex = this.place;
    const found = pattern.exec(this.text)?.[0];
    if (found !== undefined) this.place += found.length;
    return found;
  }

  /** Returns whether there was any. */
  skipWhite(): boolean {
    const from = this.place;
    while (!this.done && WHITE.test(this.next)) this.place += 1;
    return this.place > from;
  }
}

function readUnit(at: Cursor): ScpiUnit {
  const { path, rooted } = readHeader(at);
  const isQuery = at.next === '?';
  if (isQuery) at.take();
  const apart = at.skipWhite();
  if (at.done || at.next === ';') return { path, rooted, isQuery, data: [] };
  if (!apart) throw new ScpiError('-111', `"${at.next}" after ${path.join(':')}`);
  const data: ScpiData[] = [];
  for (;;) {
    data.push(readData(at));
    at.skipWhite();
    if (at.done || at.next === ';') return { path, rooted, isQuery, data };
    if (at.next !== ',') throw new ScpiError('-103', `"${at.next}" where a comma was expected`);
    at.take();
    at.skipWhite();
  }
}

function readHeader(at: Cursor): Pick<ScpiUnit, 'path' | 'rooted'> {
  if (at.next === '*') {
    at.take();
    return { path: [`*${readMnemonic(at)}`], rooted: true };
  }
  const rooted = at.next === ':';
  if (rooted) at.take();
  const path = [readMnemonic(at)];
  while (at.next === ':') {
    at.take();
    path.push(readMnemonic(at));
  }
  return { path, rooted };
}

function readMnemonic(at: Cursor): string {
  const found = at.match(/[A-Za-z][A-Za-z0-9_]*/y);
  if (found === undefined) {
    if (at.done) throw new ScpiError('-102', 'a command was expected');
    throw new ScpiError(isPlain(at.next) ? '-102' : '-101', `"${at.next}"`);
  }
  if (found.length > LONGEST_WORD) throw new ScpiError('-112', found.slice(0, 40));
  return found.toUpperCase();
}

/** Whether a character has any business in a program message. */
function isPlain(character: string): boolean {
  return /^[ -~]$/.test(character) && !/[\\`{}[\]]/.test(character);
}

function readData(at: Cursor): ScpiData {
  const first = at.next;
  if (first === '"' || first === "'") return readString(at);
  if (first === '#') return readHash(at);
  if (first === '(') return readExpression(at);
  if (/[A-Za-z]/.test(first)) {
    const text = at.match(/[A-Za-z][A-Za-z0-9_]*/y)!;
    if (text.length > LONGEST_WORD) throw new ScpiError('-144', text.slice(0, 40));
    return { type: 'word', text: text.toUpperCase() };
  }
  if (/[-+.\d]/.test(first)) return readNumber(at);
  if (at.done || first === ',' || first === ';') throw new ScpiError('-109');
  throw new ScpiError(isPlain(first) ? '-102' : '-101', `"${first}"`);
}

function readString(at: Cursor): ScpiData {
  const quote = at.take();
  let text = '';
  for (;;) {
    if (at.done) throw new ScpiError('-151', 'the closing quotation mark is missing');
    const character = at.take();
    if (character !== quote) text += character;
    else if (at.next === quote) text += at.take();
    else return { type: 'string', text };
  }
}

function readNumber(at: Cursor): ScpiData {
  const found = at.match(NUMBER);
  if (found === undefined) throw new ScpiError('-121', `"${at.next}"`);
  const [mantissa, exponent = '0'] = found.replace(/\s/g, '').split(/e/i) as [string, string?];
  if (mantissa.replace(/\D/g, '').replace(/^0+/, '').length > MOST_DIGITS)
    throw new ScpiError('-124');
  if (Math.abs(Number(exponent)) > LARGEST_EXPONENT) throw new ScpiError('-123');
  const apart = at.skipWhite();
  const suffix = at.match(/[A-Za-z]+[A-Za-z0-9/.-]*/y) ?? '';
  if (suffix === '' && !apart && /[.\d]/.test(at.next)) throw new ScpiError('-121', `"${at.next}"`);
  return {
    type: 'number',
    value: Number(`${mantissa}e${exponent}`),
    suffix: suffix.toUpperCase(),
  };
}

/** `#HFF`, `#Q17`, `#B101`, or a block of bytes: `#15hello`, `#0…` to the end of the line. */
function readHash(at: Cursor): ScpiData {
  at.take();
  const kind = at.take().toUpperCase();
  const radix = RADIX[kind];
  if (radix) {
    const digits = at.match(/[0-9A-Za-z]+/y) ?? '';
    if (!radix[1].test(digits)) throw new ScpiError('-121', `#${kind}${digits}`);
    return { type: 'number', value: parseInt(digits, radix[0]), suffix: '' };
  }
  if (kind === '0') return { type: 'block', text: at.take(at.text.length - at.place) };
  const digits = /^[1-9]$/.test(kind) ? at.take(Number(kind)) : '';
  const length = /^\d+$/.test(digits) ? Number(digits) : undefined;
  if (length === undefined || at.place + length > at.text.length) throw new ScpiError('-161');
  return { type: 'block', text: at.take(length) };
}

function readExpression(at: Cursor): ScpiData {
  const found = at.match(/\([^()"';]*\)/y);
  if (found === undefined) throw new ScpiError('-171');
  return { type: 'expression', text: found.slice(1, -1) };
}
