import type { UnitModel } from '@hanzai/core/block';
import { COURSE_WORDS } from '../wording';
import type { KindsOf } from './definition';

const NO_MODEL = 'choose the kind of unit in Take in first';

function unknownBlock(model: UnitModel, names: readonly string[]): string | undefined {
  const unknown = names.find((name) => !model.blocks.some((block) => block.name === name));
  return unknown === undefined ? undefined : `${model.title} has no block ${unknown}`;
}

/** What is tried before the meter comes out, and what is decided by it. */
export const TRYING_KINDS: KindsOf<'trial' | 'check' | 'aid' | 'decision' | 'consent'> = {
  trial: {
    words: 'trial',
    said: ({ title }) => title,
    takeBack: 'free',
    objection: ({ passed, failed, exercised }, { model }) => {
      if (passed + failed === 0)
        return 'a trial that was never made says nothing: at least one try';
      return model ? unknownBlock(model, exercised) : NO_MODEL;
    },
    add: (draft, entry) => draft.blockEvents.push(entry),
    report: {
      list: 'tried',
      line: ({ title, passed, failed }) => `${title}: ${passed} good, ${failed} bad`,
    },
  },
  check: {
    words: 'check',
    said: ({ title }) => title,
    takeBack: 'free',
    objection: ({ kill, block }, { model }) => {
      if (kill) return undefined;
      return model ? unknownBlock(model, [block]) : NO_MODEL;
    },
    add: (draft, entry) => draft.blockEvents.push(entry),
    report: { list: 'tried', line: ({ title, good }) => `${title}: ${good ? 'good' : 'bad'}` },
  },
  aid: {
    words: 'first aid',
    said: ({ title }) => title,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.blockEvents.push(entry),
    report: { list: 'tried', line: ({ title }) => `first aid: ${title}` },
  },
  decision: {
    words: 'decision',
    said: ({ reason }) => reason,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.decisions.push(entry),
    report: {
      list: 'decided',
      line: ({ course, reason }) => `${COURSE_WORDS[course]}: ${reason}`,
    },
  },
  consent: {
    words: 'consent of the owner',
    said: ({ to, by }) => `${by}: ${to}`,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.consents.push(entry),
    report: {
      list: 'decided',
      line: ({ to, by, how, limit }) =>
        `${by} agreed (${how})${limit === undefined ? '' : `, up to ${limit}`}: ${to}`,
    },
  },
};
