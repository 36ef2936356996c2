import type { LedgerLine, ProofAnswer } from '@hanzai/core/bench';
import { absentParts, missingParts } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { resolveMeasurement, type Reading } from '@hanzai/core/instrument';
import type { Entry, EntryBody } from './entry';

type Of<K extends EntryBody['kind']> = Entry & { body: Extract<EntryBody, { kind: K }> };

/** A reading with the entry it came from. */
export interface TakenReading extends Reading {
  readonly entry: Of<'reading'>;
  /** True where it was taken after the last repair: it speaks of the board as it is now. */
  readonly current: boolean;
}

/** A case's journal put together: what stands after every retraction. */
export interface Journal {
  readonly symptoms: readonly Of<'symptom'>[];
  readonly findings: readonly Of<'finding'>[];
  readonly readings: readonly TakenReading[];
  readonly condemned: readonly Of<'condemn'>[];
  readonly ledger: readonly (LedgerLine & { readonly entry: Entry })[];
  readonly answers: readonly ProofAnswer[];
  /** Parts off the board now. */
  readonly absent: readonly string[];
  /** Those of them that are not left out on purpose. */
  readonly missing: readonly string[];
  readonly closed: boolean;
  readonly moments: readonly number[];
}

function ledgerLine(body: EntryBody): LedgerLine | undefined {
  if (body.kind === 'removed') return { ref: body.ref, action: 'removed', value: body.value, polarityChecked: false, note: body.note };
  if (body.kind === 'fitted') return { ref: body.ref, action: 'fitted', value: body.value, polarityChecked: body.polarityChecked, note: body.note };
  if (body.kind === 'leftOut') return { ref: body.ref, action: 'leftOut', value: '', polarityChecked: false, note: body.note };
  return undefined;
}

/** True for what changes the board for good. */
function isRepair(body: EntryBody): boolean {
  return body.kind === 'fitted' || body.kind === 'leftOut';
}

/** Plays a journal from the start. Readings whose points the board does not have (another board was chosen since) are left out.
 *  A part fitted, or left out on purpose, makes another board: what was read and answered before speaks of the old one. */
export function playJournal(entries: readonly Entry[], index: BoardIndex | undefined): Journal {
  const retracted = new Set(entries.flatMap(({ body }) => (body.kind === 'retract' ? [body.entry] : [])));
  const standing = entries.filter(({ id }) => !retracted.has(id));
  const lastRepair = standing.findLastIndex(({ body }) => isRepair(body));
  const ledger: (LedgerLine & { entry: Entry })[] = [];
  const readings: TakenReading[] = [];
  const condemned = new Map<string, Of<'condemn'>>();
  const answers: ProofAnswer[] = [];
  let closed = false;
  standing.forEach((entry, i) => {
    const { body } = entry;
    const line = ledgerLine(body);
    if (line) ledger.push({ ...line, entry });
    if (isRepair(body)) answers.length = 0;
    if (body.kind === 'condemn') condemned.set(body.ref, entry as Of<'condemn'>);
    if (body.kind === 'acquit') condemned.delete(body.ref);
    if (body.kind === 'answer') answers.push({ key: body.step, passed: body.passed });
    if (body.kind === 'close') closed = true;
    if (body.kind === 'reopen') closed = false;
    if (body.kind === 'reading' && index) {
      const resolved = resolveMeasurement(index, body.setup, body.quantity, body.at, body.to);
      if (resolved.ok)
        readings.push({
          measurement: resolved.measurement,
          value: body.value,
          absent: absentParts(ledger),
          entry: entry as Of<'reading'>,
          current: i > lastRepair,
        });
    }
  });
  return {
    symptoms: standing.filter((e): e is Of<'symptom'> => e.body.kind === 'symptom'),
    findings: standing.filter((e): e is Of<'finding'> => e.body.kind === 'finding'),
    readings,
    condemned: [...condemned.values()],
    ledger,
    answers,
    absent: absentParts(ledger),
    missing: missingParts(ledger),
    closed,
    moments: entries.map(({ madeAt }) => Date.parse(madeAt)),
  };
}
