import type { KindsOf } from './definition';

/** What was said, seen or heard of the unit, and how it starts. */
export const UNIT_KINDS: KindsOf<'symptom' | 'finding' | 'start' | 'code' | 'pattern'> = {
  symptom: {
    words: 'symptom',
    said: ({ text }) => text,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.symptoms.push(entry),
    report: { list: 'findings', line: ({ text }) => text },
  },
  finding: {
    words: 'finding',
    said: ({ text }) => text,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.findings.push(entry),
    report: { list: 'findings', line: ({ text }) => text },
  },
  start: {
    words: 'start',
    said: ({ failedAt }) => (failedAt === null ? 'came through' : `stopped at ${failedAt}`),
    takeBack: 'free',
    powered: () => true,
    objection: ({ failedAt }, { model }) =>
      model && failedAt !== null && !model.stages.some(({ name }) => name === failedAt)
        ? `${model.title} has no stage ${failedAt}`
        : undefined,
    add: (draft, entry) => {
      draft.starts.push(entry);
      draft.blockEvents.push(entry);
    },
    report: 'none',
  },
  code: {
    words: 'code',
    said: ({ code }) => code,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.blockEvents.push(entry),
    report: { list: 'tried', line: ({ code }) => `code ${code}` },
  },
  pattern: {
    words: 'pattern',
    said: ({ name }) => name,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.blockEvents.push(entry),
    report: 'none',
  },
};
