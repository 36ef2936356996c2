import { fuseGate, ledgerObjection, type LedgerLine } from '@hanzai/core/bench';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { resolveMeasurement } from '@hanzai/core/instrument';
import type { Entry, EntryBody } from './entry';
import { playJournal, type Journal } from './journal';
import { caseProgress } from './progress';

/** Why an entry may not be made now, with the way out; undefined where it may. The browser asks before sending, the server before storing. */
export function entryObjection(body: EntryBody, entries: readonly Entry[], index: BoardIndex | undefined): string | undefined {
  const journal = playJournal(entries, index);
  if (journal.closed && body.kind !== 'reopen') return 'the case is closed: reopen it first';
  switch (body.kind) {
    case 'reading': {
      if (!index) return 'the case has no board sheet: choose one in Take in first';
      const resolved = resolveMeasurement(index, body.setup, body.quantity, body.at, body.to);
      return resolved.ok ? undefined : `${resolved.what}; expected ${resolved.expected}`;
    }
    case 'retract':
      return retractObjection(journal, entries, body.entry);
    case 'condemn':
    case 'acquit':
      return index && !hasPart(index, body.ref) ? `the board has no part ${body.ref}` : undefined;
    case 'removed':
    case 'leftOut':
      return index ? ledgerObjection(index, journal.ledger, asLine(body)) : 'the case has no board sheet';
    case 'fitted':
      return index ? (ledgerObjection(index, journal.ledger, asLine(body)) ?? fuseObjection(index, journal, body.ref)) : 'the case has no board sheet';
    case 'close': {
      const { obstacles } = caseProgress(index, journal);
      return obstacles.length > 0 ? `it cannot be closed yet: ${obstacles.join('; ')}` : undefined;
    }
    case 'answer':
      return journal.missing.length > 0 ? `${journal.missing.join(', ')} came off and nothing went on: nothing can be proven like this` : undefined;
    case 'reopen':
      return journal.closed ? undefined : 'the case is open';
    default:
      return undefined;
  }
}

/** Readings and lines can be taken back; of a part's ledger only the newest line, or the ledger would say that something went on that never came off. */
function retractObjection(journal: Journal, entries: readonly Entry[], id: string): string | undefined {
  const entry = entries.find((candidate) => candidate.id === id);
  if (!entry) return 'the entry to take back is not in this case';
  const { kind } = entry.body;
  if (kind === 'symptom' || kind === 'finding' || kind === 'reading') return undefined;
  const line = journal.ledger.find((candidate) => candidate.entry.id === id);
  if (!line) return `a ${kind} cannot be taken back`;
  const newest = journal.ledger.findLast((candidate) => nameKey(candidate.ref) === nameKey(line.ref));
  return newest === line ? undefined : `take back the newer line of ${line.ref} first`;
}

function hasPart(index: BoardIndex, ref: string): boolean {
  return [...index.replaceable.keys()].some((known) => nameKey(known) === nameKey(ref));
}

function asLine(body: Extract<EntryBody, { kind: 'removed' | 'fitted' | 'leftOut' }>): LedgerLine {
  return {
    ref: body.ref,
    action: body.kind,
    value: body.kind === 'leftOut' ? '' : body.value,
    polarityChecked: body.kind === 'fitted' && body.polarityChecked,
    note: body.note,
  };
}

/** The net whose ohms to ground must be read before this fuse goes in; undefined where they are, or where it is no fuse. Only readings of the board
 *  as it is now count: another part fitted since is another reason to look. */
export function fuseMustMeasure(index: BoardIndex, journal: Journal, ref: string): string | undefined {
  const fuse = index.partByKey.get(nameKey(ref));
  return fuse && fuseGate(index, fuse, journal.readings.filter(({ current }) => current))?.measure; // prettier-ignore
}

/** Why a fuse may not go in yet, in words. */
export function fuseObjection(index: BoardIndex, journal: Journal, ref: string): string | undefined {
  const net = fuseMustMeasure(index, journal, ref);
  return net && `before ${ref} goes in, read the ohms from ${net} to ground, power off: a fuse blows for a reason`;
}
