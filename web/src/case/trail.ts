import Papa from 'papaparse';
import { FORMULA } from '@hanzai/core/board';
import { unitOf } from '@hanzai/core/instrument';
import { z } from 'zod';
import type { CaseView } from './case-view';
import type { Journal } from './journal';
import { oddsWords, pointsText, valueText } from './wording';
import type { BoardIndex } from '@hanzai/core/board';
import type { TrailAnswer } from '../workers/engine-messages';

const Leader = z.object({ ref: z.string(), probability: z.number().min(0).max(1) });

/** The trace of a case as a file: every reading in the order taken, and what was believed after it. */
export const TraceFile = z.object({
  format: z.literal('hanzai-trace'),
  version: z.literal(1),
  case: z.object({ number: z.number().int(), title: z.string(), unit: z.string() }),
  steps: z.array(
    z.object({
      takenAt: z.iso.datetime({ offset: true }),
      setup: z.string(),
      kind: z.string(),
      at: z.string(),
      /** Empty for ground. */
      to: z.string(),
      value: z.union([z.number(), z.string()]),
      unit: z.string(),
      typed: z.string(),
      /** False for a reading of the board before its last repair. */
      current: z.boolean(),
      /** What a sound board shows; null where it has no answer. */
      expected: z.string().nullable(),
      inBand: z.boolean().nullable(),
      /** The likeliest parts after this reading. */
      leading: z.array(Leader),
      /** That nothing is wrong, after it. */
      healthy: z.number().min(0).max(1).nullable(),
    }),
  ),
});
export type TraceFile = z.infer<typeof TraceFile>;

/** The trace of a case put together. trail: what the engine says of every moment. */
export function traceFile(
  { number, title, unitModel }: Pick<CaseView, 'number' | 'title' | 'unitModel'>,
  journal: Journal,
  trail: TrailAnswer,
): TraceFile {
  return {
    format: 'hanzai-trace',
    version: 1,
    case: { number, title, unit: unitModel },
    steps: journal.readings.map(({ entry, current }) => {
      const { setup, quantity, at, to, value, typed } = entry.body;
      const told = trail[entry.id];
      return {
        takenAt: entry.madeAt,
        setup,
        kind: quantity,
        at,
        to,
        value,
        unit: typeof value === 'number' ? unitOf(quantity) : '',
        typed,
        current,
        expected: told?.expected.display ?? null,
        inBand: told?.expected.within ?? null,
        leading: [...(told?.leading ?? [])],
        healthy: told?.healthy ?? null,
      };
    }),
  };
}

const COLUMNS = [
  'taken at', 'setup', 'kind', 'at', 'to', 'value', 'unit', 'board', 'sound board', 'in band', 'leads', 'chance', 'nothing wrong',
] as const; // prettier-ignore

/** The trace as a table for other programs. Cells that a spreadsheet would run are made harmless. */
export function traceCsv({ steps }: TraceFile): string {
  const share = (value: number | null | undefined): string =>
    value === null || value === undefined ? '' : value.toFixed(4);
  const rows = steps.map((step) => [
    step.takenAt,
    step.setup,
    step.kind,
    step.at,
    step.to,
    String(step.value),
    step.unit,
    step.current ? 'as it is' : 'before the repair',
    step.expected ?? '',
    step.inBand === null ? '' : step.inBand ? 'yes' : 'no',
    step.leading[0]?.ref ?? '',
    share(step.leading[0]?.probability),
    share(step.healthy),
  ]);
  return `${Papa.unparse([[...COLUMNS], ...rows], { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}

/** One step of the trace in words: `VM to ground 10 mV: F1 1 in 2, L1 1 in 3`. */
export function stepWords(
  index: BoardIndex | undefined,
  { at, to, kind, value, leading }: TraceFile['steps'][number],
): string {
  const read = valueText(kind as Parameters<typeof valueText>[0], value as number);
  const after = leading.map(({ ref, probability }) => `${ref} ${oddsWords(probability)}`);
  return `${pointsText(index, at, to)} ${read}${after.length > 0 ? `: ${after.join(', ')}` : ''}`;
}
