import { pointText, type Measurement, type ReadingValue } from '@hanzai/core/instrument';
import type { EntryBody } from './entry';

/**
 * The points of a measurement as they are written in entries and messages; a current is named by
 * its part alone.
 */
export function writtenPoints(m: Measurement): { readonly at: string; readonly to: string } {
  return m.kind === 'current'
    ? { at: m.at.pin!.part.ref, to: '' }
    : { at: pointText(m.at), to: pointText(m.to) };
}

/** The journal entry for a reading. instrument: what took it, where it was not read off by eye. */
export function readingEntry(
  m: Measurement,
  value: ReadingValue,
  typed: string,
  instrument?: string,
): EntryBody {
  return {
    kind: 'reading',
    setup: m.setup,
    quantity: m.kind,
    ...writtenPoints(m),
    value,
    typed,
    ...(instrument === undefined ? {} : { instrument }),
  };
}
