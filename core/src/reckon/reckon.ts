import { combinedUncertainty, rectangular } from '../quantity';
import {
  NoAnswer,
  type Calculator,
  type Field,
  type FigureUnit,
  type Found,
  type Values,
} from './calculator';
import { figureText, readFigure, type ReadFigure } from './figures';

/** What stands in the fields of a calculator, by their names, as it was typed. */
export type Typed = Readonly<Record<string, string>>;

/** A line of an answer in words, with the interval where what was typed has a tolerance. */
export interface AnswerLine {
  readonly name: string;
  readonly label: string;
  readonly text: string;
  /** Undefined for words. */
  readonly value?: number;
  /** Between what it lies at 95 %, where something typed has a tolerance. */
  readonly interval?: { readonly low: number; readonly high: number; readonly text: string };
}

export type Answer =
  | { readonly ok: true; readonly lines: readonly AnswerLine[]; readonly words: string }
  | {
      readonly ok: false;
      /** By field, what is expected there. */
      readonly fields: Readonly<Record<string, string>>;
      /** What stands against all of it together; empty where a field is the reason. */
      readonly why: string;
    };

/** What two standard uncertainties cover of a normal distribution is 95 %. Source: JCGM 100:2008, G.3.2. */
const COVERAGE = 1.96;

/** The typed values of a calculator as it begins. */
export const beginning = ({ fields }: Calculator): Typed =>
  Object.fromEntries(fields.map(({ name, example }) => [name, example]));

interface Read {
  readonly figures: ReadonlyMap<string, ReadFigure | undefined>;
  readonly lists: ReadonlyMap<string, readonly ReadFigure[]>;
  readonly words: ReadonlyMap<string, string>;
}

/**
 * Reckons with what was typed. Tolerances are limits within which a value lies anywhere; they are
 * combined by their effect on each result, one by one and to either side.
 * Source: JCGM 100:2008 (GUM), 4.3.7, 5.1.2 and 5.1.3 note 2.
 */
export function reckon(calculator: Calculator, typed: Typed): Answer {
  const read = readAll(calculator.fields, typed);
  if (!read.ok) return { ok: false, fields: read.fields, why: '' };
  try {
    const results = calculator.reckon(valuesOf(read.value));
    for (const result of results)
      if ('value' in result && Number.isNaN(result.value))
        throw new NoAnswer('these values have no answer together');
    const spread = spreadOf(calculator, read.value, results.length);
    const lines = results.map((result, i): AnswerLine => {
      const { name, label } = result;
      if ('text' in result) return { name, label, text: result.text };
      const { value, unit } = result;
      const off = COVERAGE * (spread[i] ?? 0);
      return {
        name,
        label,
        value,
        text: figureText(value, unit),
        ...(off > 0 && Number.isFinite(off)
          ? {
              interval: {
                low: value - off,
                high: value + off,
                text: `${figureText(value - off, unit)} to ${figureText(value + off, unit)}`,
              },
            }
          : {}),
      };
    });
    return { ok: true, lines, words: calculator.say(valuesOf(read.value), foundOf(lines)) };
  } catch (error) {
    if (!(error instanceof NoAnswer)) throw error;
    return { ok: false, fields: {}, why: error.message };
  }
}

/** One result over a range of one field, the others as typed. */
export interface Sweep {
  readonly label: string;
  readonly unit: FigureUnit;
  readonly points: readonly { readonly at: number; readonly value: number }[];
}

/** Points of a sweep: enough for a smooth line. */
const POINTS = 81;

/**
 * Sweeps one figure from a tenth to ten times what was typed, by ratio; degrees and what is zero or
 * below by difference. Points without an answer are left out. undefined where nothing can be swept.
 */
export function sweep(
  calculator: Calculator,
  typed: Typed,
  field: string,
  result = '',
): Sweep | undefined {
  const read = readAll(calculator.fields, typed);
  const of = calculator.fields.find((one) => one.name === field);
  if (!read.ok || of?.kind !== 'figure') return undefined;
  const middle = read.value.figures.get(field)?.value;
  if (middle === undefined) return undefined;
  const byRatio = middle > 0 && of.unit !== 'degC';
  let label = '';
  let unit: FigureUnit = '';
  const places = new Set<number>();
  for (let i = 0; i < POINTS; i += 1) {
    const share = i / (POINTS - 1);
    const at = byRatio
      ? middle * 10 ** (2 * share - 1)
      : middle + (2 * share - 1) * Math.max(50, Math.abs(middle));
    const place = of.whole ? Math.round(at) : at;
    if (place >= (of.least ?? -Infinity) && place <= (of.most ?? Infinity)) places.add(place);
  }
  const points = [...places].flatMap((at) => {
    const figures = new Map(read.value.figures).set(field, { value: at, limit: 0 });
    try {
      const all = calculator.reckon(valuesOf({ ...read.value, figures }));
      const one = all.find((line) => 'value' in line && (result === '' || line.name === result));
      if (!one || !('value' in one) || !Number.isFinite(one.value)) return [];
      ({ label, unit } = one);
      return [{ at, value: one.value }];
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error;
      return [];
    }
  });
  return points.length > 1 ? { label, unit, points } : undefined;
}

function readAll(
  fields: readonly Field[],
  typed: Typed,
):
  | { readonly ok: true; readonly value: Read }
  | { readonly ok: false; readonly fields: Record<string, string> } {
  const figures = new Map<string, ReadFigure | undefined>();
  const lists = new Map<string, readonly ReadFigure[]>();
  const words = new Map<string, string>();
  const wrong: Record<string, string> = {};
  for (const field of fields) {
    const { name } = field;
    const own = (typed[name] ?? '').trim();
    if (field.kind === 'choice') {
      if (!field.choices.some(({ value }) => value === own))
        wrong[name] = `one of ${field.choices.map((one) => one.words).join(', ')}`;
      words.set(name, own);
    } else if (field.kind === 'words') {
      if (own === '' && !field.optional) wrong[name] = `something such as ${field.example}`;
      words.set(name, own);
    } else if (field.kind === 'list') {
      const parts = own.split(/[\s;]+/).filter(Boolean);
      const read = parts.map((one) => readFigure(one, field.unit));
      const bad = read.find((one) => !one.ok);
      if (parts.length === 0) wrong[name] = `values such as ${field.example}`;
      else if (bad) wrong[name] = bad.expected;
      else
        lists.set(
          name,
          read.flatMap((one) => (one.ok ? [one.value] : [])),
        );
    } else if (own === '' && field.optional) figures.set(name, undefined);
    else {
      const read = readFigure(own, field.unit);
      const why = read.ok ? outside(field, read.value) : read.expected;
      if (why === undefined && read.ok) figures.set(name, read.value);
      else wrong[name] = why!;
    }
  }
  return Object.keys(wrong).length > 0
    ? { ok: false, fields: wrong }
    : { ok: true, value: { figures, lists, words } };
}

function outside(
  { unit, whole, least = -Infinity, most = Infinity }: Extract<Field, { kind: 'figure' }>,
  { value }: ReadFigure,
): string | undefined {
  if (whole && !Number.isInteger(value)) return 'a whole number';
  if (value < least) return `${figureText(least, unit)} or more`;
  return value > most ? `${figureText(most, unit)} or less` : undefined;
}

function valuesOf({ figures, lists, words }: Read): Values {
  return {
    figure: (name) => {
      const one = figures.get(name);
      if (!one) throw new NoAnswer(`${name} is needed for this`);
      return one.value;
    },
    maybe: (name) => figures.get(name)?.value,
    list: (name) => (lists.get(name) ?? []).map(({ value }) => value),
    words: (name) => words.get(name) ?? '',
  };
}

const foundOf = (lines: readonly AnswerLine[]): Found => ({
  text: (name) => lines.find((line) => line.name === name)?.text ?? '',
  value: (name) => lines.find((line) => line.name === name)?.value ?? Number.NaN,
});

/** Standard uncertainty of each numeric result, 0 where nothing has a tolerance. */
function spreadOf(calculator: Calculator, read: Read, results: number): readonly number[] {
  const contributions = Array.from({ length: results }, (): number[] => []);
  const moved = (change: (by: number) => Read, limit: number): void => {
    if (limit <= 0) return;
    const own = rectangular(limit);
    const [up, down] = [own, -own].map((by) => {
      try {
        return calculator.reckon(valuesOf(change(by)));
      } catch (error) {
        if (error instanceof NoAnswer) return undefined;
        throw error;
      }
    });
    contributions.forEach((list, i) => {
      const [high, low] = [up?.[i], down?.[i]];
      if (high && low && 'value' in high && 'value' in low) list.push((high.value - low.value) / 2);
    });
  };
  for (const [name, one] of read.figures)
    if (one)
      moved(
        (by) => ({
          ...read,
          figures: new Map(read.figures).set(name, { ...one, value: one.value + by }),
        }),
        one.limit,
      );
  for (const [name, list] of read.lists)
    list.forEach((one, i) =>
      moved(
        (by) => ({
          ...read,
          lists: new Map(read.lists).set(
            name,
            list.map((each, k) => (k === i ? { ...each, value: each.value + by } : each)),
          ),
        }),
        one.limit,
      ),
    );
  return contributions.map((list) => combinedUncertainty(list));
}
