import { pointText, type Measurement, type ReadingValue } from '@hanzai/core/instrument';
import { formatCompact } from '@hanzai/core/quantity';
import type { EntryBody } from '../entry';
import { shorthandAround } from '../wording';
import { printRun } from './read-run';

/** A reading as the line that files it. */
export function printReading(m: Measurement, value: ReadingValue): string {
  if (m.kind === 'symptom') return `${m.at.net} ${String(value)}`;
  const at = m.kind === 'current' ? m.at.pin!.part.ref : pointText(m.at) || 'gnd';
  const [before, after] = shorthandAround(m.kind, m.setup, at, pointText(m.to));
  const unit = m.kind === 'current' ? 'A' : '';
  const written =
    typeof value === 'number' ? `${formatCompact(value, unit)}` : String(value).toLowerCase();
  return `${before} ${written} ${after}`.trim();
}

/**
 * An entry as the line of the strip that files it; undefined for a kind that the strip does not
 * take. Blanks at the ends of its words, and several in a row, do not survive.
 */
export function printEntry(body: EntryBody): string | undefined {
  switch (body.kind) {
    case 'finding':
      return `note ${body.text}`;
    case 'symptom':
      return `symptom ${body.text}`;
    case 'pause':
      return `leave ${body.where}`;
    case 'code':
      return `code ${body.code}`;
    case 'rail':
      return `rail ${body.net} ${formatCompact(body.volt, '')}`;
    case 'leadZero':
      return `zero ${formatCompact(body.ohm, '')}`;
    case 'offBoard':
      return join(
        'alone',
        body.ref,
        body.farad === undefined ? '' : `${formatCompact(body.farad, 'F')}F`,
        body.leakAmpere === undefined ? '' : `${formatCompact(body.leakAmpere, 'A')}A`,
        body.dissipation === undefined ? '' : `tan ${formatCompact(body.dissipation, '')}`,
        body.esrOhm === undefined ? '' : `esr ${formatCompact(body.esrOhm, '')}`,
      );
    case 'run':
      return printRun(body);
    case 'acquit':
      return `clear ${body.ref}`;
    case 'condemn':
      return `condemn ${body.ref} ${body.reason}`;
    case 'removed':
      return join(body.ref, 'off', body.value, satWords(body.sat), noted(body.note));
    case 'leftOut':
      return join(body.ref, 'out', noted(body.note));
    case 'fitted':
      return join(
        body.ref,
        'on',
        body.value,
        body.polarityChecked ? 'polarity' : '',
        satWords(body.sat),
        noted(body.note),
      );
    case 'start':
      return join(
        'start',
        body.failedAt ?? 'ok',
        body.seconds === undefined ? '' : `${body.seconds}s`,
        body.tries === 1 ? '' : `x${body.tries}`,
        body.conditions.length > 0 ? `with ${body.conditions.join(', ')}` : '',
        body.sounds === '' ? '' : `heard ${body.sounds}`,
      );
    default:
      return undefined;
  }
}

const satWords = (sat = ''): string => (sat === '' ? '' : `sat ${sat}`);
const noted = (note: string): string => (note === '' ? '' : `note ${note}`);
const join = (...words: string[]): string => words.filter(Boolean).join(' ');
