import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { FORMULA, plainCell } from './csv-cells';
import { readPartsList, writePartsList } from './formats/parts-list';

/** What common spreadsheets begin to calculate on. Source: common practice, no published source. */
const STARTS = ['=1+1', '+1+1', '-1+1', '@SUM(A1)', '=cmd|x', '\t=1', '-2+3+cmd|calc', '+5V'];

describe('cells of a table', () => {
  it.each(STARTS)('%j are not calculated', (cell) => {
    const written = Papa.unparse([[cell]], { escapeFormulae: FORMULA });
    expect(Papa.parse<string[]>(written).data[0]![0]![0]).toBe("'");
  });
  it.each(['-5', '+5', '-0.62', '-1e-9', '+.5', '5', 'OL', 'VM', '4k7', "it's"])(
    '%j stay as they are',
    (cell) => {
      const written = Papa.unparse([[cell]], { escapeFormulae: FORMULA });
      expect(Papa.parse<string[]>(written).data).toEqual([[cell]]);
    },
  );
  it('come back as they were meant, whatever they are', () => {
    const cell = fc.oneof(fc.string(), fc.constantFrom(...STARTS));
    fc.assert(
      fc.property(cell, (text) => {
        fc.pre(!/^'[=+\-@\t\r]/.test(text));
        const written = Papa.unparse([['a', text]], { escapeFormulae: FORMULA });
        const [row] = Papa.parse<string[]>(written, { transform: plainCell }).data;
        // A lone carriage return is a line's end in CSV whoever writes it.
        if (!/[\r\n]/.test(text)) expect(row![1]).toBe(text);
      }),
      { seed: 20261127 },
    );
  });
  it('of a parts list carry a note that begins like a formula there and back', () => {
    const list =
      'ref,device,value,tolerance,rating,package,note\r\nR1,resistor,4k7,,,,"=HYPERLINK(""x"")"\r\n';
    const board = readPartsList(list);
    if (!board.ok) throw new Error('list');
    const written = writePartsList(board.value);
    expect(written).toContain("'=HYPERLINK");
    expect(readPartsList(written)).toEqual(board);
  });
});
