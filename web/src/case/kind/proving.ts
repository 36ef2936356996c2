import type { Run } from '@hanzai/core/prove';
import type { BodyOf, KindsOf } from './definition';

/** A run as the proof reckons with it. */
export const runOf = ({ medium, of, where, states, passes, errors }: BodyOf<'run'>): Run => ({
  medium,
  kind: of,
  where,
  states,
  passes,
  errors,
});

/** What ran, in words: `card 14 (pressed), first track, warm: 12 passes, 1 error`. */
export function runWords({
  medium,
  of,
  where,
  states,
  passes,
  errors,
}: Omit<BodyOf<'run'>, 'kind' | 'note'>): string {
  const what = of === 'none' ? 'what it does' : medium === '' ? of : `${medium} (${of})`;
  const right = of === 'foreign' ? 'refused' : passes === 1 ? 'pass' : 'passes';
  return `${[what, where, ...states].filter(Boolean).join(', ')}: ${passes} ${right}, ${errors} ${errors === 1 ? 'error' : 'errors'}`;
}

/** Runs of the unit. */
export const PROVING_KINDS: KindsOf<'run'> = {
  run: {
    words: 'run',
    said: runWords,
    takeBack: 'free',
    powered: () => true,
    objection: ({ passes, errors, of, medium }, { journal }) => {
      if (passes + errors === 0) return 'a run that was never made says nothing: at least one pass';
      if (of === 'none' && medium !== '') return 'without a medium nothing stands on one';
      return journal.missing.length > 0
        ? `${journal.missing.join(', ')} came off and nothing went on: nothing can be proven like this`
        : undefined;
    },
    add: (draft, entry) => void draft.runs.push(entry),
    report: 'table',
  },
};
