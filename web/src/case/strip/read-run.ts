import { RunMedium } from '@hanzai/core/block';
import { RUN_STATES, type RunState } from '@hanzai/core/prove';
import type { BodyOf } from '../kind/definition';

/** What stands on a medium, by the last words of its part of the line. */
const KINDS = RunMedium.options.filter((kind) => kind !== 'none');
const LINE =
  /^(\d{1,5})(?:\s+errors\s+(\d{1,5}))?(?:\s+of\s+(.*?))?(?:\s+at\s+(.*?))?(?:\s+in\s+(.*?))?(?:\s+note\s+(.*))?$/is;

/** What was understood of a run, or how far it got and what was expected there. */
export type ReadRun =
  | { readonly ok: true; readonly body: BodyOf<'run'> }
  | { readonly ok: false; readonly understood: string; readonly expected: string };

const fail = (understood: string, expected: string): ReadRun => ({
  ok: false,
  understood,
  expected,
});

/**
 * `12 errors 1 of card 14 pressed at first track in warm, closed note the lid was on`: passes, errors,
 * medium and what it is, where on it, the states of the unit. Without `of` it takes no medium.
 */
export function readRun(text: string): ReadRun {
  const [, passes, errors = '0', on = '', where = '', under = '', note = ''] =
    LINE.exec(text) ?? [];
  if (passes === undefined)
    return fail(
      'run',
      'passes, then what of it is to be told: run 12 errors 1 of card 14 pressed at first track in warm',
    );
  const kind = KINDS.find((one) => new RegExp(`(^|\\s)${one}$`, 'i').test(on.trim()));
  if (on !== '' && kind === undefined)
    return fail(`${passes} passes of "${on}"`, `what it is at the end, one of ${KINDS.join(', ')}`);
  const said = under
    .split(',')
    .map((word) => word.trim().toLowerCase())
    .filter(Boolean);
  const unknown = said.find((word) => !RUN_STATES.includes(word as RunState));
  if (unknown !== undefined)
    return fail(
      `${passes} passes in "${unknown}"`,
      `how the unit was, some of ${RUN_STATES.join(', ')}`,
    );
  return {
    ok: true,
    body: {
      kind: 'run',
      medium: kind === undefined ? '' : on.trim().slice(0, -kind.length).trim(),
      of: kind ?? 'none',
      where: where.trim(),
      states: RUN_STATES.filter((state) => said.includes(state)),
      passes: Number(passes),
      errors: Number(errors),
      note: note.trim(),
    },
  };
}

/** The line that files a run. */
export function printRun({
  passes,
  errors,
  medium,
  of,
  where,
  states,
  note,
}: BodyOf<'run'>): string {
  return [
    `run ${passes}`,
    errors > 0 ? `errors ${errors}` : '',
    of === 'none' ? '' : `of ${[medium, of].filter(Boolean).join(' ')}`,
    where === '' ? '' : `at ${where}`,
    states.length > 0 ? `in ${states.join(', ')}` : '',
    note === '' ? '' : `note ${note}`,
  ]
    .filter(Boolean)
    .join(' ');
}
