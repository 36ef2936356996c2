import type { Acknowledged, LedgerLine, LoggedStep, Residual } from '@hanzai/core/bench';
import { absentParts, missingParts } from '@hanzai/core/bench';
import type { ProofAnswer } from '@hanzai/core/prove';
import type { BoardIndex } from '@hanzai/core/board';
import type { MeterProfile, Reading, ReadingKind } from '@hanzai/core/instrument';
import type { Entry, EntryBody } from './entry';
import { kindOf } from './kinds';

/** An entry of one kind; of several kinds, one for each. */
export type Of<K extends EntryBody['kind']> = K extends unknown
  ? Entry & { body: Extract<EntryBody, { kind: K }> }
  : never;

/** A reading with the entry it came from. */
export interface TakenReading extends Reading {
  readonly entry: Of<'reading'>;
  /** True where it was taken after the last repair: it speaks of the board as it is now. */
  readonly current: boolean;
  /** Taken of a simulated board: it traces, and neither proves nor opens a gate. */
  readonly isSimulated: boolean;
  /** The workshop's instrument that took it; undefined for the standard meter. */
  readonly by?: string | undefined;
}

/** An instrument of the workshop, as it was when it was taken into use. */
export interface MeterInUse {
  readonly name: string;
  readonly profile: MeterProfile;
}

/** A reading that no sheet places. */
export interface TakenLoose {
  /** Taken of a simulated board. */
  readonly isSimulated: boolean;
  readonly entry: Of<'reading'>;
  readonly current: boolean;
}

/** A case's journal put together: what stands after every retraction. */
export interface Journal {
  /** Places of the entries that stand, by their id: what came after what. */
  readonly order: ReadonlyMap<string, number>;
  /** The entries that stand, in the order made, without the takings back. */
  readonly standing: readonly Entry[];
  readonly symptoms: readonly Of<'symptom'>[];
  readonly findings: readonly Of<'finding'>[];
  readonly readings: readonly TakenReading[];
  /** Readings at points that no sheet of the case has: told, and used where there is none. */
  readonly loose: readonly TakenLoose[];
  /** Proposed readings that are not taken, with the reason. */
  readonly skips: readonly Of<'skip'>[];
  /** Zeros of the ESR meter's leads, oldest first. */
  readonly zeros: readonly Of<'leadZero'>[];
  /** Capacitors that were measured by themselves, oldest first. */
  readonly offBoards: readonly Of<'offBoard'>[];
  /** What each kind is read with now, where it is not the standard meter. */
  readonly meters: ReadonlyMap<ReadingKind, MeterInUse>;
  /** Guided checks, oldest first. */
  readonly guided: readonly Of<'guided'>[];
  /** Capacitors that were listed where there is no sheet; empty where none were. */
  readonly quickList: string;
  /** How far the replacement goes; undefined where nobody has said so. */
  readonly extent: Of<'extent'> | undefined;
  /** What was said of chips, the newest of each last. */
  readonly chips: readonly Of<'chip'>[];
  /** Suspected chips in a unit that works, oldest first. */
  readonly chipSwaps: readonly Of<'chipSwap'>[];
  /** What was laid into the unit and is still in it. */
  readonly inside: readonly Of<'inside'>[];
  /** Things that can be set, as they were found, and every touch of them, oldest first. */
  readonly asFound: readonly Of<'asFound'>[];
  readonly turned: readonly Of<'turned'>[];
  /** Runs of the unit, oldest first, and those since it was last repaired or set. */
  readonly runs: readonly Of<'run'>[];
  readonly runsSince: readonly Of<'run'>[];
  /** Rails that a person named. */
  readonly rails: readonly Of<'rail'>[];
  readonly condemned: readonly Of<'condemn'>[];
  readonly ledger: readonly (LedgerLine & { readonly entry: Entry })[];
  readonly answers: readonly ProofAnswer[];
  /** Parts off the board now. */
  readonly absent: readonly string[];
  /** Those of them that are not left out on purpose. */
  readonly missing: readonly string[];
  readonly starts: readonly Of<'start'>[];
  /**
   * Starts, codes, patterns, trials, checks and first aid in the order made: what speaks of the
   * unit's blocks.
   */
  readonly blockEvents: readonly Of<'start' | 'code' | 'pattern' | 'trial' | 'check' | 'aid'>[];
  /** How many of them come before the last repair. */
  readonly eventsBeforeRepair: number;
  readonly acknowledged: readonly (Acknowledged & { readonly entry: Entry })[];
  readonly residuals: readonly (Residual & { readonly entry: Of<'residual'> })[];
  /**
   * Power on the board as it stands, on purpose, with the reason; undefined where nobody said so
   * since the last line of the ledger.
   */
  readonly powerAnyway: Of<'powerAnyway'> | undefined;
  /** Every time somebody said so: the report keeps the reasons. */
  readonly powered: readonly Of<'powerAnyway'>[];
  /** Kill checks whose newest result is a failure, with no decision since. */
  readonly undecided: readonly Of<'check'>[];
  readonly decision: Of<'decision'> | undefined;
  /** What the owner agreed to, oldest first. */
  readonly consents: readonly Of<'consent'>[];
  /** Starts up to the last repair, and since. */
  readonly startsSince: readonly Of<'start'>[];
  readonly startsBefore: readonly Of<'start'>[];
  readonly steps: readonly LoggedStep[];
  readonly seen: readonly Of<'seen'>[];
  readonly pictures: readonly Of<'picture'>[];
  readonly pins: readonly Of<'pin'>[];
  readonly timers: readonly Timer[];
  /** Where work was left, when nothing was entered since. */
  readonly pausedAt: Of<'pause'> | undefined;
  readonly closed: boolean;
  /** How it was handed back last; undefined where it never was. */
  readonly closing: Of<'close'> | undefined;
  /** The day on which somebody asks how it runs; undefined where nobody has to any more. */
  readonly followUpOn: string | undefined;
  readonly followUps: readonly Of<'followedUp'>[];
  readonly moments: readonly number[];
}

/** A timer with what is known of it. */
export interface Timer {
  readonly entry: Of<'timer'>;
  readonly done: boolean;
  /** Hours of daylight so far, for bleaching. */
  readonly daylightHours: number;
}

/** When a timer runs out, milliseconds; undefined where daylight decides. */
export function timerEnd({ entry }: Timer): number | undefined {
  return entry.body.what === 'bleach'
    ? undefined
    : Date.parse(entry.madeAt) + entry.body.hours * 3_600_000;
}

export function isTimerDue(timer: Timer, now: number): boolean {
  const end = timerEnd(timer);
  return (
    !timer.done && (end === undefined ? timer.daylightHours >= timer.entry.body.hours : now >= end)
  );
}

/** What a case is made of while its journal is played. Every kind of entry adds its part. */
export interface Draft {
  readonly index: BoardIndex | undefined;
  /** Whether an entry came after the last repair, and after power was last on. */
  readonly isSinceRepair: (entry: Entry) => boolean;
  readonly isSincePower: (entry: Entry) => boolean;
  readonly symptoms: Of<'symptom'>[];
  readonly findings: Of<'finding'>[];
  readonly readings: TakenReading[];
  readonly loose: TakenLoose[];
  readonly rails: Of<'rail'>[];
  readonly chips: Of<'chip'>[];
  readonly chipSwaps: Of<'chipSwap'>[];
  readonly inside: Map<string, Of<'inside'>>;
  readonly asFound: Of<'asFound'>[];
  readonly turned: Of<'turned'>[];
  readonly runs: Of<'run'>[];
  readonly skips: Of<'skip'>[];
  readonly zeros: Of<'leadZero'>[];
  readonly offBoards: Of<'offBoard'>[];
  readonly extents: Of<'extent'>[];
  readonly meters: Map<ReadingKind, MeterInUse>;
  readonly guided: Of<'guided'>[];
  quickList: string;
  readonly condemned: Map<string, Of<'condemn'>>;
  readonly ledger: (LedgerLine & { readonly entry: Entry })[];
  readonly answers: ProofAnswer[];
  readonly starts: Of<'start'>[];
  readonly blockEvents: Of<'start' | 'code' | 'pattern' | 'trial' | 'check' | 'aid'>[];
  readonly acknowledged: (Acknowledged & { readonly entry: Entry })[];
  readonly residuals: (Residual & { readonly entry: Of<'residual'> })[];
  readonly powered: Of<'powerAnyway'>[];
  readonly decisions: Of<'decision'>[];
  readonly consents: Of<'consent'>[];
  readonly steps: Of<'step'>[];
  /** Pieces put back, by the id of their step. */
  readonly backOf: Map<string, number>;
  readonly seen: Of<'seen'>[];
  readonly pictures: Of<'picture'>[];
  readonly pins: Of<'pin'>[];
  readonly timers: Of<'timer'>[];
  /** By the id of their timer: hours of daylight, and those that are done. */
  readonly daylightOf: Map<string, number>;
  readonly timersDone: Set<string>;
  closed: boolean;
  readonly closings: Of<'close'>[];
  readonly followUps: Of<'followedUp'>[];
}

/**
 * True for what had power on: a probe on a live board, or a start. What was seen or heard is told
 * of an earlier one.
 */
export function isPowered(body: EntryBody): boolean {
  return kindOf(body.kind).powered?.(body) === true;
}

const ENDS_OR_GOES_ON: readonly string[] = ['go-on', 'donor', 'give-up'];

/** Kill checks whose newest result is a failure and after which nothing was decided. */
function undecidedChecks(standing: readonly Entry[]): readonly Of<'check'>[] {
  // Deciding what is done about the fault is no answer to whether the job goes on at all.
  const decided = standing.findLastIndex(
    ({ body }) => body.kind === 'decision' && ENDS_OR_GOES_ON.includes(body.course),
  );
  const newest = new Map<string, { entry: Of<'check'>; at: number }>();
  standing.forEach((entry, at) => {
    if (entry.body.kind === 'check' && entry.body.kill)
      newest.set(entry.body.title, { entry: entry as Of<'check'>, at });
  });
  return [...newest.values()].flatMap(({ entry, at }) =>
    !entry.body.good && at > decided ? [entry] : [],
  );
}

/**
 * How many repairs stand: the epoch of the next entry. What was read in an earlier one speaks of
 * another board.
 */
export function epochOf(standing: readonly Entry[]): number {
  return standing.filter(({ body }) => kindOf(body.kind).repairs).length;
}

/** What stands of a journal: what was taken back does not. */
function standingOf(entries: readonly Entry[]): readonly Entry[] {
  const retracted = new Set(
    entries.flatMap(({ body }) => (body.kind === 'retract' ? [body.entry] : [])),
  );
  return entries.filter(({ id }) => !retracted.has(id));
}

function emptyDraft(
  index: BoardIndex | undefined,
  isSinceRepair: Draft['isSinceRepair'],
  isSincePower: Draft['isSincePower'],
): Draft {
  return {
    index,
    isSinceRepair,
    isSincePower,
    symptoms: [],
    findings: [],
    readings: [],
    loose: [],
    rails: [],
    chips: [],
    chipSwaps: [],
    inside: new Map(),
    asFound: [],
    turned: [],
    runs: [],
    skips: [],
    zeros: [],
    offBoards: [],
    extents: [],
    meters: new Map(),
    guided: [],
    quickList: '',
    condemned: new Map(),
    ledger: [],
    answers: [],
    starts: [],
    blockEvents: [],
    acknowledged: [],
    residuals: [],
    powered: [],
    decisions: [],
    consents: [],
    steps: [],
    backOf: new Map(),
    seen: [],
    pictures: [],
    pins: [],
    timers: [],
    daylightOf: new Map(),
    timersDone: new Set(),
    closed: false,
    closings: [],
    followUps: [],
  };
}

/**
 * Whether an entry came after another one. By their order, not by their clocks: a clock is set back,
 * and a tablet's is not that of the bench.
 */
export const isLater = (
  order: Journal['order'],
  one: Pick<Entry, 'id'>,
  other: Pick<Entry, 'id'>,
): boolean => (order.get(one.id) ?? -1) > (order.get(other.id) ?? -1);

/** The day of a closing that nobody has asked about since. */
function followUpOf(
  { closed, closings, followUps }: Draft,
  order: Journal['order'],
): string | undefined {
  const last = closings.at(-1);
  const asked = last && followUps.some((one) => isLater(order, one, last));
  return closed && !asked ? last?.body.followUpOn : undefined;
}

/**
 * Plays a journal from the start: each entry adds what its kind says. Readings whose points the
 * board does not have (another board was chosen since) are left out.
 * A part fitted, or left out on purpose, makes another board: what was read and answered before
 * speaks of the old one.
 */
export function playJournal(entries: readonly Entry[], index: BoardIndex | undefined): Journal {
  const standing = standingOf(entries);
  const place = new Map(standing.map(({ id }, i) => [id, i]));
  const after =
    (i: number) =>
    (entry: Entry): boolean =>
      place.get(entry.id)! > i;
  const lastRepair = standing.findLastIndex(({ body }) => kindOf(body.kind).repairs);
  const sinceRepair = after(lastRepair);
  const lastTurn = standing.findLastIndex(({ body }) => body.kind === 'turned');
  const sincePower = after(standing.findLastIndex(({ body }) => isPowered(body)));
  const sinceLine = after(standing.findLastIndex(({ body }) => kindOf(body.kind).ledger));
  const draft = emptyDraft(index, sinceRepair, sincePower);
  for (const entry of standing) kindOf(entry.body.kind).add(draft, entry);
  const { starts, powered, blockEvents, ledger } = draft;
  const last = standing.at(-1);
  const kept = standing.filter(({ body }) => body.kind !== 'retract');
  const order = new Map(kept.map(({ id }, i) => [id, i]));
  return {
    standing: kept,
    order,
    symptoms: draft.symptoms,
    findings: draft.findings,
    readings: draft.readings,
    loose: draft.loose,
    inside: [...draft.inside.values()],
    asFound: draft.asFound,
    turned: draft.turned,
    runs: draft.runs,
    runsSince: draft.runs.filter(after(Math.max(lastRepair, lastTurn))),
    rails: draft.rails,
    chips: draft.chips,
    chipSwaps: draft.chipSwaps,
    skips: draft.skips,
    zeros: draft.zeros,
    offBoards: draft.offBoards,
    meters: draft.meters,
    guided: draft.guided,
    quickList: draft.quickList,
    extent: draft.extents.at(-1),
    condemned: [...draft.condemned.values()],
    ledger,
    answers: draft.answers,
    absent: absentParts(ledger),
    missing: missingParts(ledger),
    starts,
    startsBefore: lastRepair < 0 ? starts : starts.filter((entry) => !sinceRepair(entry)),
    startsSince: lastRepair < 0 ? [] : starts.filter(sinceRepair),
    blockEvents,
    eventsBeforeRepair: blockEvents.filter((entry) => !sinceRepair(entry)).length,
    acknowledged: draft.acknowledged,
    residuals: draft.residuals,
    powerAnyway: powered.filter(sinceLine).at(-1),
    powered,
    undecided: undecidedChecks(standing),
    decision: draft.decisions.at(-1),
    consents: draft.consents,
    steps: draft.steps.map(({ id, body }) => ({
      ...body.step,
      id,
      back: draft.backOf.get(id) ?? 0,
    })),
    seen: draft.seen,
    pictures: draft.pictures,
    pins: draft.pins,
    timers: draft.timers.map((entry) => ({
      entry,
      done: draft.timersDone.has(entry.id),
      daylightHours: draft.daylightOf.get(entry.id) ?? 0,
    })),
    pausedAt: last?.body.kind === 'pause' ? (last as Of<'pause'>) : undefined,
    closed: draft.closed,
    closing: draft.closings.at(-1),
    followUpOn: followUpOf(draft, order),
    followUps: draft.followUps,
    moments: entries.map(({ madeAt }) => Date.parse(madeAt)),
  };
}
