import { describe, expect, it } from 'vitest';
import {
  bestOf,
  drivenTurns,
  laserAmpere,
  movesTo,
  neverMoved,
  nextSetting,
  scoreOf,
  settingsOf,
  STEP_DEGREES,
  touchObjections,
  turnsByTone,
  wayBack,
  type AsFound,
  type Axis,
  type BeforeTouch,
  type Touch,
  type Tried,
} from '@hanzai/core/adjust';
import { board } from './boards';

const found: readonly AsFound[] = [
  { ref: 'RV1', reading: 183, unit: 'ohm', mark: '' },
  { ref: 'RV2', unit: '', mark: 'pencil line at four' },
];
const touch = (ref: string, degrees: number, more: Partial<Touch> = {}): Touch => ({
  ref,
  degrees,
  ...more,
});
const before = (touches: readonly Touch[], more: Partial<BeforeTouch> = {}): BeforeTouch => ({
  found,
  touches,
  locks: [],
  never: undefined,
  ...more,
});
const asks = (next: Touch, touches: readonly Touch[] = [], more: Partial<BeforeTouch> = {}) =>
  touchObjections(next, before(touches, more));

describe('what was found is not lost', () => {
  it('a trimmer whose first place nobody wrote down is not turned', () => {
    expect(asks(touch('RV9', 5)).refused).toMatch(/not written down/);
    expect(asks(touch('rv1', 5))).toEqual({ askReason: [] });
    expect(asks(touch('RV1', 0)).refused).toBeDefined();
  });

  it('adds up what was done, and knows the way back of all', () => {
    const touches = [
      touch('RV1', 20, { reading: 200 }),
      touch('RV2', -10),
      touch('RV1', -5),
      touch('rv1', 10, { reading: 210 }),
    ];
    const [one, two] = settingsOf(found, touches);
    expect([one!.degrees, one!.reading, one!.touches]).toEqual([25, 210, 3]);
    expect(one!.change).toBeCloseTo(210 / 183 - 1, 9);
    expect([two!.degrees, two!.change]).toEqual([-10, undefined]);
    // The last touched first; together with it everything is where it was.
    expect(wayBack(found, touches).map(({ ref, degrees }) => [ref, degrees])).toEqual([
      ['RV1', -25],
      ['RV2', 10],
    ]);
    const back = wayBack(found, touches).map(({ ref, degrees }) => touch(ref, degrees));
    expect(wayBack(found, [...touches, ...back])).toEqual([]);
    expect(settingsOf(found, [...touches, ...back]).map(({ degrees }) => degrees)).toEqual([0, 0]);
    expect(wayBack(found, touches)[0]!.to).toBe('183 Ω');
  });

  // Common practice, no published source: a tenth at a time; 1.52 k to 1.3 k is a step of 1/1.17.
  it('asks for a reason where a step is larger than a tenth or so', () => {
    expect(asks(touch('RV2', STEP_DEGREES)).askReason).toEqual([]);
    expect(asks(touch('RV2', -STEP_DEGREES - 1)).askReason[0]).toMatch(/tenth/);
    const at = (reading: number) => asks({ ref: 'RV1', degrees: 90, reading }, []).askReason.length;
    expect([at(183 / 1.17), at(183 * 1.17), at(183 * 1.3), at(183 / 1.3)]).toEqual([0, 0, 1, 1]);
  });

  it('when it got worse only the way back is open', () => {
    const worse = [
      touch('RV2', 10, { outcome: { reads: 2 } }),
      touch('RV2', 10, { outcome: { reads: 1 } }),
    ];
    expect(asks(touch('RV2', 5), worse).askReason[0]).toMatch(/worse/);
    expect(asks(touch('RV1', 5), worse).askReason[0]).toMatch(/worse/);
    expect(asks(touch('RV2', -10), worse).askReason).toEqual([]);
    expect(asks(touch('RV2', -20), worse, { locks: ['C3 is off'] }).askReason).toEqual([]);
    // Past where it was found is no way back.
    expect(asks(touch('RV2', -30), worse).askReason.length).toBeGreaterThan(0);
  });

  it('waits for capacitors and ledger, and never moves a home sensor', () => {
    expect(asks(touch('RV1', 5), [], { locks: ['C3 is off the board'] }).askReason).toEqual([
      'C3 is off the board',
    ]);
    const sheet = board(
      'V1 P5 0 5\nXS1 A K C E OPTO\n*@ S1 role="home sensor"\nR1 A P5 100\nR2 K 0 1\nRV1 C P5 1k\n*@ RV1 note="glued at the works"\nR4 E 0 1k',
    );
    expect(neverMoved(sheet, 'RV1')).toMatch(/glued/);
    expect(neverMoved(sheet, 'R1')).toBeUndefined();
    expect(neverMoved(undefined, 'home sensor')).toMatch(/home position/);
    expect(asks(touch('RV1', 5), [], { never: 'glued' }).askReason[0]).toMatch(/never moved/);
  });
});

describe('score', () => {
  it('what it reads counts first, then errors, then seconds', () => {
    const order = [
      { reads: 0 },
      { reads: 1, errors: 90 },
      { reads: 1, errors: 5, seconds: 50 },
      { reads: 1, errors: 5, seconds: 2 },
      { reads: 1 },
      { reads: 2, errors: 1e6, seconds: 1e6 },
      { reads: 3 },
    ] as const;
    const scores = order.map((one) => scoreOf(one)!);
    expect(scores).toEqual([...scores].sort((a, b) => a - b));
    expect(new Set(scores).size).toBe(scores.length);
    expect(scoreOf(undefined)).toBeUndefined();
    expect(scoreOf({})).toBeUndefined();
  });
});

const axis = (ref: string, more: Partial<Axis> = {}): Axis => ({
  ref,
  least: -135,
  most: 135,
  firstStep: 20,
  leastStep: 1,
  backlash: 0,
  ...more,
});

/** Follows the proposals on a surface until there are none. */
function climb(
  axes: readonly Axis[],
  surface: (at: readonly number[]) => number,
  most = 150,
): Tried[] {
  const start = axes.map(() => 0);
  const tried: Tried[] = [{ at: start, score: surface(start) }];
  while (tried.length < most) {
    const next = nextSetting(axes, tried, tried.at(-1)!.at);
    if (!next) break;
    tried.push({ at: next.at, score: surface(next.at) });
  }
  return tried;
}

// Known surfaces: their highest points are known by hand.
describe('search', () => {
  it('finds the top of one trimmer', () => {
    for (const top of [-97, -13, 0, 4, 62, 130]) {
      const tried = climb([axis('RV1')], ([x]) => -((x! - top) ** 2));
      expect(Math.abs(bestOf(tried)!.at[0]! - top)).toBeLessThan(2.5);
      expect(tried.length).toBeLessThan(30);
    }
  });

  it('finds the top of two that go together, where one alone gets nowhere', () => {
    // A narrow ridge along x = y: each step of one alone goes down its side.
    const ridge = ([x, y]: readonly number[]): number =>
      -(((x! - y!) / 4) ** 2) - ((x! + y! - 90) / 40) ** 2;
    const tried = climb([axis('RV1'), axis('RV2')], ridge);
    const { at } = bestOf(tried)!;
    expect(Math.abs(at[0]! - 45)).toBeLessThan(6);
    expect(Math.abs(at[1]! - 45)).toBeLessThan(6);
    expect(tried.length).toBeLessThan(120);
  });

  it('Rosenbrock’s valley, scaled to degrees', () => {
    // Source: Rosenbrock, The Computer Journal 3, 1960; its lowest point is (1, 1).
    const valley = ([x, y]: readonly number[]): number => {
      const [a, b] = [x! / 60, y! / 60];
      return -(100 * (b - a * a) ** 2 + (1 - a) ** 2);
    };
    const tried = climb([axis('RV1'), axis('RV2', { leastStep: 0.2 })], valley, 400);
    expect(-bestOf(tried)!.score).toBeLessThan(0.05);
  });

  it('three at once, against a search of the whole grid', () => {
    const surface = ([x, y, z]: readonly number[]): number =>
      -((x! - 30) ** 2) / 900 - (y! + 50) ** 2 / 400 - (z! - 10 + 0.3 * x!) ** 2 / 900;
    let grid = -Infinity;
    for (let x = -120; x <= 120; x += 10)
      for (let y = -120; y <= 120; y += 10)
        for (let z = -120; z <= 120; z += 10) grid = Math.max(grid, surface([x, y, z]));
    const tried = climb(
      ['RV1', 'RV2', 'RV3'].map((ref) => axis(ref)),
      surface,
      300,
    );
    expect(bestOf(tried)!.score).toBeGreaterThan(grid - 0.05);
  });

  it('stays within what may be turned, and stops where steps are too small', () => {
    const tried = climb([axis('RV1', { most: 15 })], ([x]) => x!);
    for (const { at } of tried) expect(at[0]!).toBeLessThanOrEqual(15);
    expect(nextSetting([axis('RV1', { most: 15 })], tried, [15])).toBeUndefined();
  });

  it('says the same again after a reload, and goes on from the best where a person set their own', () => {
    const axes = [axis('RV1'), axis('RV2')];
    const surface = ([x, y]: readonly number[]): number => -((x! - 43) ** 2) - (y! - 22) ** 2;
    const tried = climb(axes, surface, 9);
    const first = nextSetting(axes, tried, tried.at(-1)!.at);
    expect(nextSetting(axes, [...tried], tried.at(-1)!.at)).toEqual(first);
    const own = { at: [43, 22], score: surface([43, 22]) };
    const next = nextSetting(axes, [...tried, own], own.at)!;
    // Only one of the two is moved from the best that is known.
    expect(next.at.filter((value, i) => value === own.at[i])).toHaveLength(1);
  });

  it('takes up the play: down goes past and comes up again', () => {
    const axes = [axis('RV1', { backlash: 6 }), axis('RV2', { backlash: 6 })];
    expect(movesTo(axes, [0, 0], [-10, 20])).toEqual([
      { ref: 'RV1', degrees: -16 },
      { ref: 'RV1', degrees: 6 },
      { ref: 'RV2', degrees: 20 },
    ]);
    expect(movesTo(axes, [5, 5], [5, 5])).toEqual([]);
  });

  it('nothing comes of nothing', () => {
    expect(nextSetting([], [], [])).toBeUndefined();
    expect(nextSetting([axis('RV1')], [], [0])).toBeUndefined();
    expect(bestOf([])).toBeUndefined();
  });
});

it('speed', () => {
  expect(turnsByTone(300, 1000, 1020)).toBe(306);
  expect(drivenTurns(3000, 8, 80)).toBe(300);
  // The belt's own thickness makes the small pulley relatively larger.
  expect(drivenTurns(3000, 8, 80, 1)).toBeCloseTo((3000 * 9) / 81, 9);
  expect(laserAmpere(0.5, 10)).toBe(0.05);
});
