import {
  findPoint,
  nameKey,
  pinPoint,
  setupNames,
  type Setup,
  type BoardIndex,
  type Part,
  type Point,
} from '../board';
import { parseQuantity, type Unit } from '../quantity';
import { pointText, resolveMeasurement } from './measurement';
import { defaultSetup, type ReadingKind } from './meter';
import { parseReadingValue, type Reading } from './readings-file';

/** What a line of shorthand was understood as, or how far it got. */
export type ShorthandResult =
  | { readonly ok: true; readonly reading: Reading }
  | {
      readonly ok: false;
      readonly empty: boolean;
      readonly understood: string;
      readonly expected: string;
    };

// prettier-ignore
const KIND_WORDS: Readonly<Record<string, ReadingKind>> = {
  esr: 'esr', diode: 'diode', ohm: 'resistance', ohms: 'resistance', volts: 'voltage', logic: 'logic', amps: 'current',
};
// prettier-ignore
const VALUE_WORDS: Readonly<Record<string, readonly [ReadingKind, string]>> = {
  beep: ['continuity', 'beep'], open: ['continuity', 'open'],
  lo: ['logic', '0'], low: ['logic', '0'], hi: ['logic', '1'], high: ['logic', '1'], pulse: ['logic', 'P'], float: ['logic', 'Z'],
  p: ['logic', 'P'], z: ['logic', 'Z'], yes: ['symptom', 'yes'], no: ['symptom', 'no'],
};
const KIND_OF_UNIT: Partial<Record<Unit, ReadingKind>> = {
  ohm: 'resistance',
  V: 'voltage',
  A: 'current',
};

/**
 * The line with a unit that stands apart from its number put to it: `vcc 4.98 v` becomes `vcc
 * 4.98v`, `7.08 k` becomes `7.08k`.
 */
export function tidyShorthand(text: string): string {
  return text
    .trim()
    .replace(/(^|\s)([\d.,]+)\s+((?:[kKMmuµ]|meg)?(?:ohms?|Ω|V|v|A|a|R|r)?)$/, '$1$2$3');
}

/**
 * Reads one line of the trade's shorthand against a board: `r12 4k7`, `vcc 4.98`, `f2 beep`, `c6
 * 1.03 esr`, `q3.b q3.e .62 diode`, `l1.2 c3.1 ol`.
 * One or two points (a two-pin part stands for both its pins), then the value, then if need be the
 * kind or the setup.
 */
export function parseShorthand(index: BoardIndex, text: string): ShorthandResult {
  const words = tidyShorthand(text).split(/\s+/).filter(Boolean);
  const fail = (understood: string, expected: string): ShorthandResult => ({
    ok: false,
    empty: words.length === 0,
    understood,
    expected,
  });
  if (words.length === 0) return fail('', 'a point and a value, for example r12 4k7');
  let kind: ReadingKind | undefined;
  let setup: Setup | undefined;
  const setups = setupNames(index.board);
  const rest = words.filter((word, i) => {
    const lower = word.toLowerCase();
    if (i > 0 && KIND_WORDS[lower]) kind = KIND_WORDS[lower];
    else if (i > 0 && setups.includes(lower)) setup = lower;
    else return true;
    return false;
  });
  const seen = seenOrHeard(index, rest, setup);
  if (seen) return seen;
  const places = rest.length > 2 ? rest.slice(0, 2) : rest.slice(0, 1);
  const spots = places.map((word) => findSpot(index, word));
  const unknown = spots.findIndex((spot) => spot === undefined);
  if (unknown >= 0)
    return fail(
      `no part, pin or net "${places[unknown]}"`,
      'a name on this board, for example r12, c3.1 or vcc',
    );
  const [at, to] = probes(spots as Spot[]);
  if (!at)
    return fail(`${places[0]} has more than two pins`, `the pin, for example ${places[0]}.1`);
  const where = `${places.join(' to ')}`;
  const valueWords = rest.slice(places.length);
  if (valueWords.length === 0)
    return fail(where, 'the value, for example 4k7, 4.98, beep, ol or lo');
  if (valueWords.length > 1)
    return fail(`${where}, then "${valueWords.join(' ')}"`, 'one value at the end');
  const written = valueWords[0]!;
  const fixed = VALUE_WORDS[written.toLowerCase()];
  const guessed = kind ?? fixed?.[0] ?? guessKind(index, written, spots as Spot[]);
  const value = parseReadingValue(guessed, fixed && guessed === fixed[0] ? fixed[1] : written);
  if (!value.ok) return fail(`${where}: ${value.what}`, value.expected);
  const atText = guessed === 'current' ? ((spots[0] as Spot).part?.ref ?? '') : pointText(at);
  const resolved = resolveMeasurement(
    index,
    setup ?? defaultSetup(guessed),
    guessed,
    atText,
    guessed === 'current' ? '' : to ? pointText(to) : '',
  );
  if (!resolved.ok) return fail(`${where}: ${resolved.what}`, resolved.expected);
  return { ok: true, reading: { measurement: resolved.measurement, value: value.value } };
}

/** A line about something that this board names as seen or heard of its unit: `display no`. */
function seenOrHeard(
  index: BoardIndex,
  [name = '', value = '', ...more]: readonly string[],
  setup: Setup | undefined,
): ShorthandResult | undefined {
  if (!(index.board.observables ?? []).some((one) => nameKey(one.name) === nameKey(name)))
    return undefined;
  // A net of the same name is measured, unless the word is an answer.
  const read = parseReadingValue('symptom', value);
  if (!read.ok && findSpot(index, name)) return undefined;
  if (!read.ok || more.length > 0)
    return { ok: false, empty: false, understood: name, expected: 'yes or no' };
  const resolved = resolveMeasurement(index, setup ?? '', 'symptom', name, '');
  return resolved.ok
    ? { ok: true, reading: { measurement: resolved.measurement, value: read.value } }
    : { ok: false, empty: false, understood: resolved.what, expected: resolved.expected };
}

/** A word of a shorthand line that names a place: a whole part, or one probe point. */
interface Spot {
  readonly part?: Part;
  readonly points: readonly Point[];
  /** A net that goes by the same name as the part. */
  readonly net?: Point;
}

function findSpot(index: BoardIndex, word: string): Spot | undefined {
  const part = index.partByKey.get(nameKey(word));
  if (part) {
    const points = part.pins.map((_, pin) => pinPoint(index, part, pin));
    const net = index.netByKey.get(nameKey(word));
    return net === undefined ? { part, points } : { part, points, net: { net } };
  }
  const point = findPoint(index, word);
  return point && { points: [point] };
}

function probes(spots: readonly Spot[]): readonly [Point | undefined, Point | undefined] {
  const [first, second] = spots as [Spot, Spot?];
  const single = ({ points, net }: Spot): Point | undefined =>
    points.length === 1 ? points[0] : net;
  if (second) {
    const [from, to] = [single(first), single(second)];
    return from && to ? [from, to] : [undefined, undefined];
  }
  if (first.points.length > 2) return [first.net, undefined];
  return [first.points[0], first.points[1]];
}

function guessKind(index: BoardIndex, written: string, spots: readonly Spot[]): ReadingKind {
  const parsed = parseQuantity(written);
  const part = spots.length === 1 ? spots[0]!.part : undefined;
  const own: ReadingKind | undefined =
    part && part.kind === 'capacitor'
      ? 'esr'
      : part?.kind === 'diode'
        ? 'diode'
        : part && !part.kind.endsWith('Source')
          ? 'resistance'
          : undefined;
  if (!parsed.ok) return own ?? 'voltage';
  if (/^[01]$/.test(written) && spots.every((spot) => isLogicPoint(index, spot))) return 'logic';
  const fromUnit = KIND_OF_UNIT[parsed.unit];
  if (fromUnit) return fromUnit === 'voltage' && part?.kind === 'diode' ? 'diode' : fromUnit;
  if (parsed.value === 'OL') return own === 'diode' ? 'diode' : 'resistance';
  return own ?? (/[kKM]|meg/.test(written) ? 'resistance' : 'voltage');
}

/**
 * Whether a lone `0` or `1` can only be a level at a place: a net of logic chips that is no supply.
 */
function isLogicPoint(index: BoardIndex, { points }: Spot): boolean {
  return points.every(({ net }) => {
    const on = index.pinsOfNet.get(net) ?? [];
    const told = on.some(({ part, index: pin }) => {
      if (part.kind !== 'chip') return false;
      const role = part.model.pins[pin]?.role;
      return role === 'input' || role === 'output' || role === 'both';
    });
    return told && !on.some(({ part }) => part.kind === 'voltageSource');
  });
}
