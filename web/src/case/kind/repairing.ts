import { ledgerObjection, ledgerObjectionWithoutSheet, type LedgerLine } from '@hanzai/core/bench';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import type { Of } from '../journal';
import { looseReadings } from '../solved';
import { ledgerWords, placeText } from '../wording';
import type { BodyOf, KindOfEntry, KindsOf, Situation } from './definition';

type LedgerKind = 'removed' | 'fitted' | 'leftOut';

/** Of a part's ledger only the newest line: else it would say that went on what never came off. */
function takeBackLine(
  entry: Of<LedgerKind>,
  words: string,
  { journal }: Situation,
): string | undefined {
  const line = journal.ledger.find((candidate) => candidate.entry.id === entry.id);
  if (!line) return `this ${words} was taken back already`;
  const newest = journal.ledger.findLast(
    (candidate) => nameKey(candidate.ref) === nameKey(line.ref),
  );
  return newest === line ? undefined : `take back the newer line of ${line.ref} first`;
}

function lineInReport(line: LedgerLine, index: BoardIndex | undefined): string {
  const words = `${placeText(index, line.ref)} ${ledgerWords(line)} ${line.value}`.trimEnd();
  const more = [line.sat, line.polarityChecked ? 'polarity checked' : '', line.note].filter(
    Boolean,
  );
  return [words, ...more].join(', ');
}

/** What the three lines of the ledger share; a line says that it repairs where it does. */
function ledgerKind<K extends LedgerKind>(
  words: string,
  line: (body: BodyOf<K>) => LedgerLine,
  more: Partial<Pick<KindOfEntry<K>, 'gate' | 'repairs'>> & {
    readonly alsoObjects?: (body: BodyOf<K>, situation: Situation) => string | undefined;
  },
): KindOfEntry<K> {
  const { alsoObjects, ...rest } = more;
  return {
    words,
    said: (body) => line(body).ref,
    takeBack: (entry, situation) => takeBackLine(entry as Of<LedgerKind>, words, situation),
    objection: (body, situation) =>
      situation.index
        ? (ledgerObjection(situation.index, situation.journal.ledger, line(body), LIBRARY) ??
          alsoObjects?.(body, situation))
        : ledgerObjectionWithoutSheet(
            situation.journal.ledger,
            line(body),
            looseReadings(situation.journal),
            LIBRARY,
          ),
    ledger: line,
    add: (draft, entry) => {
      draft.ledger.push({ ...line(entry.body as BodyOf<K>), entry });
      // Another board: what was answered before speaks of the old one.
      if (rest.repairs) draft.answers.length = 0;
    },
    report: { list: 'verdict', line: (body, index) => lineInReport(line(body), index) },
    ...rest,
  };
}

/** Parts that come off and go on. */
export const REPAIRING_KINDS: KindsOf<LedgerKind | 'inside' | 'takenOut'> = {
  removed: ledgerKind<'removed'>(
    'line of the ledger: off',
    ({ ref, value, sat, note }) => ({
      ref,
      action: 'removed',
      value,
      polarityChecked: false,
      sat,
      note,
    }),
    { gate: () => 'open' },
  ),
  fitted: ledgerKind<'fitted'>(
    'line of the ledger: on',
    ({ ref, value, polarityChecked, sat, note }) => ({
      ref,
      action: 'fitted',
      value,
      polarityChecked,
      sat,
      note,
    }),
    {
      gate: () => 'open',
      repairs: true,
      alsoObjects: ({ ref }, { solved }) => solved.fuse(ref)?.words,
    },
  ),
  leftOut: ledgerKind<'leftOut'>(
    'line of the ledger: left out',
    ({ ref, note }) => ({ ref, action: 'leftOut', value: '', polarityChecked: false, note }),
    { repairs: true },
  ),
  inside: {
    words: 'thing laid into the unit',
    said: ({ what }) => what,
    takeBack: 'free',
    objection: 'none',
    add: (draft, entry) => void draft.inside.set(entry.id, entry),
    report: 'none',
  },
  takenOut: {
    words: 'thing taken out',
    said: () => '',
    takeBack: 'free',
    objection: ({ entry }, { journal }) =>
      journal.inside.some(({ id }) => id === entry) ? undefined : 'that is not in the unit',
    add: (draft, { body }) => void draft.inside.delete(body.entry),
    report: 'none',
  },
};
