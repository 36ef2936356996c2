import { readdirSync, readFileSync } from 'node:fs';
import { LIBRARY, RATES } from '@hanzai/data';
import { indexBoard, readDeck, replaceableRef, type BoardIndex } from '../../src/board';
import { Diagnoser, type Belief } from '../../src/diagnosis';
import { resolveMeasurement, type Reading } from '../../src/instrument';

/**
 * One case of the corpus that the reference simulator made (scripts/reference-corpus.mjs): what is
 * really so, what the sheet says, what was read.
 */
export interface CorpusCase {
  readonly board: string;
  readonly kind: 'single' | 'pair' | 'sound';
  /** [ref, mode, severity] of each fault. */
  readonly truth: readonly (readonly [string, string, number])[];
  /** For each fault the parts that these readings cannot tell from it, itself included. */
  readonly alike: readonly (readonly string[])[];
  readonly sheet: {
    readonly esrStated: boolean;
    readonly missing: readonly string[];
    readonly wrong: Readonly<Record<string, number>>;
  };
  /** [kind, at, to, value]. */
  readonly readings: readonly (readonly [string, string, string, number | 'OL'])[];
}

const folder = new URL('./corpus/', import.meta.url);

export function corpusCases(): readonly CorpusCase[] {
  const files = readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .sort();
  return files.flatMap(
    (name) =>
      (JSON.parse(readFileSync(new URL(name, folder), 'utf8')) as { cases: CorpusCase[] }).cases,
  );
}

/** True where the sheet is as the board is, but for tolerance. */
export const isExact = ({ sheet }: CorpusCase): boolean =>
  sheet.esrStated && sheet.missing.length === 0 && Object.keys(sheet.wrong).length === 0;

/**
 * The deck of a case with what is wrong with its sheet: parts not drawn, a value typed wrongly, no
 * ESR.
 */
export function sheetOf({ board, sheet }: CorpusCase): BoardIndex {
  const gone = new Set(sheet.missing);
  const lines = readFileSync(new URL(`${board}.cir`, folder), 'utf8')
    .split('\n')
    .flatMap((line, i) => {
      const words = line.split(' ');
      const ref = words[0] === '*@' ? words[1]! : words[0]!;
      if (i > 0 && gone.has(ref)) return [];
      const typed = sheet.wrong[ref];
      if (words[0] === '*@') return [sheet.esrStated ? line : line.replace(/ esr=\S+/, '')];
      return [i > 0 && typed !== undefined ? `${words.slice(0, 3).join(' ')} ${typed}` : line];
    });
  const read = readDeck(lines.join('\n'), LIBRARY);
  if (!read.ok) throw new Error(`${board}: ${JSON.stringify(read.issues)}`);
  return indexBoard(read.value);
}

/** The readings as far as the sheet has the places where they were taken. */
export function readingsOf(index: BoardIndex, { readings }: CorpusCase): readonly Reading[] {
  return readings.flatMap(([kind, at, to, value]) => {
    const found = resolveMeasurement(index, '', kind, at, to);
    return found.ok ? [{ measurement: found.measurement, value }] : [];
  });
}

export interface Scored {
  readonly first: boolean;
  readonly three: boolean;
  /** Both of a pair among the first four. */
  readonly four: boolean;
  /** A sound board that is left in peace. */
  readonly peace: boolean;
  readonly noneLeads: boolean;
  readonly belief: Belief;
}

/**
 * Whether a suspect stands for one of these parts: itself, or a track or bridge at one of its pins,
 * which is the same to a meter.
 */
export function standsFor(ref: string, parts: readonly string[]): boolean {
  const own = parts.map(replaceableRef);
  return (
    own.includes(ref) ||
    (ref.includes('~') && ref.split('~').some((place) => own.includes(replaceableRef(place))))
  );
}

export function score(one: CorpusCase): Scored {
  const index = sheetOf(one);
  const belief = new Diagnoser(index, RATES).believe(readingsOf(index, one));
  const refs = belief.byPart.map(({ ref }) => ref);
  const among = (count: number, alike: readonly string[]): boolean =>
    refs.slice(0, count).some((ref) => standsFor(ref, alike));
  return {
    first: one.alike.some((alike) => among(1, alike)),
    three: one.alike.some((alike) => among(3, alike)),
    four: one.alike.every((alike) => among(4, alike)),
    peace: belief.byPart[0]!.probability <= 0.5 && belief.unmodelled < 0.5,
    noneLeads: belief.unmodelled > Math.max(belief.healthy, belief.byPart[0]!.probability),
    belief,
  };
}

/**
 * What must be reached on the corpus, as shares of its kinds of cases: true part first, among
 * three, both of a pair among the first four, sound boards in peace; and of all at most so many
 * with "none of these" in the lead.
 */
export const THRESHOLDS = {
  first: 0.85,
  three: 0.95,
  four: 0.8,
  peace: 0.9,
  noneLeads: 0.05,
} as const;

/**
 * The thresholds that these results do not reach, in words. slack: cases of each kind that a sample
 * may fall short of them.
 */
export function thresholdsMissed(
  results: readonly { readonly one: CorpusCase; readonly scored: Scored }[],
  slack = 0,
): readonly string[] {
  const share = (
    kind: CorpusCase['kind'] | undefined,
    what: (scored: Scored) => boolean,
  ): number => {
    const own = results.filter(({ one }) => kind === undefined || one.kind === kind);
    return Math.min(
      1,
      (own.filter(({ scored }) => what(scored)).length + (kind === undefined ? 0 : slack)) /
        Math.max(1, own.length),
    );
  };
  const reached = {
    first: share('single', ({ first }) => first),
    three: share('single', ({ three }) => three),
    four: share('pair', ({ four }) => four),
    peace: share('sound', ({ peace }) => peace),
  };
  const low = (Object.keys(reached) as (keyof typeof reached)[]).filter(
    (name) => reached[name] < THRESHOLDS[name],
  );
  const none = share(undefined, ({ noneLeads }) => noneLeads);
  return [
    ...low.map((name) => `${name}: ${reached[name].toFixed(3)} below ${THRESHOLDS[name]}`),
    ...(none > THRESHOLDS.noneLeads
      ? [`none of these leads: ${none.toFixed(3)} above ${THRESHOLDS.noneLeads}`]
      : []),
  ];
}
