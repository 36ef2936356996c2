import { pointText, type Measurement, type ReadingValue } from '@hanzai/core/instrument';
import type { EntryBody } from './entry';

/** The journal entry for a reading. */
export function readingEntry(m: Measurement, value: ReadingValue, typed: string): EntryBody {
  const current = m.kind === 'current';
  return {
    kind: 'reading',
    setup: m.setup,
    quantity: m.kind,
    at: current ? m.at.pin!.part.ref : pointText(m.at),
    to: current ? '' : pointText(m.to),
    value,
    typed,
  };
}
