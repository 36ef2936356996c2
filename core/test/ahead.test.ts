import { LIBRARY, RATES } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { sequencesOf } from '../src/bench';
import { supplyPath, supplyRails } from '../src/device';
import { GROUND, indexBoard, readSheetLines, type BoardIndex } from '../src/board';
import { Diagnoser, diagnose } from '../src/diagnosis';
import {
  measurementKey,
  parseShorthand,
  resolveMeasurement,
  type Reading,
} from '../src/instrument';
import {
  aheadSteps,
  DEFAULT_COSTS,
  nextMeasurements,
  planNext,
  schoolsOf,
  sidesOf,
  type AheadNode,
} from '../src/plan';

const board = (text: string): BoardIndex => indexBoard(readSheetLines(text, LIBRARY).board);
const take = (index: BoardIndex, ...lines: string[]): readonly Reading[] =>
  lines.map((line) => {
    const read = parseShorthand(index, line);
    if (!read.ok) throw new Error(`${line}: ${read.expected}`);
    return read.reading;
  });
const finished = <T>(steps: Generator<number, T>): T => {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    expect(step.value).toBeGreaterThanOrEqual(0);
    expect(step.value).toBeLessThanOrEqual(1);
  }
};

/** Links in a row from the supply to the end, each as likely to be open as the next. */
const chain = (count: number): BoardIndex =>
  board(
    [
      'J1 9V in: 1=N0 2=0',
      ...Array.from({ length: count }, (_, i) => `F${i + 1} N${i} N${i + 1} T1A`),
      `R1 N${count} 0 1k`,
    ].join('\n'),
  );

describe('a few steps ahead', () => {
  const index = chain(8);
  const dead = take(index, 'n8 0');
  const diagnoser = new Diagnoser(index, RATES);
  const volts = { allow: ['voltage'] as const };
  const first = planNext(diagnoser, dead, diagnoser.believe(dead), volts).measurements[0]!;
  const tree = finished(aheadSteps(diagnoser, dead, first, 3, volts));

  it('halves a chain of eight in three readings, which is the exact optimum', () => {
    // Eight alike of which one is open: no binary tree is less deep than log2(8).
    const depth = ({ outcomes }: AheadNode): number =>
      1 +
      Math.max(
        0,
        ...outcomes.map(({ then }) =>
          then.kind === 'measure' && then.node.outcomes.length > 0 ? depth(then.node) : 0,
        ),
      );
    expect(depth(tree)).toBe(3);
    const leaves = ({ outcomes }: AheadNode): string[] =>
      outcomes.flatMap(({ then }) =>
        then.kind === 'replace'
          ? [then.ref]
          : then.kind === 'measure' && then.node.outcomes.length > 0
            ? leaves(then.node)
            : [],
      );
    expect(new Set(leaves(tree)).size).toBeGreaterThanOrEqual(7);
  });

  it('says at every branch what is planned when that value has been read', () => {
    const walk = (node: AheadNode, known: readonly Reading[]): void => {
      for (const { display, then } of node.outcomes) {
        const prospect = node.measurement.prospects.find((one) => one.display === display)!;
        const read = [
          ...known,
          { measurement: node.measurement.measurement, value: prospect.value },
        ];
        const plan = nextMeasurements(index, read, RATES, { ...volts, quick: true, most: 1 });
        if (then.kind === 'replace') expect(plan.replace[0]!.ref).toBe(then.ref);
        if (then.kind !== 'measure') continue;
        const { at, kind } = then.node.measurement;
        expect([plan.measurements[0]!.at, plan.measurements[0]!.kind]).toEqual([at, kind]);
        if (then.node.outcomes.length > 0) walk(then.node, read);
      }
    };
    walk(tree, dead);
  });

  it('has a value for every prospect that leads where the prospect says', () => {
    for (const { value, leading } of first.prospects) {
      const after = diagnose(index, [...dead, { measurement: first.measurement, value }], RATES);
      expect(after.byPart[0]!.ref).toBe(leading[0]!.ref);
    }
  });
});

describe('what may be proposed', () => {
  const index = chain(5);
  const dead = take(index, 'n5 0');
  it('never is what is not allowed, and the best of the rest comes first', () => {
    const all = nextMeasurements(index, dead, RATES);
    const [best] = all.measurements;
    const key = measurementKey(best!.measurement);
    const without = nextMeasurements(index, dead, RATES, {
      allowed: (m) => measurementKey(m) !== key,
    });
    expect(
      without.measurements.map(({ measurement }) => measurementKey(measurement)),
    ).not.toContain(key);
    expect(without.measurements[0]!.measurement).toEqual(all.measurements[1]!.measurement);
    expect(nextMeasurements(index, dead, RATES, { allowed: () => false }).measurements).toEqual([]);
  });
  it('knows from which side a point is reached', () => {
    const placed = board(
      [
        'J1 9V in: 1=VIN 2=0',
        'R1 VIN A 1k pos=10,10 package=0805 side=bottom',
        'R2 A B 1k pos=20,10 package=0805',
        'C1 B 0 100u pos=30,10 package=radial',
      ].join('\n'),
    );
    const sides = (line: string) => {
      const [reading] = take(placed, line);
      return sidesOf(placed, reading!.measurement);
    };
    expect(sides('r1.1 r1.2 1k')).toEqual(['bottom']);
    expect(sides('r2.1 r2.2 1k')).toEqual(['top']);
    expect(sides('c1.1 c1.2 1 esr')).toEqual(['top', 'bottom']);
    expect(sides('a 5')).toEqual(['top', 'bottom']);
    expect(sidesOf(index, dead[0]!.measurement)).toEqual(['top', 'bottom']);
  });
});

describe('the two schools', () => {
  /** Every order of replacing, by hand: the least minutes and the parts of that order. */
  function exhaustive(shares: readonly number[], each: number, giveUp: number) {
    const orders = (left: readonly number[]): number[][] =>
      left.length === 0
        ? [[]]
        : left.flatMap((one, i) =>
            orders(left.filter((_, k) => k !== i)).map((rest) => [one, ...rest]),
          );
    return orders(shares)
      .map((order) => {
        let [rest, minutes, parts] = [1, 0, 0];
        for (const share of order) {
          minutes += rest * each;
          parts += rest;
          rest -= share;
        }
        return { minutes: minutes + rest * giveUp, parts };
      })
      .sort((a, b) => a.minutes - b.minutes)[0]!;
  }
  const shares = { A: 0.5, B: 0.2, C: 0.2, D: 0.06 };
  const byPart = Object.entries(shares).map(([ref, probability]) => ({
    ref,
    probability,
    weights: [],
  }));
  const promise = {
    title: '',
    minutes: 1,
    reason: '',
    outcomes: [
      { probability: 0.5, shares: new Map([['A', 0.98]]) },
      {
        probability: 0.5,
        shares: new Map([
          ['B', 0.4],
          ['C', 0.4],
          ['D', 0.12],
        ]),
      },
    ],
  };
  it('replacing first costs what the best of all orders costs', () => {
    const { replaceFirst } = schoolsOf({ byPart }, [promise], DEFAULT_COSTS)!;
    const best = exhaustive(Object.values(shares), DEFAULT_COSTS.replace + 5, 180);
    expect(replaceFirst.minutes).toBeCloseTo(best.minutes, 9);
    expect(replaceFirst.parts).toBeCloseTo(best.parts, 9);
    expect(replaceFirst.harm).toBeCloseTo(1 - 0.98 ** best.parts, 9);
  });
  it('measuring first costs the reading and what is left in each outcome', () => {
    const { measureFirst } = schoolsOf({ byPart }, [promise], DEFAULT_COSTS)!;
    const [one, other] = [[0.98], [0.4, 0.4, 0.12]].map((left) => exhaustive(left, 20, 180));
    expect(measureFirst.minutes).toBeCloseTo(1 + (one!.minutes + other!.minutes) / 2, 9);
    expect(measureFirst.parts).toBeLessThan(
      schoolsOf({ byPart }, [promise], DEFAULT_COSTS)!.replaceFirst.parts,
    );
  });
  it('are not told where there is nothing to measure or nobody to replace', () => {
    expect(schoolsOf({ byPart }, [], DEFAULT_COSTS)).toBeUndefined();
    expect(schoolsOf({ byPart: [] }, [promise], DEFAULT_COSTS)).toBeUndefined();
  });
});

describe('ready sequences', () => {
  const names = Object.keys(DEMO_BOARD_FILES) as (keyof typeof DEMO_BOARD_FILES)[];
  it.each(names)('%s: every reading of every list can be taken and typed, none twice', (name) => {
    const index = indexBoard(demoBoard(name));
    const all = sequencesOf(index);
    expect(all.some(({ name: own }) => own === 'rails')).toBe(true);
    for (const { measurements, title } of all) {
      expect(new Set(measurements.map(measurementKey)).size, title).toBe(measurements.length);
      for (const { setup, kind, at, to } of measurements) {
        const text = (point: typeof at): string =>
          point.pin
            ? `${point.pin.part.ref}.${point.pin.index + 1}`
            : point.net === GROUND
              ? ''
              : point.net;
        const resolved = resolveMeasurement(index, setup, kind, text(at), text(to));
        expect(resolved.ok, `${title}: ${kind} ${text(at)}`).toBe(true);
      }
    }
  });
  it('the supply is walked from the plug on, and ends with the rails', () => {
    const index = board(
      'J1 9V in: 1=VIN 2=0\nF1 VIN V1 T1A\nL1 V1 V2 100u\nC1 V2 0 100u\nU1 7805 in=V2 ground=0 out=P5\nC2 P5 0 10u\nR1 P5 0 1k',
    );
    expect(supplyPath(index)).toEqual(['VIN', 'V1', 'V2', 'P5']);
    expect(supplyRails(index)).toEqual(expect.arrayContaining(['V2', 'P5']));
  });
  it('coils: every end of a star to every other, six readings for three coils and their middle', () => {
    const index = board(
      'J1 9V in: 1=VIN 2=0\nR1 VIN 0 1k\nM1 winding PA MID 5\nM2 winding PB MID 5\nM3 winding PC MID 5',
    );
    const coil = sequencesOf(index).find(({ name }) => name.startsWith('coils'));
    expect(coil?.measurements.map(({ at, to }) => [at.net, to.net].sort().join())).toHaveLength(6);
  });
});
