import { z } from 'zod';
import { RunMedium } from '@hanzai/core/block';
import { RUN_STATES } from '@hanzai/core/prove';
import { DownEdge, FindingKind, OpenUpStep } from '@hanzai/core/bench';
import { Setup } from '@hanzai/core/board';
import { MeterProfile, ReadingKind } from '@hanzai/core/instrument';

const ref = z.string().min(1).max(80);
const line = (most: number): z.ZodString => z.string().max(most);

const blockName = line(40).min(1);
/** How a part sat, or sits: `minus left`. */
const sat = line(80).optional();
const share = z.number().min(0).max(1);
const finite = z.number().refine(Number.isFinite);

/** What a timer is for. bleach counts hours of daylight, the others run by the clock. */
export const TimerKind = z.enum(['soak', 'bleach', 'glue', 'burn-in', 'other']);
export type TimerKind = z.infer<typeof TimerKind>;

/**
 * Why a proposed reading is not taken. reach: no probe comes to its points; unsafe: not with the power
 * on; trust: the reading itself would not be believed; instrument: there is none for it.
 */
export const SkipReason = z.enum(['reach', 'unsafe', 'trust', 'instrument']);
export type SkipReason = z.infer<typeof SkipReason>;

/**
 * How a job goes on. go-on: the rest is worth repairing. measure, test, one, like, kind: what is done
 * about the fault. undo: an earlier visitor's change is taken back.
 */
export const DecisionCourse = z.enum([
  'go-on',
  'measure',
  'test',
  'one',
  'like',
  'kind',
  'undo',
  'donor',
  'give-up',
]);
export type DecisionCourse = z.infer<typeof DecisionCourse>;

/** What an entry of a case's journal can say. Kinds are only ever added. */
export const EntryBody = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('symptom'), text: line(500).min(1) }),
  z.object({ kind: z.literal('finding'), text: line(500).min(1), ref: ref.optional() }),
  z.object({
    kind: z.literal('reading'),
    setup: Setup,
    quantity: ReadingKind,
    at: line(80).min(1),
    to: line(80),
    value: z.union([
      z.number().refine(Number.isFinite),
      z.enum(['OL', 'beep', 'open', '0', '1', 'P', 'Z', 'yes', 'no']),
    ]),
    typed: line(200),
    /** The instrument that took it, where it was not read off by eye. */
    instrument: line(80).min(1).optional(),
  }),
  /** From now on these kinds are read with this; null: with the standard meter again. */
  z.object({
    kind: z.literal('meter'),
    name: line(80).min(1),
    kinds: z.array(ReadingKind).min(1).max(8),
    profile: MeterProfile.nullable(),
  }),
  /** What the ESR meter still shows with its leads held together, ohm. */
  z.object({ kind: z.literal('leadZero'), ohm: finite.min(0).max(10) }),
  /** A capacitor measured by itself, off the board, before it goes on or after it came off. */
  z.object({
    kind: z.literal('offBoard'),
    ref,
    farad: finite.positive().max(10).optional(),
    leakAmpere: finite.min(0).max(1).optional(),
    dissipation: finite.min(0).max(100).optional(),
    esrOhm: finite.min(0).max(1e6).optional(),
  }),
  /** A guided check of a coil, a motor, a switch: what was given, and what it came to. */
  z.object({
    kind: z.literal('guided'),
    check: z.string().min(1).max(40),
    /** The part; empty where the sheet has none for it. */
    ref: line(80),
    given: z.record(z.string().max(40), z.union([finite, line(80)])),
    verdict: z.enum(['good', 'doubtful', 'bad']),
    because: z.array(line(300)).max(20),
  }),
  /** Capacitors of a unit without a sheet, one a line; the newest list counts. */
  z.object({ kind: z.literal('quickList'), text: z.string().max(20_000) }),
  /** How far a replacement goes, and why. */
  z.object({
    kind: z.literal('extent'),
    extent: z.enum(['bad', 'kind', 'worth', 'all']),
    refs: z.array(ref).min(1).max(500),
    reason: line(500).min(1),
  }),
  z.object({ kind: z.literal('retract'), entry: z.uuid() }),
  z.object({
    kind: z.literal('condemn'),
    ref,
    probability: z.number().min(0).max(1),
    reason: line(500),
  }),
  z.object({ kind: z.literal('acquit'), ref }),
  z.object({ kind: z.literal('removed'), ref, value: line(120), sat, note: line(300) }),
  z.object({
    kind: z.literal('fitted'),
    ref,
    value: line(120),
    polarityChecked: z.boolean(),
    sat,
    note: line(300),
  }),
  z.object({ kind: z.literal('leftOut'), ref, note: line(300) }),
  /** Something that was laid into the unit and has to come out again: a swab, a clip lead, tape. */
  z.object({ kind: z.literal('inside'), what: line(80).min(1) }),
  z.object({ kind: z.literal('takenOut'), entry: z.uuid() }),
  z.object({ kind: z.literal('answer'), step: line(200).min(1), passed: z.boolean() }),
  /** Passes of the unit over a medium, or of what it does without one. where: empty for all of it. */
  z.object({
    kind: z.literal('run'),
    medium: line(80),
    of: RunMedium,
    where: line(60),
    states: z.array(z.enum(RUN_STATES)).max(RUN_STATES.length),
    passes: z.number().int().min(0).max(99_999),
    errors: z.number().int().min(0).max(99_999),
    note: line(300),
  }),
  z.object({
    kind: z.literal('close'),
    note: line(1000),
    /** What the owner pays, in the workshop’s money. */
    price: finite.min(0).max(9_999_999).optional(),
    guaranteeDays: z.number().int().min(0).max(3660).optional(),
    /** The day on which somebody asks how it runs. */
    followUpOn: z.iso.date().optional(),
    /** Parts and papers that go back with it. */
    returned: line(200).optional(),
  }),
  /** Somebody asked how it runs. */
  z.object({ kind: z.literal('followedUp'), runs: z.boolean(), note: line(300) }),
  z.object({ kind: z.literal('reopen') }),
  /**
   * One start of the unit: the stage at which it stopped, null where it came through. conditions:
   * names of the unit model's, and free words.
   */
  z.object({
    kind: z.literal('start'),
    failedAt: blockName.nullable(),
    seconds: finite.min(0).max(86_400).optional(),
    tries: z.number().int().min(1).max(99),
    sounds: line(200),
    conditions: z.array(line(60).min(1)).max(12),
  }),
  z.object({ kind: z.literal('code'), code: line(20).min(1) }),
  z.object({ kind: z.literal('pattern'), name: blockName }),
  /**
   * A swap: which blocks of this unit were in use, the rest known good, and how often it worked and
   * failed.
   */
  z.object({
    kind: z.literal('trial'),
    title: line(200).min(1),
    exercised: z.array(blockName).min(1).max(60),
    passed: z.number().int().min(0).max(999),
    failed: z.number().int().min(0).max(999),
    note: line(300),
  }),
  /** kill: a check that can end the job. of: a comparison of figures, not a look at the thing. */
  z.object({
    kind: z.literal('check'),
    title: line(200).min(1),
    block: blockName,
    good: z.boolean(),
    kill: z.boolean().optional(),
    of: z.enum(['layout', 'pin-out']).optional(),
  }),
  /** notHere: somebody looked, and this unit does not have it. */
  z.object({
    kind: z.literal('acknowledge'),
    hazard: line(120).min(1),
    who: line(80).min(1),
    notHere: z.boolean().optional(),
  }),
  /** Volts left on something that keeps a charge, as measured. */
  z.object({
    kind: z.literal('residual'),
    hazard: line(120).min(1),
    volt: finite.min(0).max(10_000),
  }),
  z.object({ kind: z.literal('step'), step: OpenUpStep }),
  z.object({
    kind: z.literal('back'),
    step: z.uuid(),
    count: z.number().int().min(1).max(60),
    lengthMm: finite.positive().max(200).optional(),
  }),
  /** Something seen, placed on the outline of the board (mm) or on a picture (0 to 1). */
  z.object({
    kind: z.literal('seen'),
    what: FindingKind,
    text: line(300),
    sizeMm: finite.positive().max(500),
    certainty: share,
    at: z.object({ xMm: finite.min(-1000).max(3000), yMm: finite.min(-1000).max(3000) }).optional(),
    /** The edge of the board that was down in the unit. */
    down: DownEdge.optional(),
    on: z.object({ picture: z.uuid(), x: share, y: share }).optional(),
  }),
  z.object({
    kind: z.literal('aid'),
    name: blockName,
    title: line(200).min(1),
    block: blockName,
    cures: share,
  }),
  z.object({
    kind: z.literal('picture'),
    picture: z.uuid(),
    title: line(120),
    of: z.enum(['condition', 'inside', 'board']),
  }),
  z.object({
    kind: z.literal('pin'),
    picture: z.uuid(),
    x: share,
    y: share,
    text: line(300).min(1),
  }),
  z.object({
    kind: z.literal('timer'),
    what: TimerKind,
    title: line(120).min(1),
    hours: finite.positive().max(2000),
  }),
  z.object({ kind: z.literal('daylight'), timer: z.uuid(), hours: finite.positive().max(24) }),
  z.object({ kind: z.literal('timerDone'), timer: z.uuid() }),
  /**
   * Power on a board as it is, on purpose: parts of it off, or without every ohms check. Holds
   * until the next line of the ledger.
   */
  z.object({
    kind: z.literal('powerAnyway'),
    refs: z.array(ref).max(200),
    reason: line(300).min(3),
  }),
  /** How a job goes on, and why. */
  z.object({
    kind: z.literal('decision'),
    course: DecisionCourse,
    reason: line(500).min(3),
  }),
  /** What the owner agreed to: who said it, how, and up to which amount. */
  z.object({
    kind: z.literal('consent'),
    to: line(300).min(3),
    by: line(80).min(1),
    how: z.enum(['spoken', 'telephone', 'letter', 'message']),
    limit: finite.min(0).max(1e7).optional(),
  }),
  /** A rail that a person names where no sheet does, with the volts that it has to have. */
  z.object({
    kind: z.literal('rail'),
    net: line(40).regex(/^\S+$/, 'a name without blanks'),
    volt: finite.min(-1000).max(1000),
  }),
  /** A reading that was proposed and not taken, and why: it is not proposed again. */
  z.object({
    kind: z.literal('skip'),
    setup: Setup,
    quantity: ReadingKind,
    at: line(80).min(1),
    to: line(80),
    why: SkipReason,
  }),
  /** What is known of a chip itself; the newest line of each counts. */
  z.object({
    kind: z.literal('chip'),
    ref,
    socketed: z.boolean(),
    dateCode: line(20),
    from: line(80),
    tested: line(80),
  }),
  /** Suspected chips that were put into a unit that works, and whether it worked with them. */
  z.object({
    kind: z.literal('chipSwap'),
    refs: z.array(ref).min(1).max(24),
    passed: z.boolean(),
    unit: line(80),
  }),
  /** How something that can be set was found, before the first touch. */
  z.object({
    kind: z.literal('asFound'),
    ref,
    reading: finite.optional(),
    unit: z.enum(['', 'ohm', 'V', 'A', 'Hz']),
    mark: line(200),
    /** Why it goes without a mark or a reading. */
    reason: line(300),
  }),
  /** One touch of it: degrees, clockwise above zero, and how the unit did after. */
  z.object({
    kind: z.literal('turned'),
    ref,
    degrees: finite.min(-3600).max(3600),
    reading: finite.optional(),
    reads: z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]).optional(),
    errors: z.number().int().min(0).max(1_000_000).optional(),
    seconds: finite.min(0).max(86_400).optional(),
    /** Made with the unit running. */
    live: z.boolean(),
    /** Why it is turned against what stands against it. */
    reason: line(300),
  }),
  z.object({ kind: z.literal('pause'), where: line(300).min(1) }),
]);
export type EntryBody = z.infer<typeof EntryBody>;

/** A clock that was never set writes years that no database keeps. */
function isOfOurTime(moment: string): boolean {
  const year = new Date(moment).getUTCFullYear();
  return year >= 2000 && year < 2200;
}

/**
 * An entry as it is sent: with an id of the client's own (UUID version 7) and the moment it was
 * made.
 */
export const Entry = z.object({
  id: z.uuid(),
  madeAt: z.iso
    .datetime({ offset: true })
    .refine(isOfOurTime, 'a moment between the years 2000 and 2200'),
  body: EntryBody,
  /** Who made it, as the server knows it; left out where nobody signs in. */
  by: z.string().max(80).optional(),
});
export type Entry = z.infer<typeof Entry>;
