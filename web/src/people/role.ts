import { z } from 'zod';
import type { Kind } from '../case/kind/definition';

/** What somebody is to the workshop. */
export const Role = z.enum(['owner', 'repairer', 'desk', 'trainee']);
export type Role = z.infer<typeof Role>;

export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  owner: 'owner of the workshop',
  repairer: 'repairer',
  desk: 'front desk',
  trainee: 'trainee',
};

/** Who a person is, as pages and other people get to know it. */
export const Person = z.object({
  id: z.string().min(1).max(80),
  name: z.string().min(1).max(60),
  role: Role,
});
export type Person = z.infer<typeof Person>;

/** A name as it is typed to sign in: whatever its capitals and blanks, the same person. */
export const PersonName = z
  .string()
  .trim()
  .min(2, 'a name of at least two letters')
  .max(60, 'a name of at most 60 letters')
  .regex(/^[\p{L}\p{N} .'-]+$/u, 'letters, figures, blanks, points and hyphens');

/** Who may do what is filed: everybody at the bench, or fewer. */
const BENCH: readonly Role[] = ['owner', 'repairer'];
const LEARNS: readonly Role[] = ['owner', 'repairer', 'trainee'];
const DESK: readonly Role[] = ['owner', 'repairer', 'desk'];
const ALL: readonly Role[] = Role.options;

/**
 * Who may make an entry of each kind. A trainee measures and looks; he acknowledges no hazard,
 * powers nothing all the same, condemns nobody and closes nothing. The front desk takes in, asks
 * owners and hands back; it says nothing of the board.
 */
export const WHO_ENTERS: Readonly<Record<Kind, readonly Role[]>> = {
  symptom: ALL,
  finding: ALL,
  reading: LEARNS,
  meter: LEARNS,
  leadZero: LEARNS,
  offBoard: LEARNS,
  guided: LEARNS,
  quickList: LEARNS,
  extent: LEARNS,
  retract: LEARNS,
  seen: LEARNS,
  step: LEARNS,
  back: LEARNS,
  picture: ALL,
  pin: ALL,
  chip: LEARNS,
  skip: LEARNS,
  timer: LEARNS,
  timerDone: LEARNS,
  daylight: LEARNS,
  pause: ALL,
  code: ALL,
  start: LEARNS,
  pattern: LEARNS,
  trial: LEARNS,
  check: LEARNS,
  aid: BENCH,
  condemn: BENCH,
  acquit: BENCH,
  removed: BENCH,
  fitted: BENCH,
  leftOut: BENCH,
  inside: BENCH,
  takenOut: BENCH,
  chipSwap: BENCH,
  asFound: BENCH,
  turned: BENCH,
  answer: BENCH,
  rail: BENCH,
  run: BENCH,
  acknowledge: BENCH,
  residual: BENCH,
  powerAnyway: BENCH,
  decision: DESK,
  consent: DESK,
  close: DESK,
  followedUp: DESK,
  reopen: DESK,
};

/** Why somebody of this role may not make such an entry; undefined where he may. */
export const entryRefusal = (role: Role, kind: Kind): string | undefined =>
  WHO_ENTERS[kind].includes(role)
    ? undefined
    : `a ${ROLE_WORDS[role]} does not enter this: ask ${WHO_ENTERS[kind].map((one) => ROLE_WORDS[one]).join(' or ')}`;

/** What a door is for, by who may go through it. */
const WRITES: readonly (readonly [pattern: RegExp, who: readonly Role[]])[] = [
  [/^\/api\/people\/me(\/|$)/, ALL],
  [/^\/api\/people(\/|$)/, ['owner']],
  [/^\/api\/(backups$|errands(\/|$))/, ['owner']],
  // What of an entry is whose is looked at in the entry.
  [/^\/api\/cases\/[^/]+\/(entries|pictures)$/, ALL],
  [/^\/api\/cases(\/|$)/, DESK],
  [/^\/api\/stock(\/|$)/, DESK],
  [/^\/api\/(boards|board-pictures|instruments|units|patterns)(\/|$)/, BENCH],
];

/** Doors that only read, and yet are no business of everybody. */
const READS: typeof WRITES = [[/^\/api\/(people$|open-files$|errands(\/|$))/, ['owner']]];

/** Whether somebody of a role may go through a door; a door that nobody thought of stays shut. */
export function mayGo(role: Role, method: string, path: string): boolean {
  const reads = method === 'GET' || method === 'HEAD';
  const own = (reads ? READS : WRITES).find(([pattern]) => pattern.test(path));
  return own ? own[1].includes(role) : reads;
}
