import { benchMinutesBy } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { kindOfPart } from '@hanzai/core/learn';
import { RATES } from '@hanzai/data';
import { addDays } from 'date-fns/addDays';
import { z } from 'zod';
import { overruledOf } from './after-repair';
import type { Entry, EntryBody } from './entry';
import type { Journal } from './journal';
import { kindOf } from './kinds';
import type { Stage } from './stages';

/** Where the work of each kind of entry is done. */
const STAGE_OF: Readonly<Record<EntryBody['kind'], Stage>> = {
  symptom: 'take-in',
  finding: 'trace',
  reading: 'trace',
  meter: 'trace',
  leadZero: 'trace',
  offBoard: 'trace',
  guided: 'trace',
  quickList: 'trace',
  extent: 'trace',
  retract: 'trace',
  condemn: 'trace',
  acquit: 'trace',
  skip: 'trace',
  chip: 'trace',
  chipSwap: 'trace',
  start: 'take-in',
  code: 'take-in',
  pattern: 'take-in',
  trial: 'swaps',
  check: 'swaps',
  acknowledge: 'make-safe',
  residual: 'make-safe',
  step: 'open-up',
  back: 'open-up',
  inside: 'open-up',
  takenOut: 'open-up',
  seen: 'look',
  picture: 'look',
  pin: 'look',
  aid: 'first-aid',
  timer: 'first-aid',
  daylight: 'first-aid',
  timerDone: 'first-aid',
  decision: 'decide',
  consent: 'decide',
  removed: 'repair',
  fitted: 'repair',
  leftOut: 'repair',
  asFound: 'adjust',
  turned: 'adjust',
  powerAnyway: 'prove',
  rail: 'prove',
  answer: 'prove',
  run: 'prove',
  close: 'hand-back',
  followedUp: 'hand-back',
  reopen: 'hand-back',
  pause: 'hand-back',
};
/** What proves, once something was repaired. */
const PROVES: readonly EntryBody['kind'][] = ['reading', 'start'];

/** Turns of a case that led nowhere, in the order in which they are told. */
export const WRONG_TURNS = {
  stayed: 'a part replaced, and the fault stayed',
  cleared: 'a verdict taken back',
  overruled: 'done against advice',
  refused: 'a proof step that failed',
  reopened: 'closed and opened again',
} as const;
export type WrongTurn = keyof typeof WRONG_TURNS;
const TURN_NAMES = Object.keys(WRONG_TURNS) as [WrongTurn, ...WrongTurn[]];

/** What a closed case gives to the shop's own figures. */
export const CaseFigures = z.object({
  /** Bench minutes by stage. */
  minutes: z.record(z.string(), z.number()),
  /** How far the replacement went, as it was decided; empty where nobody said so. */
  policy: z.string(),
  turns: z.array(z.object({ kind: z.enum(TURN_NAMES), words: z.string() })),
  /** Parts that went on: what they are in the rate table's words. */
  fitted: z.array(z.object({ ref: z.string(), of: z.string() })),
  givenUp: z.boolean(),
  price: z.number().nullable(),
  /** What goes back beside the unit. */
  returned: z.string(),
  closedAt: z.string(),
  /** The last day of the guarantee; null where none was given. */
  guaranteeUntil: z.string().nullable(),
  /** Somebody asked, and it does not run. */
  cameBack: z.boolean(),
});
export type CaseFigures = z.infer<typeof CaseFigures>;

/** What a course or an extent is called where cases are counted by it. */
export const POLICY_WORDS: Readonly<Record<string, string>> = {
  test: 'test by substitution',
  one: 'the one part',
  like: 'it and its like',
  kind: 'all of its kind',
  undo: 'an earlier change taken back',
  donor: 'a donor',
  'survey bad': 'survey: what is bad',
  'survey kind': 'survey: all of a kind that has a bad one',
  'survey worth': 'survey: what pays',
  'survey all': 'survey: all of them',
  '': 'nobody said how far',
};

/** What the journal of a closed case gives to the figures; undefined while it is open. */
export function caseFigures(
  entries: readonly Entry[],
  journal: Journal,
  index: BoardIndex | undefined,
): CaseFigures | undefined {
  const { closing, closed, decision, extent } = journal;
  if (!closed || !closing) return undefined;
  const days = closing.body.guaranteeDays;
  const course = journal.standing.findLast(
    ({ body }) => body.kind === 'decision' && Object.hasOwn(POLICY_WORDS, body.course),
  )?.body;
  return {
    minutes: Object.fromEntries(stageMinutes(entries)),
    policy:
      decision?.body.course === 'give-up'
        ? ''
        : course?.kind === 'decision'
          ? course.course
          : extent
            ? `survey ${extent.body.extent}`
            : '',
    turns: wrongTurns(entries, journal, index),
    fitted: journal.ledger.flatMap(({ action, ref }) =>
      action === 'fitted'
        ? [{ ref, of: index ? kindOfPart(index, RATES, ref).of : 'without a sheet' }]
        : [],
    ),
    givenUp: decision?.body.course === 'give-up',
    price: closing.body.price ?? null,
    returned: closing.body.returned ?? '',
    closedAt: closing.madeAt,
    guaranteeUntil: days ? addDays(new Date(closing.madeAt), days).toISOString() : null,
    cameBack: journal.followUps.some(({ body }) => !body.runs),
  };
}

function stageMinutes(entries: readonly Entry[]): ReadonlyMap<Stage, number> {
  let repaired = false;
  return benchMinutesBy(
    entries.map(({ madeAt, body }) => {
      repaired ||= kindOf(body.kind).repairs === true;
      const of = repaired && PROVES.includes(body.kind) ? 'prove' : STAGE_OF[body.kind];
      return { at: Date.parse(madeAt), of };
    }),
  );
}

function wrongTurns(
  entries: readonly Entry[],
  journal: Journal,
  index: BoardIndex | undefined,
): CaseFigures['turns'] {
  const turns: CaseFigures['turns'] = [];
  const lastFailed = journal.standing.findLastIndex(
    ({ body }) => body.kind === 'start' && body.failedAt !== null,
  );
  const condemned = new Set<string>();
  for (const [i, { body }] of journal.standing.entries()) {
    if (body.kind === 'condemn') condemned.add(body.ref);
    if (body.kind === 'fitted' && i < lastFailed) turns.push({ kind: 'stayed', words: body.ref });
    if (body.kind === 'acquit' && condemned.delete(body.ref))
      turns.push({ kind: 'cleared', words: body.ref });
    if (body.kind === 'answer' && !body.passed) turns.push({ kind: 'refused', words: body.step });
  }
  for (const words of overruledOf(journal, index)) turns.push({ kind: 'overruled', words });
  for (const { body } of entries)
    if (body.kind === 'reopen') turns.push({ kind: 'reopened', words: '' });
  return turns.map(({ kind, words }) => ({ kind, words: words.slice(0, 200) }));
}
