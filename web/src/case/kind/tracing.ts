import { absentParts } from '@hanzai/core/bench';
import { nameKey, powerOf, replaceablePart, type BoardIndex } from '@hanzai/core/board';
import { siteKind } from '@hanzai/core/fault';
import { SIMULATED_NAME } from '@hanzai/core/simulated';
import { resolveMeasurement, type ReadingValue } from '@hanzai/core/instrument';
import { placeText, SKIP_WORDS } from '../wording';
import type { KindsOf } from './definition';

/** Whether a name is a part of the board, or a place where it can be bridged or cut. */
function hasPart(index: BoardIndex, ref: string): boolean {
  return siteKind(index, ref) !== undefined || replaceablePart(index, ref) !== undefined;
}

const partObjection = (ref: string, index: BoardIndex | undefined): string | undefined =>
  index && !hasPart(index, ref) ? `the board has no part ${ref}` : undefined;

/** An ESR without what the leads showed when they were last held together, ohm. */
export function lessLeads(value: ReadingValue, residue = 0): ReadingValue {
  return typeof value === 'number' ? Math.max(0, value - residue) : value;
}

/** Readings and verdicts. */
export const TRACING_KINDS: KindsOf<
  'reading' | 'condemn' | 'acquit' | 'rail' | 'skip' | 'chip' | 'chipSwap'
> = {
  reading: {
    words: 'reading',
    said: ({ typed }) => typed,
    takeBack: 'free',
    // What the owner saw needs no probe; ohms need a board without power, and without charge.
    gate: ({ quantity, setup }) => {
      if (quantity === 'symptom') return undefined;
      return powerOf(setup) === 'on' ? 'power' : 'meter';
    },
    powered: ({ quantity, setup }) => quantity !== 'symptom' && powerOf(setup) === 'on',
    objection: ({ setup, quantity, at, to }, { index }) => {
      // Without a sheet a reading is kept at the point that it names.
      if (!index)
        return quantity === 'symptom'
          ? 'only a sheet says what can be seen of its unit'
          : undefined;
      const resolved = resolveMeasurement(index, setup, quantity, at, to);
      return resolved.ok ? undefined : `${resolved.what}; expected ${resolved.expected}`;
    },
    add: (draft, entry) => {
      const { setup, quantity, at, to, value } = entry.body;
      const isSimulated = entry.body.instrument === SIMULATED_NAME;
      const resolved = draft.index && resolveMeasurement(draft.index, setup, quantity, at, to);
      // Without a sheet, or where another was chosen since that does not have the point.
      if (!resolved?.ok) {
        draft.loose.push({ entry, isSimulated, current: draft.isSinceRepair(entry) });
        return;
      }
      const own = draft.meters.get(quantity);
      draft.readings.push({
        // Read with what was in use then: another choice later does not change it.
        measurement: own ? { ...resolved.measurement, meter: own.profile } : resolved.measurement,
        isSimulated,
        by: entry.body.instrument ?? own?.name,
        // What the leads add is no part of the board.
        value: quantity === 'esr' ? lessLeads(value, draft.zeros.at(-1)?.body.ohm) : value,
        absent: absentParts(draft.ledger),
        entry,
        current: draft.isSinceRepair(entry),
      });
    },
    report: 'table',
  },
  condemn: {
    words: 'verdict',
    said: ({ ref }) => ref,
    takeBack: 'never',
    objection: ({ ref }, { index }) => partObjection(ref, index),
    add: (draft, entry) => draft.condemned.set(entry.body.ref, entry),
    report: {
      list: 'verdict',
      line: ({ ref, reason }, index) => `${placeText(index, ref)} condemned: ${reason}`,
    },
  },
  acquit: {
    words: 'verdict taken back',
    said: ({ ref }) => ref,
    takeBack: 'never',
    objection: ({ ref }, { index }) => partObjection(ref, index),
    add: (draft, { body }) => void draft.condemned.delete(body.ref),
    report: 'none',
  },
  chip: {
    words: 'line about a chip',
    said: ({ ref }) => ref,
    takeBack: 'free',
    objection: ({ ref }, { index }) => partObjection(ref, index),
    add: (draft, entry) => draft.chips.push(entry),
    report: 'none',
  },
  chipSwap: {
    words: 'swap of chips',
    said: ({ refs, passed }) => `${refs.join(', ')}: ${passed ? 'works' : 'does not work'} there`,
    takeBack: 'free',
    objection: ({ refs }, { index }) =>
      refs.map((ref) => partObjection(ref, index)).find((words) => words !== undefined),
    add: (draft, entry) => draft.chipSwaps.push(entry),
    report: {
      list: 'tried',
      line: ({ refs, passed, unit }) =>
        `${refs.join(', ')} in ${unit || 'a unit that works'}: ${passed ? 'worked' : 'did not work'}`,
    },
  },
  skip: {
    words: 'reading not taken',
    said: ({ at, to, why }) => `${at}${to === '' ? '' : ` to ${to}`}: ${SKIP_WORDS[why]}`,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => draft.skips.push(entry),
    report: 'none',
  },
  rail: {
    words: 'rail',
    said: ({ net, volt }) => `${net} ${volt} V`,
    takeBack: 'free',
    objection: ({ net }, { journal }) =>
      journal.rails.some(({ body }) => nameKey(body.net) === nameKey(net))
        ? `${net} is named already: take that back first`
        : undefined,
    add: (draft, entry) => draft.rails.push(entry),
    report: 'none',
  },
};
