import { ScpiError } from './error';
import { isKeyword } from './header';
import type { ScpiData } from './message';

/** Multipliers before a unit. Source: IEEE 488.2, table 7-1. */
// prettier-ignore
const MULTIPLIER: Readonly<Record<string, number>> = {
  EX: 1e18, PE: 1e15, T: 1e12, G: 1e9, MA: 1e6, K: 1e3, M: 1e-3, U: 1e-6, N: 1e-9, P: 1e-12, F: 1e-15, A: 1e-18,
};
/** Units with which M has always meant mega. Source: IEEE 488.2, 7.7.3.4. */
const MEGA_UNITS: readonly string[] = ['OHM', 'HZ'];
/** How a unit may be written instead. */
const UNIT_FORMS: Readonly<Record<string, readonly string[]>> = {
  OHM: ['OHM', 'OHMS'],
  V: ['V'],
  A: ['A'],
  S: ['S'],
};

/** What a number may be: its unit, and its least and largest value. */
export interface NumberLimits {
  readonly unit?: 'V' | 'OHM' | 'A' | 'S';
  readonly least: number;
  readonly most: number;
  /** What DEFault stands for, where it may be written. */
  readonly usual?: number;
}

/** The arguments of one command, taken one after the other. */
export class ScpiArguments {
  private taken = 0;

  constructor(private readonly data: readonly ScpiData[]) {}

  get isDone(): boolean {
    return this.taken >= this.data.length;
  }

  private next(): ScpiData {
    const data = this.data[this.taken];
    if (!data) throw new ScpiError('-109');
    this.taken += 1;
    return data;
  }

  /**
   * A number within its limits; MINimum, MAXimum and, where there is one, DEFault stand for one.
   *
   * @throws ScpiError -222 beyond the limits, -131 for a unit that is not this one.
   */
  number(limits: NumberLimits): number {
    const data = this.next();
    if (data.type === 'word') return wordNumber(data.text, limits);
    if (data.type !== 'number') throw notAllowed(data);
    const value = data.value * scaleOf(data.suffix, limits.unit);
    if (!(value >= limits.least && value <= limits.most))
      throw new ScpiError('-222', `${limits.least} to ${limits.most}`);
    return value;
  }

  /** A whole number, rounded from what was written. Source: IEEE 488.2, 10.10 and 7.7.2.3. */
  whole(least: number, most: number): number {
    return Math.round(this.number({ least, most }));
  }

  /** ON, OFF, or a number: anything that does not round to 0 is ON. Source: SCPI-1999, 7.3. */
  boolean(): boolean {
    const data = this.next();
    if (data.type === 'number' && data.suffix === '') return Math.round(data.value) !== 0;
    if (data.type === 'word' && (data.text === 'ON' || data.text === 'OFF'))
      return data.text === 'ON';
    throw data.type === 'word' ? new ScpiError('-141', data.text) : notAllowed(data);
  }

  /** One of these keywords, each written as `IMMediate`; returns it as written here. */
  keyword<K extends string>(...keywords: readonly K[]): K {
    const data = this.next();
    if (data.type !== 'word') throw notAllowed(data);
    const found = keywords.find((keyword) => isKeyword(data.text, keyword));
    if (found === undefined) throw new ScpiError('-224', data.text);
    return found;
  }

  /** Whether the next argument is this keyword; it is taken where it is. */
  takesKeyword(keyword: string): boolean {
    const data = this.data[this.taken];
    if (data?.type !== 'word' || !isKeyword(data.text, keyword)) return false;
    this.taken += 1;
    return true;
  }

  string(): string {
    const data = this.next();
    if (data.type !== 'string') throw notAllowed(data);
    return data.text;
  }
}

function wordNumber(word: string, { least, most, usual }: NumberLimits): number {
  if (isKeyword(word, 'MINimum')) return least;
  if (isKeyword(word, 'MAXimum')) return most;
  if (usual !== undefined && isKeyword(word, 'DEFault')) return usual;
  throw new ScpiError('-141', word);
}

function scaleOf(suffix: string, unit: NumberLimits['unit']): number {
  if (suffix === '') return 1;
  if (unit === undefined) throw new ScpiError('-138', suffix);
  const form = UNIT_FORMS[unit]!.find((one) => suffix.endsWith(one));
  if (form === undefined) throw new ScpiError('-131', suffix);
  const before = suffix.slice(0, suffix.length - form.length);
  if (before === '') return 1;
  if (before === 'M' && MEGA_UNITS.includes(unit)) return 1e6;
  const scale = MULTIPLIER[before];
  if (scale === undefined) throw new ScpiError('-131', suffix);
  return scale;
}

function notAllowed({ type }: ScpiData): ScpiError {
  const numbers = {
    number: '-128',
    word: '-148',
    string: '-158',
    block: '-168',
    expression: '-178',
  } as const;
  return new ScpiError(numbers[type]);
}
