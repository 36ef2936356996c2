import Papa from 'papaparse';
import { FORMULA, partValue } from '@hanzai/core/board';
import { saveFile } from '../../../ui/save-file';
import type { SurveyRow } from './use-survey';

/** A survey as RFC 4180 CSV, one capacitor a line, in the order in which they are taken. */
export function surveyCsv(rows: readonly SurveyRow[]): string {
  return Papa.unparse(
    rows.map(({ part, read, isSkipped, judged }) => ({
      ref: part.ref,
      value: partValue(part),
      volts: part.ratedVolt ?? '',
      kind: part.dielectric ?? '',
      ohm: read ?? '',
      verdict: read === undefined ? (isSkipped ? 'out of reach' : '') : (judged?.verdict ?? ''),
      because: read === undefined ? '' : (judged?.because ?? ''),
    })),
    { newline: '\r\n', escapeFormulae: FORMULA },
  );
}

export function saveSurvey(rows: readonly SurveyRow[], number: number): void {
  saveFile(`case-${number}-capacitors.csv`, 'text/csv', `${surveyCsv(rows)}\r\n`);
}
