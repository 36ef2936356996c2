import type { ReadingKind, ReadingValue } from '@hanzai/core/instrument';

/** What a reading is called to an instrument; undefined where none is asked for it. */
export const HEADER: Partial<Record<ReadingKind, string>> = {
  voltage: 'VOLTage:DC',
  resistance: 'RESistance',
  continuity: 'CONTinuity',
  diode: 'DIODe',
  esr: 'IMPedance:ESR',
  logic: 'LOGic',
};

/** Below this a meter beeps, ohm: the standard meter's. */
const BEEPS_BELOW = 30;
/** As large or larger stands for overload. Source: SCPI-1999, volume 1, 7.2.1.4. */
const OVERLOAD = 9.9e37;
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i;

/** What an answer means as a reading of a kind; undefined where it means nothing. */
export function readingOf(kind: ReadingKind, answer: string): ReadingValue | undefined {
  const text = answer.trim();
  if (kind === 'logic') {
    const level = text.toUpperCase();
    return level === '0' || level === '1' || level === 'P' || level === 'Z' ? level : undefined;
  }
  if (!NUMBER.test(text)) return undefined;
  const value = Number(text);
  const isOver = Math.abs(value) >= OVERLOAD * 0.999;
  if (kind === 'continuity') return !isOver && value < BEEPS_BELOW ? 'beep' : 'open';
  if (isOver) return kind === 'voltage' || kind === 'current' ? undefined : 'OL';
  return value;
}

/** The name of an instrument from its answer to `*IDN?`; undefined where it is no such answer. */
export function nameOf(identity: string): string | undefined {
  const fields = identity.trim().split(',');
  if (fields.length !== 4 || fields.some((field) => field.length > 72)) return undefined;
  const name = fields.slice(0, 2).join(' ').trim();
  return name === '' ? undefined : name.slice(0, 80);
}
