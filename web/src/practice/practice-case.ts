import type { Gate } from '@hanzai/core/bench';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { type Measurement, type ReadingValue } from '@hanzai/core/instrument';
import { formatCompact } from '@hanzai/core/quantity';
import { isWithoutSheet, type Action, type Attention } from '@hanzai/core/training';
import type { CaseView } from '../case/case-view';
import type { Entry, EntryBody } from '../case/entry';
import { isPowered, playJournal } from '../case/journal';
import { kindOf } from '../case/kinds';
import { lockedObjection, ownObjection, type entryObjection } from '../case/rules';
import { completedFor } from '../case/strip/grammar';
import { readingEntry, writtenPoints } from '../case/written-points';
import type { PracticeRun } from './run';

// An exercise as the screens of a case see it.

/** Whether the trainee has the sheet of the board: a case that was closed had it. */
export const hasSheet = ({ level, closed }: PracticeRun): boolean =>
  closed !== undefined || !isWithoutSheet(level);

/** The case that the screens show: of no unit, no owner, no number. */
export function practiceView(run: PracticeRun): CaseView {
  return {
    id: run.id,
    number: 0,
    version: 0,
    title: run.closed ? `As in case ${run.closed.number}` : run.board.title,
    unitModel: '',
    serial: '',
    owner: '',
    complaint: '',
    spendingLimit: null,
    promisedOn: null,
    waitsFor: '',
    waitsKind: '',
    unitType: '',
    accessories: '',
    stuckInside: '',
    causeOfDeath: '',
    earlierVisitors: '',
    mediaNote: '',
    batch: '',
    madeIn: null,
    hoursRun: null,
    codes: [],
    template: [],
    openedAt: run.startedAt,
    board: hasSheet(run) ? { id: run.id, content: run.board } : null,
    entries: run.entries,
    unreadable: 0,
  };
}

/**
 * Why an entry may not be made in an exercise. What a hazard locks is not refused but counted: the
 * bench lets one do it, and the debrief names it. Power rests on the bench, too: it blows what it
 * blows.
 */
export const practiceObjection: typeof entryObjection = (body, entries, index, model, solver) => {
  const journal = playJournal(entries, index);
  if (journal.closed) return 'the exercise is over';
  if (body.kind === 'reading')
    return 'in an exercise the meter gives the value: type the point in the reading line, and Enter';
  const back =
    body.kind === 'retract' ? entries.find(({ id }) => id === body.entry)?.body.kind : undefined;
  if (back === 'fitted') return 'what went on is on: take it off again in Repair';
  return ownObjection(body, entries, index, model, journal, solver!(index, journal));
};

/** The hazard that an entry passes by, in words, where nobody has acknowledged it. */
export function passedBy(
  body: EntryBody,
  entries: readonly Entry[],
  index: BoardIndex | undefined,
): string | undefined {
  const gate = kindOf(body.kind).gate?.(body);
  return gate && passedGate(gate, isPowered(body), entries, index);
}

function passedGate(
  gate: Gate,
  powered: boolean,
  entries: readonly Entry[],
  index: BoardIndex | undefined,
): string | undefined {
  return lockedObjection(playJournal(entries, index), index, undefined, gate)
    ? `${powered ? 'power' : 'a hand'} on a board whose hazards nobody had acknowledged`
    : undefined;
}

/** The hazard that hand work passes by, in words; undefined where it has none to pass. */
export function passedByDeed(
  deed: Attention,
  entries: readonly Entry[],
  index: BoardIndex,
): string | undefined {
  if (deed.do === 'zero' || deed.do === 'release') return undefined;
  const powered = deed.do === 'wait';
  return passedGate(powered ? 'power' : 'open', powered, entries, index);
}

/** What the bench of an exercise does where an entry is made; undefined where nothing. */
export function actionOf(body: EntryBody, entries: readonly Entry[]): Action | undefined {
  if (body.kind === 'fitted') return { do: 'replace', ref: body.ref };
  if (body.kind === 'removed') return { do: 'off', ref: body.ref };
  if (body.kind !== 'retract') return undefined;
  const back = entries.find(({ id }) => id === body.entry)?.body;
  return back?.kind === 'removed' ? { do: 'back', ref: back.ref } : undefined;
}

/** A measurement as an action. */
export function takeOf(m: Measurement): Extract<Action, { do: 'take' }> {
  if (m.observable)
    return { do: 'take', setup: m.setup, kind: m.kind, at: m.observable.name, to: '' };
  return { do: 'take', setup: m.setup, kind: m.kind, ...writtenPoints(m) };
}

/** The entry of what the meter of an exercise showed. */
export function readEntry(m: Measurement, value: ReadingValue): EntryBody {
  const { setup, kind, at, to } = takeOf(m);
  const shown = typeof value === 'number' ? formatCompact(value, '') : value.toLowerCase();
  const typed = completedFor({ setup, kind, at, to }, shown) ?? `${at} ${to} ${shown}`;
  return readingEntry(m, value, typed.trim());
}

/**
 * Whether the ledger is whole: nothing is off, and all that went on had been condemned with a
 * reason.
 */
export function isTidy(entries: readonly Entry[], index: BoardIndex | undefined): boolean {
  const { missing, ledger, condemned } = playJournal(entries, index);
  const named = new Set(condemned.map(({ body }) => nameKey(body.ref)));
  return (
    missing.length === 0 &&
    ledger.every(({ ref, action }) => action === 'removed' || named.has(nameKey(ref)))
  );
}
