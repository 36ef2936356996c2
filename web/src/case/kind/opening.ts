import { backObjection, FINDING_RULES } from '@hanzai/core/bench';
import type { KindsOf } from './definition';

/** Opening the unit, looking at it, and pictures of it. */
export const OPENING_KINDS: KindsOf<'step' | 'back' | 'seen' | 'picture' | 'pin'> = {
  step: {
    words: 'opening step',
    said: ({ step }) => step.of,
    takeBack: ({ id }, { journal }) => {
      const step = journal.steps.find((one) => one.id === id);
      return step && step.back > 0
        ? 'pieces of this step are back on: take that back first'
        : undefined;
    },
    gate: () => 'open',
    objection: 'none',
    add: (draft, entry) => draft.steps.push(entry),
    report: 'none',
  },
  back: {
    words: 'piece put back',
    said: ({ count }) => String(count),
    takeBack: 'free',
    objection: ({ step, count, lengthMm }, { journal }) =>
      backObjection(journal.steps, step, count, lengthMm),
    add: (draft, { body }) =>
      draft.backOf.set(body.step, (draft.backOf.get(body.step) ?? 0) + body.count),
    report: 'none',
  },
  seen: {
    words: 'thing seen',
    said: ({ text, what }) => text || what.replace('-', ' '),
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.seen.push(entry),
    report: {
      list: 'findings',
      line: ({ what, text }) => `${FINDING_RULES[what].title}${text ? `: ${text}` : ''}`,
    },
  },
  picture: {
    words: 'picture',
    said: ({ title }) => title,
    takeBack: ({ body: { picture } }, { journal }) =>
      journal.pins.some(({ body }) => body.picture === picture) ||
      journal.seen.some(({ body }) => body.on?.picture === picture)
        ? 'notes are pinned on this picture: take them back first'
        : undefined,
    objection: 'none',
    add: (draft, entry) => draft.pictures.push(entry),
    report: 'none',
  },
  pin: {
    words: 'note on a picture',
    said: ({ text }) => text,
    takeBack: 'free',
    objection: ({ picture }, { journal }) =>
      journal.pictures.some(({ body }) => body.picture === picture)
        ? undefined
        : 'the picture is not in this case',
    add: (draft, entry) => draft.pins.push(entry),
    report: 'none',
  },
};
