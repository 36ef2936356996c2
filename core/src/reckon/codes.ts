import { nearestPreferred, preferredValues, type ESeries } from '../quantity';
import { choice, figure, NoAnswer, number, text, type Calculator, type Result } from './calculator';
import { figureText } from './figures';

interface Band {
  readonly digit?: number;
  readonly power?: number;
  /** Per cent. */
  readonly tolerance?: number;
  /** Millionths a kelvin. */
  readonly drift?: number;
}

/** Rings of resistors. Source: IEC 60062:2016, table 1. */
export const RINGS: Readonly<Record<string, Band>> = {
  black: { digit: 0, power: 0, drift: 250 },
  brown: { digit: 1, power: 1, tolerance: 1, drift: 100 },
  red: { digit: 2, power: 2, tolerance: 2, drift: 50 },
  orange: { digit: 3, power: 3, tolerance: 0.05, drift: 15 },
  yellow: { digit: 4, power: 4, tolerance: 0.02, drift: 25 },
  green: { digit: 5, power: 5, tolerance: 0.5, drift: 20 },
  blue: { digit: 6, power: 6, tolerance: 0.25, drift: 10 },
  violet: { digit: 7, power: 7, tolerance: 0.1, drift: 5 },
  grey: { digit: 8, power: 8, tolerance: 0.01, drift: 1 },
  white: { digit: 9, power: 9 },
  gold: { power: -1, tolerance: 5 },
  silver: { power: -2, tolerance: 10 },
  pink: { power: -3 },
};
const OTHER_NAMES: Readonly<Record<string, string>> = { purple: 'violet', gray: 'grey' };
const POWERS = Object.entries(RINGS).flatMap(([name, { power }]) => (power === undefined ? [] : [[power, name] as const])); // prettier-ignore
const DIGITS = Object.entries(RINGS).flatMap(([name, { digit }]) => (digit === undefined ? [] : [name])); // prettier-ignore

/** Tolerance letters, per cent. Source: IEC 60062:2016, table 5. */
export const TOLERANCE_LETTERS: Readonly<Record<string, number>> = {
  E: 0.005, L: 0.01, P: 0.02, W: 0.05, B: 0.1, C: 0.25, D: 0.5, F: 1, G: 2, J: 5, K: 10, M: 20, N: 30,
}; // prettier-ignore

/** What the rings of a resistor say. Throws NoAnswer where they say nothing. */
export function readRings(said: string): {
  readonly ohm: number;
  readonly tolerance: number;
  readonly drift: number | undefined;
} {
  const names = said.toLowerCase().split(/[\s,;/-]+/).filter(Boolean).map((one) => OTHER_NAMES[one] ?? one); // prettier-ignore
  const unknown = names.find((one) => !Object.hasOwn(RINGS, one));
  if (unknown !== undefined)
    throw new NoAnswer(`no ring is ${unknown}; known are ${Object.keys(RINGS).join(', ')}`);
  if (names.length < 3 || names.length > 6)
    throw new NoAnswer(`${names.length} rings; a resistor has three to six`);
  // Three and four rings have two figures, five and six have three.
  const figures = names.length > 4 ? 3 : 2;
  const digits = names.slice(0, figures).map((one) => RINGS[one]!.digit);
  const bad = digits.indexOf(undefined);
  if (bad >= 0) throw new NoAnswer(`${names[bad]} is no figure: is it read from the other end?`);
  const { power } = RINGS[names[figures]!]!;
  if (power === undefined) throw new NoAnswer(`${names[figures]} is no multiplier`);
  const close = names[figures + 1];
  const tolerance = close === undefined ? 20 : RINGS[close]!.tolerance;
  if (tolerance === undefined)
    throw new NoAnswer(`${close} is no tolerance: is it read from the other end?`);
  const last = names[figures + 2];
  const drift = last === undefined ? undefined : RINGS[last]!.drift;
  if (last !== undefined && drift === undefined) throw new NoAnswer(`${last} is no drift`);
  const value = Number(`${digits.join('')}e${power}`);
  return { ohm: value, tolerance, drift };
}

/** The rings of a value: figures, multiplier and tolerance; undefined where they cannot show it. */
export function ringsOf(ohm: number, tolerance: number): readonly string[] | undefined {
  const figures = tolerance <= 2 ? 3 : 2;
  if (!(ohm > 0)) return undefined;
  const power = Math.floor(Math.log10(ohm) + 1e-9) - (figures - 1);
  const digits = Math.round(ohm / 10 ** power);
  const ring = POWERS.find(([of]) => of === power)?.[1];
  const close = Object.entries(RINGS).find(([, band]) => band.tolerance === tolerance)?.[0];
  if (
    Math.abs(digits * 10 ** power - ohm) > 1e-6 * ohm ||
    ring === undefined ||
    close === undefined
  )
    return undefined;
  return [
    ...String(digits)
      .split('')
      .map((digit) => DIGITS[Number(digit)]!),
    ring,
    close,
  ];
}

/** Rated volts by code. Source: EIA-198 and JIS C 5101, from memory. */
const VOLT_LETTERS: Readonly<Record<string, number>> = {
  G: 4, J: 6.3, A: 10, C: 16, D: 20, E: 25, V: 35, H: 50, K: 80,
}; // prettier-ignore
const voltsOf = (code: string): number | undefined => {
  const [, power, letter] = /^([0-3])([A-Z])$/.exec(code) ?? [];
  const base = letter === undefined ? undefined : VOLT_LETTERS[letter];
  return base === undefined ? undefined : Number((base * 10 ** (Number(power) - (base >= 10 ? 1 : 0))).toPrecision(6)); // prettier-ignore
};
const COLD: Readonly<Record<string, number>> = { X: -55, Y: -30, Z: 10 };
const HOT: Readonly<Record<string, number>> = { 4: 65, 5: 85, 6: 105, 7: 125, 8: 150, 9: 200 };
const MOVES: Readonly<Record<string, string>> = {
  P: '±10 %', R: '±15 %', S: '±22 %', T: '+22 to -33 %', U: '+22 to -56 %', V: '+22 to -82 %', F: '±7.5 %',
}; // prettier-ignore

/** A resistor or capacitor code of letters and figures: `4k7J`, `R47`, `1002`, `104K`, `104 1H X7R`. */
function readCode(said: string, of: string): readonly Result[] {
  const words = said.trim().split(/\s+/).filter(Boolean);
  const first = words[0]!.replace(/,/g, '.');
  const [, mark = '', letter = ''] =
    /^(.*?\d(?:[a-zµμR](?=\d*$))?[a-zµμ]?|R\d+|\d+[Rr]\d*)([BCDEFGJKLMNPW])?$/.exec(first) ?? [];
  const value = of === 'R' ? ohmsOf(mark) : faradsOf(mark);
  if (value === undefined)
    throw new NoAnswer(
      `"${words[0]}" is no code of a ${of === 'R' ? 'resistor' : 'capacitor'} that is known here`,
    );
  const unit = of === 'R' ? 'ohm' : 'F';
  const results: Result[] = [number('value', 'value', value, unit)];
  const tolerance = TOLERANCE_LETTERS[letter];
  if (tolerance !== undefined) results.push(number('tolerance', 'tolerance', tolerance, '%'));
  for (const word of words.slice(1)) {
    const volt = voltsOf(word.toUpperCase());
    const [, cold, hot, moves] = /^([XYZ])([4-9])([PRSTUVF])$/i.exec(word) ?? [];
    if (volt !== undefined && of === 'C') results.push(number('volt', 'rated', volt, 'V'));
    else if (/^(C0G|NP0)$/i.test(word))
      results.push(text('kind', 'ceramic', 'class 1: stays within 30 millionths a kelvin'));
    else if (cold && hot && moves)
      results.push(
        text(
          'kind',
          'ceramic',
          `class 2: ${COLD[cold.toUpperCase()]} to ${HOT[hot]} °C, value moves ${MOVES[moves.toUpperCase()]}; falls with volts on it beside that`,
        ),
      );
    else throw new NoAnswer(`"${word}" is no code that is known here`);
  }
  return results;
}

function ohmsOf(mark: string): number | undefined {
  const [, whole, letter, part] = /^(\d*)([RrkKM])(\d*)$/.exec(mark) ?? [];
  if (letter !== undefined && (whole || part)) {
    const scale = /k/i.test(letter) ? 1e3 : letter === 'M' ? 1e6 : 1;
    return Number((Number(`${whole || 0}.${part || 0}`) * scale).toPrecision(12));
  }
  // Two or three figures and how many noughts follow, as on chips.
  const [, figures, noughts] = /^(\d{2,3})(\d)$/.exec(mark) ?? [];
  return figures === undefined ? undefined : Number(`${figures}e${noughts}`);
}

function faradsOf(mark: string): number | undefined {
  const [, whole, letter, part] = /^(\d*)([pnuµμm])(\d*)$/.exec(mark) ?? [];
  if (letter !== undefined && (whole || part)) {
    const scale = { p: 1e-12, n: 1e-9, u: 1e-6, µ: 1e-6, μ: 1e-6, m: 1e-3 }[letter]!;
    return Number((Number(`${whole || 0}.${part || 0}`) * scale).toPrecision(12));
  }
  const [, figures, noughts] = /^([1-9]\d)([0-689])$/.exec(mark) ?? [];
  if (figures === undefined) return undefined;
  // An 8 or 9 at the end divides by 100 or 10.
  const power = noughts === '8' ? -2 : noughts === '9' ? -1 : Number(noughts);
  return Number((Number(figures) * 10 ** (power - 12)).toPrecision(12));
}

/** Years of the twenty-year cycle of IEC 60062, from memory: A is 1990 and 2010, no I, O, Q, Y, Z, G. */
const YEAR_LETTERS = 'ABCDEFHJKLMNPRSTUVWX';
const MONTHS = '123456789OND';
const MONTH_NAMES = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December']; // prettier-ignore

/** All that a date code may mean, as words, likeliest last century first. Empty where it is none. */
export function readDateCode(said: string, thisYear: number): readonly string[] {
  const code = said.trim().toUpperCase();
  const [, yy, ww] = /^(\d{2})(\d{2})$/.exec(code) ?? [];
  const meanings: string[] = [];
  const weekOk = (week: number): boolean => week >= 1 && week <= 53;
  const centuries = (two: number): number[] =>
    [1900 + two, 2000 + two].filter((year) => year <= thisYear && year >= 1960);
  if (yy && ww) {
    if (weekOk(Number(ww)))
      meanings.push(...centuries(Number(yy)).map((year) => `week ${Number(ww)} of ${year}`));
    if (weekOk(Number(yy)))
      meanings.push(
        ...centuries(Number(ww)).map(
          (year) => `week ${Number(yy)} of ${year}, if the week stands first`,
        ),
      );
  }
  const [, y, week] = /^(\d)(\d{2})$/.exec(code) ?? [];
  if (y && week && weekOk(Number(week)))
    for (let year = 1960 + Number(y); year <= thisYear; year += 10)
      meanings.push(`week ${Number(week)} of ${year}`);
  const [, letter, month] = /^([A-HJ-NPR-X])([1-9OND])$/.exec(code) ?? [];
  if (letter && month && YEAR_LETTERS.includes(letter))
    for (let year = 1970 + YEAR_LETTERS.indexOf(letter); year <= thisYear; year += 20)
      meanings.push(`${MONTH_NAMES[MONTHS.indexOf(month)]} ${year}`);
  return meanings;
}

/** Two values of a series that come nearest to one, in series or side by side. */
export function nearestPair(
  wanted: number,
  series: ESeries,
  together: 'add' | 'reciprocal',
): { readonly one: number; readonly other: number; readonly value: number } {
  const decade = preferredValues(series);
  const power = Math.floor(Math.log10(wanted));
  // Beside one value a thousand times away the other changes nothing that a tolerance leaves.
  const values = [-2, -1, 0, 1, 2, 3].flatMap((step) =>
    decade.map((one) => Number((one * 10 ** (power + step)).toPrecision(6))),
  );
  let best = { one: 0, other: 0, value: Infinity };
  const off = (value: number): number => Math.abs(Math.log(value / wanted));
  values.forEach((one, i) => {
    for (const other of values.slice(0, i + 1)) {
      const value = together === 'add' ? one + other : (one * other) / (one + other);
      if (off(value) < off(best.value) - 1e-12) best = { one, other, value };
    }
  });
  return best;
}

export const CODES: readonly Calculator[] = [
  {
    name: 'rings',
    title: 'Rings of a resistor',
    group: 'codes',
    formula: 'two or three figures, a multiplier, a tolerance, a drift',
    source: 'IEC 60062:2016, table 1',
    fields: [
      {
        kind: 'words',
        name: 'rings',
        label: 'Rings, from the end they crowd at',
        example: 'yellow violet red gold',
      },
    ],
    reckon: (v) => {
      const { ohm, tolerance, drift } = readRings(v.words('rings'));
      return [
        number('value', 'value', ohm, 'ohm'),
        number('tolerance', 'tolerance', tolerance, '%'),
        number('low', 'at least', ohm * (1 - tolerance / 100), 'ohm'),
        number('high', 'at most', ohm * (1 + tolerance / 100), 'ohm'),
        ...(drift === undefined ? [] : [text('drift', 'drift', `${drift} millionths a kelvin`)]),
      ];
    },
    say: (_, r) =>
      `${r.text('value')} ±${r.text('tolerance')}: in circuit it may read less; well above ${r.text('high')} it is bad.`,
  },
  {
    name: 'to-rings',
    title: 'Value to rings',
    group: 'codes',
    formula: 'figures, multiplier, tolerance',
    source: 'IEC 60062:2016, table 1',
    fields: [
      figure('ohm', 'Value', 'ohm', '4k7', { least: 1e-3, most: 1e12 }),
      choice('tolerance', 'Tolerance', [['10', '10 %'], ['5', '5 %'], ['2', '2 %'], ['1', '1 %'], ['0.5', '0.5 %'], ['0.1', '0.1 %']], '5'), // prettier-ignore
    ],
    reckon: (v) => {
      const rings = ringsOf(v.figure('ohm'), Number(v.words('tolerance')));
      if (!rings)
        throw new NoAnswer(
          'no rings show this value with this tolerance: it has more figures than they have',
        );
      return [text('rings', 'rings', rings.join(', '))];
    },
    say: (_, r) => `Rings: ${r.text('rings')}.`,
  },
  {
    name: 'code',
    title: 'Letter and figure codes',
    group: 'codes',
    formula:
      'a letter stands for the point; else the last figure counts the noughts, of picofarads on a capacitor',
    source: 'IEC 60062:2016; EIA-198 for ceramics and volts, from memory',
    fields: [
      { kind: 'words', name: 'code', label: 'What is printed', example: '104K 1H X7R' },
      choice('of', 'On a', [
        ['C', 'capacitor'],
        ['R', 'resistor'],
      ]),
    ],
    reckon: (v) => readCode(v.words('code'), v.words('of')),
    say: (_, r) =>
      [
        r.text('value'),
        r.text('tolerance') && `±${r.text('tolerance')}`,
        r.text('volt'),
        r.text('kind'),
      ]
        .filter(Boolean)
        .join(', ') + '.',
  },
  {
    name: 'date',
    title: 'Date codes',
    group: 'codes',
    formula: 'year and week, or a letter for the year and one for the month',
    source: 'common practice, no published source; letters: IEC 60062, from memory',
    fields: [
      { kind: 'words', name: 'code', label: 'What is printed', example: '8632' },
      figure('year', 'Not later than', '', '2026', { whole: true, least: 1960, most: 2100 }),
    ],
    reckon: (v) => {
      const meanings = readDateCode(v.words('code'), v.figure('year'));
      if (meanings.length === 0)
        throw new NoAnswer(
          'no date code of a usual form: two figures for the year and two for the week, 8632',
        );
      return meanings.map((words, i) => text(`meaning-${i}`, i === 0 ? 'it may be' : 'or', words));
    },
    say: (v) =>
      `A date code tells when a part was made, not when it went in: a unit is no older than the youngest of its parts (${v.words('code').toUpperCase()}).`,
  },
  {
    name: 'preferred',
    title: 'Neighbours in a series, and pairs',
    group: 'codes',
    formula: 'R = R1 + R2, 1/R = 1/R1 + 1/R2; for capacitors the other way round',
    source: 'IEC 60063',
    fields: [
      figure('value', 'Wanted', '', '5k', { least: 1e-15, most: 1e12 }),
      choice('series', 'Series', [['6', 'E6'], ['12', 'E12'], ['24', 'E24'], ['48', 'E48'], ['96', 'E96']], '12'), // prettier-ignore
    ],
    reckon: (v) => {
      const [wanted, series] = [v.figure('value'), Number(v.words('series')) as ESeries];
      const one = nearestPreferred(wanted, series);
      const inRow = nearestPair(wanted, series, 'add');
      const beside = nearestPair(wanted, series, 'reciprocal');
      const pair = ({ one: a, other: b, value }: typeof inRow): string =>
        `${figureText(a, '')} and ${figureText(b, '')}: ${figureText(value, '')}, ${offText(value / wanted)}`;
      return [
        number('nearest', 'nearest one', one, ''),
        text('off', 'which is', offText(one / wanted)),
        text('added', 'two that add', pair(inRow)),
        text('beside', 'two whose reciprocals add', pair(beside)),
      ];
    },
    say: (_, r) => `One: ${r.text('nearest')}, ${r.text('off')}. Two: ${r.text('added')}.`,
  },
];

function offText(ratio: number): string {
  const off = 100 * (ratio - 1);
  return Math.abs(off) < 0.005
    ? 'exact'
    : `${Math.abs(off).toFixed(Math.abs(off) < 1 ? 2 : 1)} % ${off > 0 ? 'above' : 'below'}`;
}
