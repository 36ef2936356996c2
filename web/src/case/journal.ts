import type {
  Acknowledged,
  LedgerLine,
  LoggedStep,
  ProofAnswer,
  Residual,
} from '@hanzai/core/bench';
import { absentParts, missingParts } from '@hanzai/core/bench';
import { powerOf, type BoardIndex } from '@hanzai/core/board';
import { resolveMeasurement, type Reading } from '@hanzai/core/instrument';
import type { Entry, EntryBody } from './entry';

/** An entry of one kind; of several kinds, one for each. */
export type Of<K extends EntryBody['kind']> = K extends unknown
  ? Entry & { body: Extract<EntryBody, { kind: K }> }
  : never;

/** A reading with the entry it came from. */
export interface TakenReading extends Reading {
  readonly entry: Of<'reading'>;
  /** True where it was taken after the last repair: it speaks of the board as it is now. */
  readonly current: boolean;
}

/** A case's journal put together: what stands after every retraction. */
export interface Journal {
  readonly symptoms: readonly Of<'symptom'>[];
  readonly findings: readonly Of<'finding'>[];
  readonly readings: readonly TakenReading[];
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

function ledgerLine(body: EntryBody): LedgerLine | undefined {
  if (body.kind === 'removed')
    return {
      ref: body.ref,
      action: 'removed',
      value: body.value,
      polarityChecked: false,
      note: body.note,
    };
  if (body.kind === 'fitted')
    return {
      ref: body.ref,
      action: 'fitted',
      value: body.value,
      polarityChecked: body.polarityChecked,
      note: body.note,
    };
  if (body.kind === 'leftOut')
    return { ref: body.ref, action: 'leftOut', value: '', polarityChecked: false, note: body.note };
  return undefined;
}

/** True for what changes the board for good. */
function isRepair(body: EntryBody): boolean {
  return body.kind === 'fitted' || body.kind === 'leftOut';
}

/**
 * True for what had power on: a probe on a live board, or a start. What was seen or heard is told
 * of an earlier one.
 */
export function isPowered(body: EntryBody): boolean {
  return (
    body.kind === 'start' ||
    (body.kind === 'reading' && body.quantity !== 'symptom' && powerOf(body.setup) === 'on')
  );
}

/** Kill checks whose newest result is a failure and after which nothing was decided. */
function undecidedChecks(standing: readonly Entry[]): readonly Of<'check'>[] {
  const decided = standing.findLastIndex(({ body }) => body.kind === 'decision');
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
 * Plays a journal from the start. Readings whose points the board does not have (another board was
 * chosen since) are left out.
 * A part fitted, or left out on purpose, makes another board: what was read and answered before
 * speaks of the old one.
 */
export function playJournal(entries: readonly Entry[], index: BoardIndex | undefined): Journal {
  const retracted = new Set(
    entries.flatMap(({ body }) => (body.kind === 'retract' ? [body.entry] : [])),
  );
  const standing = entries.filter(({ id }) => !retracted.has(id));
  const lastRepair = standing.findLastIndex(({ body }) => isRepair(body));
  const lastPowered = standing.findLastIndex(({ body }) => isPowered(body));
  const lastLine = standing.findLastIndex(({ body }) => ledgerLine(body) !== undefined);
  const place = new Map(standing.map(({ id }, i) => [id, i]));
  const after = (i: number) => (entry: Entry) => place.get(entry.id)! > i;
  const ledger: (LedgerLine & { entry: Entry })[] = [];
  const readings: TakenReading[] = [];
  const condemned = new Map<string, Of<'condemn'>>();
  const answers: ProofAnswer[] = [];
  let closed = false;
  const of = <K extends EntryBody['kind']>(...kinds: K[]): Of<K>[] =>
    standing.filter((e): e is Of<K> => (kinds as string[]).includes(e.body.kind));
  standing.forEach((entry, i) => {
    const { body } = entry;
    const line = ledgerLine(body);
    if (line) ledger.push({ ...line, entry });
    if (isRepair(body)) answers.length = 0;
    if (body.kind === 'condemn') condemned.set(body.ref, entry as Of<'condemn'>);
    if (body.kind === 'acquit') condemned.delete(body.ref);
    if (body.kind === 'answer') answers.push({ key: body.step, passed: body.passed });
    if (body.kind === 'close') closed = true;
    if (body.kind === 'reopen') closed = false;
    if (body.kind === 'reading' && index) {
      const resolved = resolveMeasurement(index, body.setup, body.quantity, body.at, body.to);
      if (resolved.ok)
        readings.push({
          measurement: resolved.measurement,
          value: body.value,
          absent: absentParts(ledger),
          entry: entry as Of<'reading'>,
          current: i > lastRepair,
        });
    }
  });
  const last = standing.at(-1);
  const blockEvents = of('start', 'code', 'pattern', 'trial', 'check', 'aid');
  return {
    symptoms: of('symptom'),
    findings: of('finding'),
    starts: of('start'),
    startsBefore:
      lastRepair < 0 ? of('start') : of('start').filter((entry) => !after(lastRepair)(entry)),
    startsSince: lastRepair < 0 ? [] : of('start').filter(after(lastRepair)),
    powerAnyway: of('powerAnyway').filter(after(lastLine)).at(-1),
    powered: of('powerAnyway'),
    undecided: undecidedChecks(standing),
    decision: of('decision').at(-1),
    blockEvents,
    eventsBeforeRepair: blockEvents.filter((entry) => !after(lastRepair)(entry)).length,
    acknowledged: of('acknowledge').map((entry) => ({
      hazard: entry.body.hazard,
      who: entry.body.who,
      notHere: entry.body.notHere === true,
      entry,
    })),
    residuals: of('residual').map((entry) => ({
      hazard: entry.body.hazard,
      volt: entry.body.volt,
      current: after(lastPowered)(entry),
      entry,
    })),
    steps: of('step').map(({ id, body }) => ({
      ...body.step,
      id,
      back: of('back').reduce(
        (sum, back) => sum + (back.body.step === id ? back.body.count : 0),
        0,
      ),
    })),
    seen: of('seen'),
    pictures: of('picture'),
    pins: of('pin'),
    timers: of('timer').map((entry) => ({
      entry,
      done: of('timerDone').some(({ body }) => body.timer === entry.id),
      daylightHours: of('daylight').reduce(
        (sum, { body }) => sum + (body.timer === entry.id ? body.hours : 0),
        0,
      ),
    })),
    pausedAt: last?.body.kind === 'pause' ? (last as Of<'pause'>) : undefined,
    readings,
    condemned: [...condemned.values()],
    ledger,
    answers,
    absent: absentParts(ledger),
    missing: missingParts(ledger),
    closed,
    moments: entries.map(({ madeAt }) => Date.parse(madeAt)),
  };
}
