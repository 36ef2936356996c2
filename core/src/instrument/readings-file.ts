import Papa from 'papaparse';
import type { BoardIndex, FileIssue, ReadResult } from '../board';
import { MAX_ISSUES, FORMULA, plainCell } from '../board';
import { parseQuantity } from '../quantity';
import { pointText, resolveMeasurement, type Measurement } from './measurement';
import { unitOf, type ReadingKind } from './meter';
import type { ReadingValue } from './readout';

/**
 * A reading as the engine takes it: what was measured, what was seen, and which parts were off the
 * board then.
 */
export interface Reading {
  readonly measurement: Measurement;
  readonly value: ReadingValue;
  readonly absent?: readonly string[];
}

export type ValueResult =
  | { readonly ok: true; readonly value: ReadingValue }
  | { readonly ok: false; readonly what: string; readonly expected: string };

// prettier-ignore
const LOGIC_WORDS: Readonly<Record<string, '0' | '1' | 'P' | 'Z'>> = {
  '0': '0', lo: '0', low: '0', '1': '1', hi: '1', high: '1', p: 'P', pulse: 'P', pulsing: 'P', z: 'Z', float: 'Z', floating: 'Z',
};

/**
 * Reads the value of a reading of a kind. unit: as written, may be empty. Limits keep slips of the
 * finger out, not odd boards.
 */
export function parseReadingValue(kind: ReadingKind, text: string, unit = ''): ValueResult {
  const word = text.trim().toLowerCase();
  if (kind === 'continuity') {
    if (word === 'beep' || word === 'open') return { ok: true, value: word };
    return { ok: false, what: `continuity cannot be "${text}"`, expected: 'beep or open' };
  }
  if (kind === 'logic') {
    const level = LOGIC_WORDS[word];
    return level
      ? { ok: true, value: level }
      : { ok: false, what: `a logic level cannot be "${text}"`, expected: '0, 1, P or Z' };
  }
  if (kind === 'symptom') {
    const answer = ({ yes: 'yes', y: 'yes', true: 'yes', no: 'no', n: 'no', false: 'no' } as const)[
      word
    ];
    return answer
      ? { ok: true, value: answer }
      : { ok: false, what: `a symptom cannot be "${text}"`, expected: 'yes or no' };
  }
  const plain = parseQuantity(text);
  const parsed =
    plain.ok && (plain.value === 'OL' || plain.unit !== '')
      ? plain
      : parseQuantity(`${text}${unit}`);
  const wanted = unitOf(kind);
  if (!parsed.ok)
    return {
      ok: false,
      what: `cannot read the value "${text.slice(0, 40)}"`,
      expected: parsed.expected,
    };
  if (parsed.value === 'OL') {
    const canOverload = kind === 'resistance' || kind === 'diode' || kind === 'esr';
    return canOverload
      ? { ok: true, value: 'OL' }
      : { ok: false, what: `${kind} cannot be OL`, expected: 'a number' };
  }
  if (parsed.unit !== '' && parsed.unit !== wanted)
    return {
      ok: false,
      what: `${kind} is not in ${parsed.unit}`,
      expected: `a value in ${wanted}`,
    };
  if ((kind === 'resistance' || kind === 'esr') && parsed.value < 0)
    return { ok: false, what: `${kind} below zero`, expected: 'zero or more ohms' };
  const limit = kind === 'voltage' || kind === 'diode' ? 10_000 : kind === 'current' ? 1000 : 1e12;
  if (Math.abs(parsed.value) > limit)
    return {
      ok: false,
      what: `${text} is beyond any meter`,
      expected: `at most ${limit} ${wanted}`,
    };
  return { ok: true, value: parsed.value };
}

const COLUMNS = ['setup', 'kind', 'at', 'to', 'value', 'unit'] as const;

/** Reads a readings file against a board. Cost: linear. Every issue has its line. */
export function readReadingsFile(
  index: BoardIndex,
  source: string,
): ReadResult<readonly Reading[]> {
  const parsed = Papa.parse<string[]>(source.replace(/^\uFEFF/, ''), {
    skipEmptyLines: false,
    transform: plainCell,
  });
  const header = parsed.data[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  if (COLUMNS.slice(0, 5).some((column, i) => header[i] !== column)) {
    return {
      ok: false,
      issues: [
        {
          line: 1,
          what: 'the header line is not that of a readings file',
          expected: COLUMNS.join(','),
        },
      ],
    };
  }
  const readings: Reading[] = [];
  const issues: FileIssue[] = [];
  for (let i = 1; i < parsed.data.length && issues.length < MAX_ISSUES; i += 1) {
    const row = parsed.data[i]!;
    if (row.every((cell) => cell.trim() === '')) continue;
    const line = i + 1;
    if (row.length < 5 || row.length > 6) {
      issues.push({ line, what: `${row.length} fields`, expected: `6: ${COLUMNS.join(',')}` });
      continue;
    }
    const [setup = '', kind = '', at = '', to = '', value = '', unit = ''] = row;
    const resolved = resolveMeasurement(index, setup, kind, at, to);
    if (!resolved.ok) {
      issues.push({ line, what: resolved.what, expected: resolved.expected });
      continue;
    }
    const read = parseReadingValue(resolved.measurement.kind, value, unit.trim());
    if (read.ok) readings.push({ measurement: resolved.measurement, value: read.value });
    else issues.push({ line, what: read.what, expected: read.expected });
  }
  return issues.length > 0 ? { ok: false, issues } : { ok: true, value: readings, notes: [] };
}

/** Writes readings in the order taken. */
export function writeReadingsFile(readings: readonly Reading[]): string {
  const rows = readings.map(({ measurement: m, value }) => [
    m.setup,
    m.kind,
    m.kind === 'current' ? m.at.pin!.part.ref : pointText(m.at),
    m.kind === 'current' ? '' : pointText(m.to),
    String(value),
    typeof value === 'number' ? unitOf(m.kind) : '',
  ]);
  return `${Papa.unparse([[...COLUMNS], ...rows], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}
