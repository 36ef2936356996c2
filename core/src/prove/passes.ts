import type { ProofWants, RunMedium } from '../block';
import { countAtMost, shareAtMost } from '../statistics';

/** How the unit was when it ran; several at once. */
export const RUN_STATES = [
  'part assembled',
  'closed',
  'in its place',
  'cold',
  'warm',
  'after a power cycle',
] as const;
export type RunState = (typeof RUN_STATES)[number];

/** Passes over a medium, or of what the unit does without one. */
export interface Run {
  /** What stands on the medium; empty for none. */
  readonly medium: string;
  readonly kind: RunMedium;
  /** Where on it: `first track`, `side 1`; empty for all of it. */
  readonly where: string;
  readonly states: readonly RunState[];
  /** Whole passes that came out right, and those that did not. A foreign one is right where it is refused. */
  readonly passes: number;
  readonly errors: number;
}

/** Passes of one medium in the states that they were made in. */
export interface RunRow {
  readonly medium: string;
  readonly kind: RunMedium;
  readonly where: string;
  readonly passes: number;
  readonly errors: number;
  readonly byState: Readonly<Partial<Record<RunState, { passes: number; errors: number }>>>;
}

/** Runs by medium and place, in the order in which they were first made. */
export function runTable(runs: readonly Run[]): readonly RunRow[] {
  const rows = new Map<string, { -readonly [K in keyof RunRow]: RunRow[K] }>();
  for (const { medium, kind, where, states, passes, errors } of runs) {
    const key = JSON.stringify([medium, kind, where]);
    const row = rows.get(key) ?? { medium, kind, where, passes: 0, errors: 0, byState: {} };
    rows.set(key, row);
    row.passes += passes;
    row.errors += errors;
    const byState = { ...row.byState };
    for (const state of states) {
      const cell = byState[state] ?? { passes: 0, errors: 0 };
      byState[state] = { passes: cell.passes + passes, errors: cell.errors + errors };
    }
    row.byState = byState;
  }
  return [...rows.values()];
}

/** What was shown, and what was not. Nothing in it says that the unit works. */
export interface ProofStatement {
  readonly passes: number;
  readonly errors: number;
  /** Largest share of passes with an error that is left open; 1 where nothing ran. */
  readonly rateBelow: number;
  readonly confidence: number;
  /** Media that it was shown on, without the ones to be refused. */
  readonly media: readonly string[];
  readonly states: readonly RunState[];
  /** Errors an hour left open by the hours of soak without one; undefined where none were. */
  readonly perHourBelow: number | undefined;
  /** What of the archetype’s list, or of every unit’s, was not tried. */
  readonly notTried: readonly string[];
}

/** States that a proof names where nobody tried them. */
const NAMED: readonly RunState[] = ['closed', 'cold', 'warm', 'after a power cycle'];

/**
 * The statement of a proof. Passes count whole: tracks beside each other fail together, so that a
 * hundred tracks of one medium are one pass of it. soakHours: hours of soak that ran to their end.
 * Source of the bound: Clopper & Pearson, Biometrika 26, 1934; of the soak: Garwood, Biometrika 28,
 * 1936.
 */
export function proofStatement(
  runs: readonly Run[],
  wants: ProofWants | undefined,
  soakHours: number,
  confidence = 0.95,
): ProofStatement {
  const own = runs.filter(({ kind }) => kind !== 'foreign');
  const passes = own.reduce((sum, run) => sum + run.passes, 0);
  const errors = own.reduce((sum, run) => sum + run.errors, 0);
  const ran = (test: (run: Run) => boolean): boolean =>
    runs.some((run) => run.passes > 0 && test(run));
  return {
    passes,
    errors,
    rateBelow: shareAtMost(errors, passes + errors, confidence),
    confidence,
    media: [...new Set(own.filter((run) => run.passes > 0).map(mediumWords))],
    states: RUN_STATES.filter((state) => ran(({ states }) => states.includes(state))),
    perHourBelow: soakHours > 0 ? countAtMost(0, confidence) / soakHours : undefined,
    notTried: [
      ...(wants?.media ?? [])
        .filter(({ kind }) => !ran((run) => run.kind === kind))
        .map(({ title }) => title),
      ...(wants?.places ?? []).filter((place) => !ran(({ where }) => where === place)),
      ...NAMED.filter((state) => !ran(({ states }) => states.includes(state))),
    ],
  };
}

const mediumWords = ({ medium, kind }: Run): string =>
  kind === 'none' ? 'what it does' : medium.trim() === '' ? kind : medium.trim();

/** Per cent with two figures, rounded up: a bound is never said smaller than it is. */
export function boundText(share: number): string {
  if (share >= 1) return '100 %';
  const power = Math.floor(Math.log10(100 * share)) - 1;
  const rounded = Math.ceil(100 * share * 10 ** -power - 1e-9) / 10 ** -power;
  return `${Number(rounded.toPrecision(2))} %`;
}

/** The statement in words, for the screen and for paper. */
export function statementWords(of: ProofStatement): string {
  if (of.passes + of.errors === 0) return 'Nothing was run since the last repair.';
  const media =
    of.media.length === 0
      ? ''
      : `, ${of.media.length === 1 ? of.media[0]! : `${of.media.length} media`}`;
  const states = of.states.length === 0 ? '' : `, ${of.states.join(', ')}`;
  const soak =
    of.perHourBelow === undefined
      ? ''
      : `; soaked without an error: fewer than ${Number(of.perHourBelow.toPrecision(2))} an hour`;
  return `Error rate below ${boundText(of.rateBelow)} at ${100 * of.confidence} % (${of.errors} of ${of.passes + of.errors} passes with an error)${media}${states}${soak}.`;
}
