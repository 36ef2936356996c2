import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import {
  chipUnits,
  drivenBy,
  followed,
  levelTaken,
  lineHolders,
  truthTable,
  unitWith,
  walkBack,
  type Driven,
} from '../src/bench';
import { supplyRails } from '../src/device';
import { nextSwap, swapPlans, swapTally, type SwapTest } from '../src/block';
import { indexBoard, readSheetLines, type BoardIndex, type ChipModel } from '../src/board';
import { HIGH, LOW, UNKNOWN } from '../src/logic';

const board = (text: string): BoardIndex => indexBoard(readSheetLines(text, LIBRARY).board);
const modelOf = (name: string): ChipModel => {
  const part = board(`U1 ${name} 1=A`).board.parts.find(({ kind }) => kind === 'chip');
  if (part?.kind !== 'chip') throw new Error(`no chip ${name}`);
  return part.model;
};

describe('truth tables of published functions', () => {
  // The functions as every data sheet of the series has them, written here a second time; from memory.
  const not = (level: boolean): boolean => !level;
  const every = (levels: boolean[]): boolean => levels.every(Boolean);
  const some = (levels: boolean[]): boolean => levels.some(Boolean);
  it.each<[string, number, number, (levels: boolean[]) => boolean]>([
    ['74LS00', 4, 2, (levels) => not(every(levels))],
    ['74LS02', 4, 2, (levels) => not(some(levels))],
    ['74LS04', 6, 1, ([a]) => not(a!)],
    ['74LS08', 4, 2, every],
    ['74LS10', 3, 3, (levels) => not(every(levels))],
    ['74LS20', 2, 4, (levels) => not(every(levels))],
    ['74LS27', 3, 3, (levels) => not(some(levels))],
    ['74LS32', 4, 2, some],
    ['74LS86', 4, 2, ([a, b]) => a !== b],
  ])('%s: %i units of %i inputs', (name, count, inputs, said) => {
    const model = modelOf(name);
    const units = chipUnits(model);
    expect(units).toHaveLength(count);
    for (const unit of units) {
      expect(unit.inputs).toHaveLength(inputs);
      const rows = truthTable(model, unit)!;
      expect(rows).toHaveLength(2 ** inputs);
      for (const row of rows)
        expect(row.outputs).toEqual([said(row.inputs.map((level) => level === '1')) ? '1' : '0']);
    }
  });
  it('an open collector lets go where a totem pole drives: 74LS03, 74LS38', () => {
    for (const name of ['74LS03', '74LS38']) {
      const model = modelOf(name);
      const rows = truthTable(model, chipUnits(model)[0]!)!;
      expect(rows.map(({ outputs: [level] }) => level)).toEqual(['Z', 'Z', 'Z', '0']);
    }
  });
  it('a three-state output is off where its enable is: 74LS125', () => {
    const model = modelOf('74LS125');
    const [unit] = chipUnits(model);
    for (const { inputs, outputs } of truthTable(model, unit!)!) {
      const level = (name: string): string =>
        inputs[unit!.inputs.findIndex((pin) => model.pins[pin]!.name.startsWith(name))]!;
      const enable = unit!.inputs
        .map((pin) => model.pins[pin]!.name)
        .find((name) => !name.startsWith('A'))!;
      expect(outputs).toEqual([level(enable) === '1' ? 'Z' : level('A')]);
    }
  });
  it('a decoder pulls one output down: 74LS138', () => {
    const model = modelOf('74LS138');
    const [unit] = chipUnits(model);
    expect(unit!.outputs).toHaveLength(8);
    const rows = truthTable(model, unit!)!;
    // One of the eight combinations of its three enables switches it on.
    const active = rows.filter(({ outputs }) => outputs.includes('0'));
    expect(active).toHaveLength(8);
    expect(
      active.every(({ outputs }) => outputs.filter((level) => level === '0').length === 1),
    ).toBe(true);
    expect(new Set(active.map(({ outputs }) => outputs.indexOf('0'))).size).toBe(8);
  });
  it('what remembers has no table, and a half-known input decides only what it can', () => {
    const flipFlop = modelOf('74LS74');
    expect(chipUnits(flipFlop).every(({ remembers }) => remembers)).toBe(true);
    expect(truthTable(flipFlop, chipUnits(flipFlop)[0]!)).toBeUndefined();
    const nand = modelOf('74LS00');
    const [unit] = chipUnits(nand);
    const with1 = (level: number): Driven =>
      drivenBy(nand, unit!, (pin) => (pin === unit!.inputs[0] ? (level as 0) : UNKNOWN)).get(
        unit!.outputs[0]!,
      );
    expect(with1(LOW)).toBe('1');
    expect(with1(HIGH)).toBeUndefined();
  });
  it('a floating TTL input counts as 1, a floating MOS input as nothing', () => {
    expect(levelTaken(modelOf('74LS00'), 'Z')).toBe(HIGH);
    expect(levelTaken(modelOf('74HC00'), 'Z')).toBe(UNKNOWN);
    expect(levelTaken(modelOf('74LS00'), undefined)).toBe(UNKNOWN);
  });
  it.each(Object.keys(DEMO_BOARD_FILES) as (keyof typeof DEMO_BOARD_FILES)[])(
    '%s: every output of every chip belongs to one unit',
    (name) => {
      for (const part of demoBoard(name).parts) {
        if (part.kind !== 'chip' || part.model.blackBox) continue;
        const { model } = part;
        const inUnits = chipUnits(model).flatMap(({ outputs }) => outputs);
        expect(new Set(inUnits).size).toBe(inUnits.length);
        model.pins.forEach(({ role, name: pin }, i) => {
          if (role === 'output') expect(unitWith(model, i), `${part.ref} ${pin}`).toBeDefined();
        });
      }
    },
  );
});

/** Two gates in a row and an inverter: A·B → N1, N1 with C → N2, N2 inverted → OUT. */
const gates = board(
  [
    'J1 5V in: 1=P5 2=0',
    'U1 74LS08 1=A 2=B 3=N1 4=N1 5=C 6=N2 7=0 14=P5',
    'U2 74LS04 1=N2 2=OUT 7=0 14=P5',
    'R1 A P5 10k',
    'R2 B P5 10k',
    'R3 C P5 10k',
  ].join('\n'),
);
const known = (read: Record<string, string>, wanted: Record<string, string>) => (net: string) => ({
  read: read[net],
  wanted: wanted[net],
});
const WANTED = { A: '1', B: '1', C: '1', N1: '1', N2: '1', OUT: '0' };

describe('the walk back', () => {
  const end = (read: Record<string, string>) =>
    followed(walkBack(gates, 'OUT', known(read, WANTED)));
  it('asks for the inputs of what is wrong, and ends where they are right', () => {
    expect(end({ OUT: '1' })).toEqual({ kind: 'read', net: 'N2' });
    expect(end({ OUT: '1', N2: '1' })).toEqual({ kind: 'found', ref: 'U2', pin: '2', net: 'OUT' });
    expect(end({ OUT: '1', N2: '0' }).kind).toBe('read');
    expect(end({ OUT: '1', N2: '0', N1: '1', C: '1' })).toMatchObject({
      kind: 'found',
      ref: 'U1',
      net: 'N2',
    });
    expect(end({ OUT: '1', N2: '0', C: '1', N1: '0', A: '1', B: '1' })).toMatchObject({
      ref: 'U1',
      net: 'N1',
    });
  });
  it('goes to nothing where the output is right, and does not run in circles', () => {
    expect(end({ OUT: '0' })).toEqual({ kind: 'none' });
    const latch = board('J1 5V in: 1=P5 2=0\nU1 74LS00 1=S 2=QN 3=Q 4=Q 5=R 6=QN 7=0 14=P5');
    const walked = walkBack(
      latch,
      'Q',
      known({ Q: '0', QN: '0' }, { Q: '1', QN: '1', S: '1', R: '1' }),
    );
    expect(JSON.stringify(walked).length).toBeLessThan(3000);
  });
  it('names the net itself where no chip drives it', () => {
    expect(followed(walkBack(gates, 'A', known({ A: '0' }, WANTED)))).toEqual({
      kind: 'found',
      ref: '',
      pin: '',
      net: 'A',
    });
  });
});

describe('who can hold a line', () => {
  it('are its drivers, what only pulls down, the plug, parts to ground, and inputs', () => {
    const index = board(
      [
        'J1 5V in: 1=P5 2=0',
        'J2 plug 1=LINE 2=HOST',
        'U1 74LS38 1=A 2=A 3=LINE 7=0 14=P5',
        'U2 74LS04 1=LINE 2=X 7=0 14=P5',
        'R1 LINE P5 1k',
        'C1 LINE 0 1n',
      ].join('\n'),
    );
    const holders = lineHolders(index, 'line', supplyRails(index));
    expect(holders.map(({ ref, how }) => `${ref} ${how}`)).toEqual(
      expect.arrayContaining(['U1 open collector', 'U2 input', 'R1 to a supply', 'C1 to ground']),
    );
    expect(holders[0]!.how).toBe('open collector');
    expect(lineHolders(index, 'nothing', [])).toEqual([]);
  });
});

describe('swapping chips into a good unit', () => {
  /** Tests that a school really takes where just these chips are bad, following its own advice. */
  function taken(
    school: Parameters<typeof nextSwap>[0],
    refs: readonly string[],
    bad: ReadonlySet<string>,
  ) {
    const tests: SwapTest[] = [];
    for (;;) {
      const put = nextSwap(school, refs, tests);
      if (put.length === 0) break;
      tests.push({ refs: put, passed: put.every((ref) => !bad.has(ref)) });
      expect(tests.length).toBeLessThan(100);
    }
    const tally = swapTally(refs, tests);
    for (const ref of refs) expect(tally.get(ref)).toBe(bad.has(ref) ? 'bad' : 'good');
    return tests.length;
  }
  it.each([
    [[0.1, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1]],
    [[0.4, 0.05, 0.3, 0.05, 0.02, 0.6, 0.1]],
    [[0.5, 0.5]],
    [[0.9]],
    [[0.001, 0.001, 0.3]],
  ])('%j: every school costs what all cases together cost, and tells every chip', (chances) => {
    const suspects = chances.map((chance, i) => ({ ref: `U${i + 1}`, chance }));
    const refs = suspects.map(({ ref }) => ref);
    for (const { school, expected, worst } of swapPlans(suspects)) {
      let [mean, most] = [0, 0];
      for (let mask = 0; mask < 2 ** refs.length; mask += 1) {
        const bad = new Set(refs.filter((_, i) => (mask >> i) & 1));
        const weight = suspects.reduce(
          (p, { ref, chance }) => p * (bad.has(ref) ? chance : 1 - chance),
          1,
        );
        const count = taken(school, refs, bad);
        mean += weight * count;
        most = Math.max(most, count);
      }
      expect(mean, school).toBeCloseTo(expected, 9);
      expect(most, school).toBe(worst);
    }
  });
  it('halves where few are bad, one by one where most are', () => {
    const eight = (chance: number) =>
      Array.from({ length: 8 }, (_, i) => ({ ref: `U${i}`, chance }));
    expect(swapPlans(eight(0.02))[0]!.school).toBe('halves');
    expect(swapPlans(eight(0.7))[0]!.school).toBe('one by one');
    expect(swapPlans([])).toEqual([]);
  });
});
