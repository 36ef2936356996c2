import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  date,
  index,
  integer,
  jsonb,
  numeric,
  pgTable,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { board } from './board';
import { bytea } from './bytea';

/**
 * A unit on the bench. What happens to it is in case_entry; here stands only what a person may
 * correct at any time.
 */
export const repairCase = pgTable(
  'repair_case',
  {
    id: uuid('id').primaryKey(),
    number: integer('number')
      .notNull()
      .unique('repair_case_number_unique')
      .generatedAlwaysAsIdentity({ startWith: 101 }),
    title: text('title').notNull(),
    unitModel: text('unit_model').notNull(),
    serial: text('serial').notNull().default(''),
    owner: text('owner').notNull().default(''),
    complaint: text('complaint').notNull().default(''),
    spendingLimit: numeric('spending_limit', { precision: 10, scale: 2 }),
    waitsFor: text('waits_for').notNull().default(''),
    /** part, owner, timer; empty: nothing holds it up. */
    waitsKind: text('waits_kind').notNull().default(''),
    /** What came of that it waited for, and where it lies; empty: nothing yet. */
    arrived: text('arrived').notNull().default(''),
    /** Name of the unit model (archetype); empty: not chosen. */
    unitType: text('unit_type').notNull().default(''),
    accessories: text('accessories').notNull().default(''),
    stuckInside: text('stuck_inside').notNull().default(''),
    causeOfDeath: text('cause_of_death').notNull().default(''),
    earlierVisitors: text('earlier_visitors').notNull().default(''),
    /** What may be looked at on media that came with the unit. */
    mediaNote: text('media_note').notNull().default(''),
    /** Cases of one batch carry the same word; empty: none. */
    batch: text('batch').notNull().default(''),
    /** The year in which the unit was made; null: nobody knows. */
    madeIn: integer('made_in'),
    /** Hours that it has run; null: nobody knows. */
    hoursRun: integer('hours_run'),
    /** Whether it may teach, once it is closed; off where somebody doubts it. */
    teaches: boolean('teaches').notNull().default(true),
    promisedOn: date('promised_on'),
    boardId: uuid('board_id').references(() => board.id),
    openedAt: timestamp('opened_at', { withTimezone: true }).notNull().defaultNow(),
    /** Rises with every correction: who corrects an older version is told so. */
    version: integer('version').notNull().default(1),
  },
  (table) => [
    index('repair_case_model').on(table.unitModel),
    index('repair_case_opened').on(table.openedAt, table.number),
  ],
);

/**
 * The journal of a case: symptoms, readings, retractions, verdicts, ledger lines, proof answers.
 * Rows are only ever added; a correction is another row.
 */
export const caseEntry = pgTable(
  'case_entry',
  {
    /** Made by the client (UUID version 7), so that sending an entry twice stores it once. */
    id: uuid('id').primaryKey(),
    caseId: uuid('case_id')
      .notNull()
      .references(() => repairCase.id),
    sequence: bigserial('sequence', { mode: 'number' }).notNull(),
    kind: text('kind').notNull(),
    /** Who made it; one person where nobody signs in. */
    madeBy: text('made_by').notNull().default('bench'),
    /** How many repairs came before it. */
    epoch: integer('epoch').notNull().default(0),
    body: jsonb('body').notNull(),
    madeAt: timestamp('made_at', { withTimezone: true }).notNull(),
    recordedAt: timestamp('recorded_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    index('case_entry_case_sequence').on(table.caseId, table.sequence),
    // Which cases were opened up, of some model: few entries of all.
    index('case_entry_steps')
      .on(table.caseId, table.sequence)
      .where(sql`${table.kind} = 'step'`),
  ],
);

/**
 * What the docket shows of a case, made of its journal in the transaction that adds to it. It can
 * be made anew at any time: nothing else stands here.
 */
export const caseSummary = pgTable(
  'case_summary',
  {
    caseId: uuid('case_id')
      .primaryKey()
      .references(() => repairCase.id),
    closed: boolean('closed').notNull(),
    paused: boolean('paused').notNull(),
    minutesToGo: integer('minutes_to_go').notNull(),
    /** When the first of its timers runs out by the clock. */
    timerDueAt: timestamp('timer_due_at', { withTimezone: true }),
    /** One of its timers has had the daylight it asked for. */
    daylightReached: boolean('daylight_reached').notNull(),
    hasTimers: boolean('has_timers').notNull(),
    nextAction: text('next_action').notNull(),
    /** The whole of it, as `CaseSummary` has it. */
    content: jsonb('content').notNull(),
    /** The day on which somebody asks how it runs, beside the content: whoever looks for it reads no more. */
    followUpOn: text('follow_up_on').generatedAlwaysAs(sql`content ->> 'followUpOn'`),
    /** Changes with everything of the content that is learned of: whoever compares it reads no more. */
    lessonMark: text('lesson_mark').generatedAlwaysAs(
      sql`md5(coalesce(content ->> 'lesson', '') || ' ' || coalesce(content ->> 'lastEntryAt', '') || ' ' || coalesce(content #>> '{figures,minutes}', ''))`,
    ),
  },
  // What of ten thousand cases the docket looks at whenever somebody opens it.
  (table) => [
    index('case_summary_open')
      .on(table.caseId)
      .where(sql`not ${table.closed} or ${table.followUpOn} is not null`),
    index('case_summary_timers')
      .on(table.timerDueAt)
      .where(sql`${table.hasTimers} and not ${table.closed}`),
  ],
);

/**
 * Pictures of a case, as JPEG: what was sent is turned upright, made no larger than needed and
 * freed of everything beside the picture. Rows are only ever added.
 */
export const casePicture = pgTable(
  'case_picture',
  {
    /** Made by the client (UUID version 7). */
    id: uuid('id').primaryKey(),
    caseId: uuid('case_id')
      .notNull()
      .references(() => repairCase.id),
    widthPx: integer('width_px').notNull(),
    heightPx: integer('height_px').notNull(),
    /** Its bytes; null where they lie in the picture store. */
    image: bytea('image'),
    /** Key in the picture store. */
    keptAt: text('kept_at'),
    thumbnail: bytea('thumbnail').notNull(),
    takenAt: timestamp('taken_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('case_picture_case').on(table.caseId)],
);

/** Links that show one case to somebody who does not sign in. The link itself is nowhere, only its hash. */
export const visitorLink = pgTable(
  'visitor_link',
  {
    id: uuid('id').primaryKey(),
    caseId: uuid('case_id')
      .notNull()
      .references(() => repairCase.id),
    /** SHA-256 of what the link ends with, as hexadecimal digits. */
    tokenHash: text('token_hash').notNull().unique(),
    /** Who gets it, in the words of who made it. */
    forWhom: text('for_whom').notNull().default(''),
    showsPictures: boolean('shows_pictures').notNull().default(false),
    showsCosts: boolean('shows_costs').notNull().default(false),
    madeBy: text('made_by').notNull(),
    madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
    expiresAt: timestamp('expires_at', { withTimezone: true }).notNull(),
    endedAt: timestamp('ended_at', { withTimezone: true }),
  },
  (table) => [index('visitor_link_case').on(table.caseId)],
);
