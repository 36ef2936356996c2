import type { KindsOf, Situation } from './definition';

const timerObjection = (timer: string, { journal }: Situation): string | undefined =>
  journal.timers.some(({ entry, done }) => entry.id === timer && !done)
    ? undefined
    : 'no such timer is running';

/** Proof, closing, time, and taking back. */
export const KEEPING_KINDS: KindsOf<
  | 'retract'
  | 'answer'
  | 'close'
  | 'reopen'
  | 'followedUp'
  | 'timer'
  | 'daylight'
  | 'timerDone'
  | 'pause'
> = {
  retract: {
    words: 'taking back',
    said: () => '',
    takeBack: 'never',
    // The registry itself knows what may be taken back: see `rules.ts`.
    objection: 'none',
    // What was taken back is left out before anything is added.
    add: () => undefined,
    report: 'none',
  },
  answer: {
    words: 'proof step',
    said: ({ step }) => step,
    takeBack: 'never',
    objection: (_, { journal }) =>
      journal.missing.length > 0
        ? `${journal.missing.join(', ')} came off and nothing went on: nothing can be proven like this`
        : undefined,
    add: (draft, { body }) => draft.answers.push({ key: body.step, passed: body.passed }),
    report: 'table',
  },
  close: {
    words: 'closing',
    said: ({ note }) => note,
    takeBack: 'never',
    objection: (_, { obstacles }) => {
      const against = obstacles();
      return against.length > 0 ? `it cannot be closed yet: ${against.join('; ')}` : undefined;
    },
    add: (draft, entry) => {
      draft.closed = true;
      draft.closings.push(entry);
    },
    report: 'table',
  },
  reopen: {
    words: 'opening again',
    said: () => '',
    takeBack: 'never',
    objection: (_, { journal }) => (journal.closed ? undefined : 'the case is open'),
    add: (draft) => (draft.closed = false),
    report: 'none',
  },
  followedUp: {
    words: 'asking how it runs',
    said: ({ runs, note }) =>
      [runs ? 'it runs' : 'it does not run', note].filter(Boolean).join(', '),
    takeBack: 'never',
    objection: (_, { journal }) =>
      journal.closed ? undefined : 'the case is open: close it first',
    add: (draft, entry) => void draft.followUps.push(entry),
    report: 'none',
  },
  timer: {
    words: 'timer',
    said: ({ title }) => title,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.timers.push(entry),
    report: 'none',
  },
  daylight: {
    words: 'hours of daylight',
    said: ({ hours }) => `${hours} h`,
    takeBack: 'free',
    objection: ({ timer }, situation) => timerObjection(timer, situation),
    add: (draft, { body }) =>
      draft.daylightOf.set(body.timer, (draft.daylightOf.get(body.timer) ?? 0) + body.hours),
    report: 'none',
  },
  timerDone: {
    words: 'timer done',
    said: () => '',
    takeBack: 'free',
    objection: ({ timer }, situation) => timerObjection(timer, situation),
    add: (draft, { body }) => draft.timersDone.add(body.timer),
    report: 'none',
  },
  pause: {
    words: 'leaving off',
    said: ({ where }) => where,
    takeBack: 'free',
    objection: 'none',
    // It holds while it is the newest entry: see `journal.ts`.
    add: () => undefined,
    report: 'none',
  },
};
