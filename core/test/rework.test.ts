import { describe, expect, it } from 'vitest';
import {
  besidePart,
  COPPER_OHM_MM2,
  gaugeMm,
  HEAT_CELSIUS,
  jumperAmpere,
  jumperOf,
  keepOut,
  landings,
  reworkPlan,
  TORN_CONNECTOR,
  trackAmpere,
  trackOhm,
  trackWidthMm,
  wireHenry,
  wireOhm,
} from '@hanzai/core/rework';
import { indexBoard } from '@hanzai/core/board';
import { readDeck } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';

// Source: ASTM B258, table of diameters; ohms a kilometre of bare copper at 20 °C by the published
// wire tables made of it and IEC 60028, from memory.
describe('wire by its gauge', () => {
  it.each([
    [10, 2.588, 3.277],
    [18, 1.024, 20.95],
    [22, 0.644, 52.96],
    [24, 0.511, 84.22],
    [28, 0.321, 212.9],
    [30, 0.255, 338.6],
    [36, 0.127, 1361],
    [40, 0.0799, 3441],
  ])('AWG %i: %f mm, %f Ω a kilometre', (gauge, mm, ohmPerKm) => {
    expect(gaugeMm(gauge)).toBeCloseTo(mm, mm < 0.1 ? 4 : 3);
    const own = wireOhm(1e6, gaugeMm(gauge));
    expect(Math.abs(own / ohmPerKm - 1)).toBeLessThan(0.002);
  });
  // Source: IEC 60028: 1/58 Ω mm²/m, 0.00393 a degree at 20 °C.
  it('annealed copper', () => {
    expect(COPPER_OHM_MM2).toBeCloseTo(0.017241, 6);
    expect(wireOhm(1000, 2 / Math.sqrt(Math.PI))).toBeCloseTo(0.017241, 6);
    expect(wireOhm(1000, 1, 75) / wireOhm(1000, 1)).toBeCloseTo(1 + 55 * 0.00393, 9);
  });
  // Common practice, no published source: 30 AWG is 0.34 Ω/m; 3 cm is 10 mΩ and some 30 nH.
  it('three centimetres of 30 gauge', () => {
    expect(wireOhm(30, gaugeMm(30))).toBeCloseTo(0.01, 3);
    expect(wireHenry(30, gaugeMm(30)) * 1e9).toBeGreaterThan(28);
    expect(wireHenry(30, gaugeMm(30)) * 1e9).toBeLessThan(35);
    expect(wireHenry(0.1, 0.255)).toBe(0);
    // Rosa’s own example form: a metre of 1 mm is 0.2 (ln 4000 - 0.75) µH.
    expect(wireHenry(1000, 1) * 1e6).toBeCloseTo(0.2 * (Math.log(4000) - 0.75), 9);
  });
});

// Source: IPC-2221, the chart and its formula; 35 µm copper, from memory of its usual examples.
describe('tracks', () => {
  it('a quarter of a millimetre carries near an ampere at ten degrees, outside', () => {
    expect(trackAmpere(0.25, 10)).toBeGreaterThan(0.8);
    expect(trackAmpere(0.25, 10)).toBeLessThan(1);
    // 1 A, 10 °C, 35 µm: 0.30 mm outside, 0.78 mm within.
    expect(trackWidthMm(1, 10)).toBeCloseTo(0.3, 2);
    expect(trackWidthMm(1, 10, 'inside')).toBeCloseTo(0.78, 2);
  });
  it('width and current are each other turned round', () => {
    for (const ampere of [0.1, 1, 5])
      for (const place of ['outside', 'inside'] as const)
        expect(trackAmpere(trackWidthMm(ampere, 20, place), 20, place)).toBeCloseTo(ampere, 9);
  });
  // A square of 35 µm copper is half a milliohm.
  it('ohms by squares', () => expect(trackOhm(10, 1) / 10).toBeCloseTo(0.000493, 6));
  it('a short 30 gauge jumper carries near half an ampere', () =>
    expect(jumperAmpere(gaugeMm(30))).toBeCloseTo(0.41, 2));
});

const deck = `a board
V1 P5 0 5
C1 P5 0 470u
*@ C1 kind=electrolytic volt=16 pos=10,10
C2 P5 0 100n
*@ C2 kind=ceramic pos=14,10
C3 P5 A 100n
*@ C3 kind=ceramic pos=40,10
R1 P5 A 1k
*@ R1 pos=12,13
R2 A 0 1k
.end
`;
const read = readDeck(deck, LIBRARY);
if (!read.ok) throw new Error('deck');
const index = indexBoard(read.value);
const part = (ref: string) => index.partByKey.get(ref.toLowerCase())!;

describe('where a wire goes in place of a lost pad', () => {
  it('the nearest pin of the same net, not one that is to come off itself', () => {
    const places = landings(index, part('C1'), 0);
    expect(places.map(({ pin }) => pin)).toEqual(['R1.1', 'C2.1', 'C3.1']);
    expect(places[0]!.straightMm).toBeCloseTo(Math.hypot(2, 3), 9);
    const avoiding = landings(index, part('C1'), 0, new Set(['R1']));
    expect(avoiding.map(({ pin }) => pin)).toEqual(['C2.1', 'C3.1', 'R1.1']);
    // What has no place on the board cannot be gone to, nor from.
    expect(landings(index, part('R2'), 0)).toEqual([]);
    expect(landings(index, part('C1'), 9)).toEqual([]);
  });

  it('says what it means beside the part’s own ohms', () => {
    const near = jumperOf(4);
    const far = jumperOf(60);
    expect(near.lengthMm).toBeCloseTo(8.8, 9);
    expect([
      besidePart(near, 0.5),
      besidePart(near, 0.03),
      besidePart(far, 0.03),
      besidePart(far, undefined),
    ]).toEqual(['nothing', 'mind', 'too long', 'not judged']);
  });
});

describe('how it comes off and goes on', () => {
  it('shields what is near, by tool', () => {
    expect(keepOut(index, part('C1'), 5).map(({ ref }) => ref)).toEqual(['R1', 'C2']);
    expect(keepOut(index, part('R2'), 50)).toEqual([]);
    expect(reworkPlan(index, part('C1'), 'iron').keepOut.map(({ ref }) => ref)).toEqual([
      'R1',
      'C2',
    ]);
  });

  it('no cold pulling, no burning air, a photograph first and the short looked for before power', () => {
    for (const name of ['cr40Whole', 'pd3If', 'pd3Rw', 'yc2', 'tl9'] as const) {
      const board = indexBoard(demoBoard(name));
      for (const one of board.board.parts)
        for (const school of ['iron', 'hot-air'] as const) {
          const { off, on, otherSchool } = reworkPlan(board, one, school, { leaked: true });
          const words = [...off, ...on]
            .map((step) => `${step.words} ${step.caution ?? ''}`)
            .join(' ');
          expect(off[0]!.words).toMatch(/Photograph/);
          expect(words).toMatch(/No cold pulling|Not 450/);
          expect(words).toMatch(/gloves/);
          expect(otherSchool).toMatch(/price/);
          // Every check names points that the board has.
          for (const { check } of [...off, ...on])
            for (const point of check ? [check.at, check.to] : []) {
              const [ref, pin] = [
                point.slice(0, point.lastIndexOf('.')),
                Number(point.slice(point.lastIndexOf('.') + 1)),
              ];
              expect(board.partByKey.get(ref.toLowerCase())?.pins[pin - 1], point).toBeDefined();
            }
          const last = on.at(-1)!;
          if (one.pins.length > 1 && one.pins[0] !== one.pins[1])
            expect(last.check?.kind).toBe('resistance');
        }
    }
    expect(HEAT_CELSIUS).toEqual({ iron: 350, air: 330, airNever: 450 });
  });

  it('washes what leaked before heat, and says how a torn connector holds again', () => {
    const words = (seen: object) =>
      reworkPlan(index, part('C1'), 'iron', seen)
        .off.map((step) => step.words)
        .join(' ');
    expect(words({ leaked: true })).toMatch(/before any heat/);
    expect(words({})).not.toMatch(/leaked/);
    expect(TORN_CONNECTOR.map((step) => step.words).join(' ')).toMatch(/mask/);
    expect(words({})).toMatch(/Read its volts/);
  });
});
