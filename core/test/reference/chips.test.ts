import { describe, expect, it } from 'vitest';
import { emptyMemory, runProgram } from '@hanzai/core/logic';
import { programOf } from '@hanzai/core/device';
import { chipModel, OTHER_CHIPS, SERIES_74 } from '@hanzai/data';
import reference from './chips/vectors.json' with { type: 'json' };

/**
 * Runs a chip through the vectors by package pin and returns the first that comes out otherwise. x
 * in a vector: not said.
 */
function firstDifference(
  name: string,
  inputs: readonly number[],
  outputs: readonly number[],
  vectors: readonly string[],
): string | undefined {
  const model = chipModel(name)!;
  const program = programOf(model);
  const memory = emptyMemory(program);
  const nameOf = (pin: number): string => model.pins[pin - 1]!.name;
  const levels = new Uint8Array(program.inputs.length).fill(1);
  for (const [step, vector] of vectors.entries()) {
    const [given, wanted] = vector.split(' ') as [string, string];
    inputs.forEach((pin, i) => (levels[program.inputSlot.get(nameOf(pin))!] = Number(given[i])));
    const driven = runProgram(program, levels, memory);
    const seen = outputs.map((pin, i) => {
      if (wanted[i] === 'x') return 'x';
      const output = driven.find((o) => o.name === nameOf(pin));
      return output === undefined ? '?' : output.enable === 0 ? 'z' : '01XP'[output.level];
    });
    if (seen.join('') !== wanted)
      return `step ${step}: ${given} gives ${seen.join('')}, not ${wanted}`;
  }
  return undefined;
}

// Source: Icarus Verilog (Debian package), behavioural descriptions by pin in
// scripts/reference-chips.mjs; arithmetic unit by its published function table.
describe('chips against a Verilog simulator', () => {
  const cases = Object.entries(reference.chips);
  it('has enough of them', () => expect(cases.length).toBeGreaterThan(95));
  it.each(cases)('%s', (name, { inputs, outputs, vectors }) => {
    expect(firstDifference(name, inputs, outputs, vectors.split('\n'))).toBeUndefined();
  });
});

describe('the library', () => {
  const families = ['', 'LS', 'S', 'ALS', 'AS', 'F', 'H', 'L', 'HC', 'HCT'];
  it('makes a model of every row in every family it says it holds in', () => {
    const made = SERIES_74.flatMap((row) =>
      (row.families ?? families).map((family) =>
        chipModel(row.number.length > 3 ? row.number : `74${family}${row.number}`),
      ),
    );
    expect(made.every((model) => model !== undefined)).toBe(true);
    expect(new Set(SERIES_74.map(({ number }) => number)).size).toBeGreaterThanOrEqual(95);
    for (const { number } of OTHER_CHIPS) expect(chipModel(number)?.pins.length).toBeGreaterThan(3);
  });

  // A pin-out from memory is read twice: once for the row, once by package pin for the Verilog
  // simulator, without a look at the row. What no simulator can say of a black box or of what is
  // analog is named here, and nothing else.
  it('has every pin-out read a second time, but for those of black boxes and analog inputs', () => {
    const twice = new Set(
      Object.keys(reference.chips).map((name) =>
        name.replace(/^74(LS|S|ALS|AS|F|L|HCT|HC|H)?/, ''),
      ),
    );
    const once = [...SERIES_74, ...OTHER_CHIPS]
      .filter(({ number }) => !twice.has(number))
      .map(({ number }) => number);
    expect(once.sort()).toEqual(
      [
        '121',
        '123',
        '221',
        '2114',
        '2716',
        '2732',
        '2764',
        '311',
        '339',
        '393',
        '4017',
        '4538',
        '555',
        '6116',
        '6502',
        '6522',
        '6532',
        'CLOCK4',
        'DARLINGTON7',
        'HALFBRIDGE4',
        'HBRIDGE2',
        'STEPPER4',
      ]
        .filter((number) => !twice.has(number))
        .sort(),
    );
    for (const row of [...SERIES_74, ...OTHER_CHIPS])
      expect(row.source).toMatch(/data sheet|common practice/);
  });

  it('gives every pin one use, supply and ground once each', () => {
    for (const row of SERIES_74) {
      const model = chipModel(
        row.number.length > 3 ? row.number : `74${row.families?.[0] ?? 'LS'}${row.number}`,
      )!;
      expect(model.pins.filter(({ role }) => role === 'supply')).toHaveLength(1);
      expect(model.pins.filter(({ role }) => role === 'ground')).toHaveLength(1);
      expect(new Set(model.pins.map(({ name }) => name)).size).toBe(model.pins.length);
    }
  });

  it('knows names with suffix letters, and which name has which pins', () => {
    expect(chipModel('74LS86AN')?.title).toBe(chipModel('74LS86')?.title);
    expect(chipModel('7451')?.pins[11]!.role).toBe('none');
    expect(chipModel('74LS51')?.pins[11]!.role).toBe('input');
    expect(chipModel('7473')?.pins.map(({ role }) => role)[3]).toBe('supply');
    expect(chipModel('7473')?.pins.map(({ role }) => role)[10]).toBe('ground');
    expect(chipModel('74L86')).toBeUndefined();
    expect(chipModel('74LS9999')).toBeUndefined();
  });
});
