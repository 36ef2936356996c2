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
      return entries.some(({ id }) => id === body.entry) ? undefined : 'the entry to retract is not in this case';
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
    case 'reopen':
      return journal.closed ? undefined : 'the case is open';
    default:
      return undefined;
  }
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

/** A fuse goes in only after the ohms behind it are known. */
export function fuseObjection(index: BoardIndex, journal: Journal, ref: string): string | undefined {
  const fuse = index.partByKey.get(nameKey(ref));
  const gate = fuse && fuseGate(index, fuse, journal.readings);
  return gate && `before ${fuse.ref} goes in, read the ohms from ${gate.measure} to ground, power off: a fuse blows for a reason`;
}
