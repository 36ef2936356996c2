import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Board, Part } from '..';
import {
  describeIssue,
  indexBoard,
  parseDeckNumber,
  printDeckNumber,
  readBoardFile,
  readDeck,
  readTestNetlist,
  writeBoardJson,
  writeDeck,
  writePartsList,
  writeTestNetlist,
} from '..';

const net = fc.constantFrom('0', 'VCC', 'OUT', 'n1', 'n2', 'SENSE');
const value = fc.double({ min: 1e-12, max: 1e9, noNaN: true });
const common = {
  tolerance: fc.option(fc.constantFrom(0.01, 0.05, 0.2), { nil: undefined }),
  role: fc.option(fc.constantFrom('bulk', 'load motor'), { nil: undefined }),
  fitYear: fc.option(fc.integer({ min: 1970, max: 2030 }), { nil: undefined }),
};
const model = fc.record({ IS: value, N: fc.double({ min: 0.5, max: 3, noNaN: true }) });
const part = (i: number): fc.Arbitrary<Part> => {
  const pins = fc.tuple(net, net);
  const clean = (p: object): Part => JSON.parse(JSON.stringify(p)) as Part;
  return fc
    .oneof(
      fc.record({
        kind: fc.constant('resistor'),
        ref: fc.constant(`R${i}`),
        pins,
        resistanceOhm: value,
        ...common,
      }),
      fc.record({
        kind: fc.constant('capacitor'),
        ref: fc.constant(`C${i}`),
        pins,
        capacitanceFarad: value,
        ratedVolt: fc.option(value, { nil: undefined }),
        esrOhm: fc.option(value, { nil: undefined }),
        dielectric: fc.option(fc.constantFrom('film', 'ceramic'), { nil: undefined }),
        ...common,
      }),
      fc.record({
        kind: fc.constant('winding'),
        ref: fc.constant(`M${i}`),
        pins,
        inductanceHenry: value,
        dcResistanceOhm: value,
        ...common,
      }),
      fc.record({
        kind: fc.constant('switch'),
        ref: fc.constant(`S${i}`),
        pins,
        rest: fc.constantFrom('open', 'closed'),
      }),
      fc.record({
        kind: fc.constant('diode'),
        ref: fc.constant(`D${i}`),
        pins,
        model: model.map(({ IS, N }) => ({
          name: `DM${i}`,
          saturationCurrentAmpere: IS,
          emissionCoefficient: N,
          seriesResistanceOhm: 0.1,
          breakdownCurrentAmpere: 1e-3,
        })),
      }),
      fc.record({
        kind: fc.constant('voltageSource'),
        ref: fc.constant(`V${i}`),
        pins,
        volt: fc.double({ min: -50, max: 50, noNaN: true }).map((v) => v || 0),
      }),
    )
    .map(clean);
};
const boards: fc.Arbitrary<Board> = fc
  .integer({ min: 1, max: 12 })
  .chain((n) => fc.tuple(...Array.from({ length: n }, (_, i) => part(i + 1))))
  .map((parts) => ({ format: 'hanzai-board', version: 1, title: 'generated', parts }));

function issueOf(lines: string): string {
  const result = readDeck(`title\n${lines}\n.end\n`);
  return result.ok ? 'no issue' : result.issues.map(describeIssue).join('\n');
}

describe('board files', () => {
  it('a deck written and read again is the same board', () => {
    fc.assert(
      fc.property(boards, (b) => {
        expect(readDeck(writeDeck(b))).toMatchObject({ ok: true, value: b });
      }),
      { seed: 20265 },
    );
  });
  it('Board JSON written and read again is the same board', () => {
    fc.assert(
      fc.property(boards, (b) => {
        expect(readBoardFile('x.json', writeBoardJson(b))).toEqual({
          ok: true,
          value: b,
          notes: [],
        });
      }),
      { seed: 20266, numRuns: 50 },
    );
  });
  it('a number printed for a deck is the same number when read', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-14, max: 1e12, noNaN: true }), (x) => {
        expect(parseDeckNumber(printDeckNumber(x))).toBe(x);
      }),
      { seed: 20267 },
    );
    expect(['4.7K', '10uF', '1MEG', '2.2e-6', '100n', '3m', '.5'].map(parseDeckNumber)).toEqual([
      4700, 10e-6, 1e6, 2.2e-6, 100e-9, 3e-3, 0.5,
    ]);
  });
  it('a test netlist keeps nets, pins and places; a parts list keeps values', () => {
    const deck = readDeck(
      't\nR1 VERY_LONG_NET_NAME_OF_THE_BUS OUT 4.7k\n*@ R1 pos=12.5,40\nC1 OUT 0 10u\n.end',
    );
    if (!deck.ok) throw new Error('deck');
    const netlist = readTestNetlist(writeTestNetlist(deck.value));
    expect(netlist).toMatchObject({
      ok: true,
      value: {
        parts: [
          { ref: 'R1', pins: ['VERY_LONG_NET_NAME_OF_THE_BUS', 'OUT'], positionMm: [12.5, 40] },
          { ref: 'C1', pins: ['OUT', '0'] },
        ],
      },
    });
    expect(readBoardFile('x.csv', writePartsList(deck.value))).toMatchObject({
      ok: true,
      value: {
        parts: [
          { ref: 'R1', resistanceOhm: 4700 },
          { ref: 'C1', capacitanceFarad: 10e-6 },
        ],
      },
    });
  });
  it('a parts list may leave the device to the letters of the designator, and say what is not known', () => {
    const list = (...rows: string[]): ReturnType<typeof readBoardFile> =>
      readBoardFile('x.csv', ['ref,value,rating,tolerance', ...rows].join('\n'));
    expect(
      list('C1,47u,16V,', 'r2,4k7,?,?', 'RN1.3,33R,,', 'F1,,T1A,', 'sw1,open,,', 'U1,74LS14,,'),
    ).toMatchObject({
      ok: true,
      value: {
        parts: [
          { kind: 'capacitor', ref: 'C1', capacitanceFarad: 47e-6, ratedVolt: 16 },
          { kind: 'resistor', ref: 'r2', resistanceOhm: 4700 },
          { kind: 'resistor', ref: 'RN1.3' },
          { kind: 'fuse', rating: 'T1A' },
          { kind: 'switch', rest: 'open' },
          { kind: 'unspecified', ref: 'U1' },
        ],
      },
    });
    const known = list('R2,4k7,?,?');
    expect(known.ok && known.value.parts[0]).not.toHaveProperty('rating');
    expect(known.ok && known.value.parts[0]).not.toHaveProperty('tolerance');
    // The device of the list goes before the letters.
    expect(readBoardFile('x.csv', 'ref,device,value\nC9,resistor,1k\n')).toMatchObject({
      ok: true,
      value: { parts: [{ kind: 'resistor' }] },
    });
    expect(list('C1,,,')).toMatchObject({
      ok: false,
      issues: [{ line: 2, what: 'C1: no capacitance' }],
    });
    expect(list('C1,?,,')).toMatchObject({
      ok: true,
      value: { parts: [{ kind: 'capacitor', unknown: true }] },
    });
    expect(readBoardFile('x.csv', 'device,value\nresistor,1k\n')).toMatchObject({
      ok: false,
      issues: [{ what: 'no column ref' }],
    });
  });
  it('flattens subcircuits, joins continued lines and keeps the first spelling of a name', () => {
    const result = readDeck(
      't\n.subckt PAD I O\nR1 I M 100\nR2 M O 100\n.ends\nv1 Vcc 0\n+ DC 5\nXP1 VCC out PAD\nrl OUT gnd 1k\n.tran 1n 1u\n.end',
    );
    if (!result.ok) throw new Error('deck');
    expect(result.value.parts.map((p) => [p.ref, ...p.pins])).toEqual([
      ['v1', 'Vcc', '0'],
      ['P1.R1', 'VCC', 'P1.M'],
      ['P1.R2', 'P1.M', 'out'],
      ['rl', 'OUT', '0'],
    ]);
    expect(indexBoard(result.value).nets).toEqual(['Vcc', '0', 'P1.M', 'out']);
    expect(result.notes).toEqual(['line 10: .tran skipped']);
  });
  it.each([
    ['R1 A', 'line 2: R1 has 1 nets; expected 2 nets and a value'],
    [
      'R1 A B x',
      'line 2: R1: cannot read the value "x"; expected a number such as 4.7k, 10u or 1meg, or ? where it is not known',
    ],
    ['R1 A B 1k\nR1 A B 2k', 'line 3: R1 is there twice; expected each designator once'],
    [
      'XU1 A B 74XYZ',
      'line 2: U1: 74XYZ is not in the device library and has no .subckt; expected one of FUSE, SWITCH, SWITCH_OPEN, PIN, LINK, WINDING, OPTO, INTERRUPTER, RELAY, TRANSFORMER and the like, or a .subckt 74XYZ',
    ],
    ['XF1 A B C FUSE', 'line 2: F1 has 3 nets; expected 2, one for each pin of FUSE'],
    ['D1 A B NOPE', 'line 2: D1: no diode model NOPE; expected a card .model NOPE D (…)'],
    ['R1 A B -5', 'line 2: R1: value -5 is not above zero; expected a value above zero'],
    [
      'R1 A B 1k\n*@ R1 tol=maybe',
      'line 3: R1: cannot read tol=maybe; expected a tolerance such as 5%',
    ],
    [
      '.subckt A x\nXB x A\n.ends\nXC n A',
      'line 3: B: subcircuits nested deeper than 20; expected no subcircuit that contains itself',
    ],
  ])('%s: says the line, what is wrong and what was expected', (lines, message) =>
    expect(issueOf(lines)).toBe(message),
  );
  it('answers 5 MB of rubbish with a bounded list of clear errors', () => {
    const rubbish = Array.from(
      { length: 5_000_000 / 50 },
      (_, i) => `${'\u0001~%&'[i % 4]}${(i * 7919).toString(36).padEnd(47, 'z')}`,
    ).join('\n');
    for (const name of ['x.cir', 'x.json', 'x.ipc', 'x.csv']) {
      const result = readBoardFile(name, rubbish);
      expect(result.ok).toBe(false);
      if (!result.ok) expect(result.issues.length).toBeLessThanOrEqual(20);
    }
  });
});
