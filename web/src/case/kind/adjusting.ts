import {
  isSettable,
  neverMoved,
  touchObjections,
  type AsFound,
  type Outcome,
  type Touch,
} from '@hanzai/core/adjust';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { formatQuantity } from '@hanzai/core/quantity';
import type { Journal } from '../journal';
import { isRepair } from '../solved';
import type { BodyOf, KindsOf } from './definition';

/** How the unit did, in words. */
export const READS_WORDS = ['reads nothing', 'reads some', 'reads most', 'reads all'] as const;

export const foundOf = ({ ref, reading, unit, mark }: BodyOf<'asFound'>): AsFound => ({
  ref,
  unit,
  mark,
  ...(reading === undefined ? {} : { reading }),
});

function outcomeOf({ reads, errors, seconds }: BodyOf<'turned'>): Outcome | undefined {
  if (reads === undefined && errors === undefined && seconds === undefined) return undefined;
  return {
    ...(reads === undefined ? {} : { reads }),
    ...(errors === undefined ? {} : { errors }),
    ...(seconds === undefined ? {} : { seconds }),
  };
}

export function touchOf(body: BodyOf<'turned'>): Touch {
  const outcome = outcomeOf(body);
  return {
    ref: body.ref,
    degrees: body.degrees,
    ...(body.reading === undefined ? {} : { reading: body.reading }),
    ...(outcome ? { outcome } : {}),
  };
}

/** What was found and what was done to it, as the core takes it. */
export function adjustmentsOf(journal: Journal): {
  readonly found: readonly AsFound[];
  readonly touches: readonly Touch[];
} {
  return {
    found: journal.asFound.map(({ body }) => foundOf(body)),
    touches: journal.turned.map(({ body }) => touchOf(body)),
  };
}

/** How a touch went, in words. */
export function outcomeWords(body: BodyOf<'turned'>, unit: AsFound['unit']): string {
  const { reading, reads, errors, seconds } = body;
  return [
    reading === undefined ? '' : formatQuantity(reading, unit),
    reads === undefined ? '' : READS_WORDS[reads],
    errors === undefined ? '' : `${errors} errors`,
    seconds === undefined ? '' : `${seconds} s`,
  ]
    .filter(Boolean)
    .join(', ');
}

/** Degrees with their direction: `20° clockwise`. */
export const degreesWords = (degrees: number): string =>
  `${Math.abs(Math.round(degrees))}° ${degrees > 0 ? 'clockwise' : 'counter-clockwise'}`;

/** What is not ready for a trimmer to be turned: it would be set for a fault. */
export function adjustLocks(journal: Journal, index: BoardIndex | undefined): readonly string[] {
  const locks: string[] = [];
  if (journal.missing.length > 0)
    locks.push(`${journal.missing.join(', ')} came off and nothing went on`);
  const open = journal.condemned
    .map(({ body }) => body.ref)
    .filter((ref) => !journal.ledger.some((line) => line.ref === ref && isRepair(line)));
  if (open.length > 0) locks.push(`${open.join(', ')} condemned and not replaced`);
  const electrolytics = (index?.board.parts ?? []).filter(
    (part) => part.kind === 'capacitor' && part.dielectric === 'electrolytic',
  );
  const looked =
    journal.readings.some(
      ({ measurement, isSimulated }) => measurement.kind === 'esr' && !isSimulated,
    ) ||
    journal.offBoards.length > 0 ||
    electrolytics.some(({ ref }) =>
      journal.ledger.some((line) => nameKey(line.ref) === nameKey(ref)),
    );
  if (electrolytics.length > 0 && !looked)
    locks.push('no capacitor was looked at: a trimmer that makes up for a dried one is set wrong');
  return locks;
}

const unitOf = (journal: Journal, ref: string): AsFound['unit'] =>
  journal.asFound.find(({ body }) => nameKey(body.ref) === nameKey(ref))?.body.unit ?? '';

/** Trimmers and what else is set. */
export const ADJUSTING_KINDS: KindsOf<'asFound' | 'turned'> = {
  asFound: {
    words: 'setting as found',
    said: ({ ref, mark }) => `${ref} as found ${mark}`.trim(),
    takeBack: ({ body }, { journal }) =>
      journal.turned.some(({ body: touch }) => nameKey(touch.ref) === nameKey(body.ref))
        ? `${body.ref} was turned since: without how it was found there is no way back`
        : undefined,
    objection: ({ ref, reading, mark, reason }, { journal }) => {
      if (!isSettable(ref)) return `“${ref}” is no name; expected RV1, or “spindle phase”`;
      if (journal.asFound.some(({ body }) => nameKey(body.ref) === nameKey(ref)))
        return `how ${ref} was found is written down already`;
      return reading === undefined && mark.trim() === '' && reason.trim() === ''
        ? `a reading or a mark of ${ref}; where neither can be had, say why`
        : undefined;
    },
    add: (draft, entry) => draft.asFound.push(entry),
    report: {
      list: 'tried',
      line: ({ ref, reading, unit, mark, reason }) =>
        `${ref} as found: ${[reading === undefined ? '' : formatQuantity(reading, unit), mark, reason].filter(Boolean).join(', ')}`,
    },
  },
  turned: {
    words: 'turn of a setting',
    said: ({ ref, degrees }) => `${ref} ${degreesWords(degrees)}`,
    takeBack: (entry, { journal }) =>
      journal.turned.at(-1)?.id === entry.id
        ? undefined
        : 'only the last turn can be taken back: the others are under it',
    gate: ({ live }) => (live ? 'power' : 'open'),
    powered: ({ live }) => live,
    objection: (body, { journal, index }) => {
      const { found, touches } = adjustmentsOf(journal);
      const { refused, askReason } = touchObjections(touchOf(body), {
        found,
        touches,
        locks: adjustLocks(journal, index),
        never: neverMoved(index, body.ref),
      });
      if (refused !== undefined) return refused;
      return askReason.length > 0 && body.reason.trim() === ''
        ? `${askReason.join('; ')}. Where it has to be all the same, say why`
        : undefined;
    },
    add: (draft, entry) => {
      draft.turned.push(entry);
      // Another setting: what was proven before speaks of the old one.
      draft.answers.length = 0;
    },
    report: {
      list: 'tried',
      line: (body) =>
        [
          `${body.ref} turned ${degreesWords(body.degrees)}`,
          outcomeWords(body, ''),
          body.reason && `against the rule, because: ${body.reason}`,
        ]
          .filter(Boolean)
          .join(', '),
    },
  },
};

export { unitOf };
