import { describe, expect, it } from 'vitest';
import { readDeck, type Part } from '../board';
import {
  elementsOf,
  isSource,
  modesOf,
  SEVERITY,
  severityGrid,
  typicalSeverity,
  type Element,
} from '.';

const deck = readDeck(`kinds
R1 A B 1k
C1 A B 10u
*@ C1 kind=electrolytic esr=0.2
L1 A B 1m
*@ L1 dcr=5
D1 A B DM
Q1 A B C QM
XF1 A B FUSE
XS1 A B SWITCH
XS2 A B SWITCH_OPEN
XJ1 A B PIN
XW1 A B LINK
XM1 A B WINDING
*@ M1 dcr=10
V1 A 0 5
I1 A 0 1m
.model DM D(RS=2)
.model QM NPN
.end`);
if (!deck.ok) throw new Error('deck');
const part = (ref: string): Part => deck.value.parts.find((p) => p.ref === ref)!;
const names = (ref: string): string[] => modesOf(part(ref)).map(({ name }) => name);
const faulty = (ref: string, mode: string, severity?: number): readonly Element[] => {
  const found = modesOf(part(ref)).find(({ name }) => name === mode)!;
  return found.change(elementsOf(part(ref)), severity ?? typicalSeverity(found.severity));
};
/** Ohms between the part's two nets at DC, elements in parallel. */
const ohms = (elements: readonly Element[]): number =>
  1 /
  elements.reduce(
    (sum, e) => sum + (e.type === 'conductance' ? e.siemens : e.type === 'coil' ? 1 / e.ohm : 0),
    0,
  );

// Source: docs/formats/faults.md.
describe('fault modes', () => {
  it.each([
    ['R1', ['open', 'short', 'drift-high', 'drift-low']],
    ['C1', ['open', 'short', 'leaky', 'high-esr', 'low-capacitance']],
    ['L1', ['open', 'short']],
    ['M1', ['open', 'short']],
    ['D1', ['open', 'short', 'leaky']],
    ['Q1', ['open-b', 'open-c', 'open-e', 'short-be', 'short-bc', 'short-ce']],
    ['F1', ['open']],
    ['S1', ['open', 'stuck-closed']],
    ['J1', ['open']],
    ['W1', ['open']],
    ['V1', []],
    ['I1', []],
  ])('%s has %j', (ref, modes) => expect(names(ref)).toEqual(modes));

  it('mean what the table says', () => {
    expect(ohms(faulty('R1', 'open'))).toBeCloseTo(1000 + 1e8, 0);
    expect(ohms(faulty('R1', 'short'))).toBeCloseTo(1 / (1 / 1000 + 1 / 0.3), 9);
    expect(ohms(faulty('R1', 'drift-high', 8))).toBeCloseTo(8000, 6);
    expect(ohms(faulty('R1', 'drift-low', 0.2))).toBeCloseTo(200, 6);
    expect(ohms(faulty('C1', 'leaky', 50))).toBeCloseTo(50, 9);
    expect(ohms(faulty('L1', 'open'))).toBeCloseTo(5 + 1e8, 0);
    expect(ohms(faulty('F1', 'open'))).toBeCloseTo(0.05 + 1e8, 0);
    expect(ohms(faulty('S2', 'stuck-closed'))).toBeLessThan(0.1);
    expect(faulty('C1', 'high-esr', 100)).toMatchObject([
      { type: 'capacitance', ohm: 20, farad: 10e-6 },
    ]);
    expect(faulty('C1', 'low-capacitance', 0.1)).toMatchObject([
      { type: 'capacitance', ohm: 0.2, farad: expect.closeTo(1e-6, 12) as number },
    ]);
  });

  it('leave the healthy elements as they were', () => {
    const before = JSON.stringify(elementsOf(part('C1')));
    for (const ref of ['C1', 'R1', 'Q1', 'D1']) for (const mode of names(ref)) faulty(ref, mode);
    expect(JSON.stringify(elementsOf(part('C1')))).toBe(before);
  });

  it('an open transistor lead puts a node between it and its net', () => {
    const [transistor, series] = faulty('Q1', 'open-b') as [
      Extract<Element, { type: 'transistor' }>,
      Extract<Element, { type: 'conductance' }>,
    ];
    expect(transistor.base).not.toBe('B');
    expect([series.a, series.b]).toEqual(['B', transistor.base]);
  });
});

it('knows sources from parts', () =>
  expect(deck.value.parts.filter(isSource).map(({ ref }) => ref)).toEqual(['V1', 'I1']));

it('spreads severities evenly on a log scale, ends included, and no further apart than a good decade', () => {
  for (const range of Object.values(SEVERITY)) {
    const grid = severityGrid(range);
    expect(grid[0]! / (range.low === range.high ? typicalSeverity(range) : range.low)).toBeCloseTo(
      1,
      9,
    );
    expect(grid.at(-1)! / range.high).toBeCloseTo(1, 9);
    const ratios = grid.slice(1).map((value, i) => value / grid[i]!);
    for (const ratio of ratios) expect(ratio / ratios[0]!).toBeCloseTo(1, 9);
    expect(Math.max(1, ...ratios)).toBeLessThan(10 ** 1.1 + 1e-9);
  }
});

// Source: the core's outside interface, "Severities".
it('stands for each mode with the value that the interface names', () => {
  const typical = Object.fromEntries(
    Object.entries(SEVERITY).map(([name, range]) => [name, typicalSeverity(range)]),
  );
  expect(typical).toEqual({
    open: 1e8,
    contact: 1e8,
    short: 0.3,
    leaky: 300,
    highEsr: 70,
    lowCapacitance: 0.12,
    driftHigh: 3.5,
    driftLow: 0.35,
  });
});

it('leaves no gap between a dead short and what no meter sees', () => {
  expect(SEVERITY.short.high).toBe(SEVERITY.leaky.low);
  expect(SEVERITY.leaky.high).toBeGreaterThanOrEqual(5e6);
  expect(SEVERITY.driftLow.high).toBeGreaterThan(0.8);
  expect(SEVERITY.driftHigh.low).toBeLessThan(1.2);
});
