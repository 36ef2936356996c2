/**
 * What a spreadsheet would take for a formula: a cell that begins like one and is no number. Such a
 * cell is written behind an apostrophe where a file goes to a person's spreadsheet.
 * Source: common practice against formula injection, no published source.
 */
export const FORMULA = /^[=+\-@\t\r](?!\d*\.?\d+(e[+-]?\d+)?$)/i;

/** A cell as it was meant: without the apostrophe that keeps a spreadsheet from calculating it. */
export function plainCell(cell: string): string {
  return cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;
}
