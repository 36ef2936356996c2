import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { nameKey, type Setup } from '../src/board';
import { DEFAULT_COSTS, setupMinutes } from '../src/plan';
import { BenchBoard } from '../src/simulated';
import { drawExercise, NoExercise, optimumOf, refsOf, type Exercise } from '../src/training';
import { respond } from '../src/training/exercise';
import { candidateMeasurements } from '../src/plan';
import { boardFile, RATES } from './boards';

// The best order of readings for an exercise, worked out by hand and by brute force.

describe('what is hidden around a net', () => {
  const board = demoBoard('yc2');

  it('lies on it, at every seed', () => {
    for (let seed = 1; seed <= 15; seed += 1) {
      const { faults, index } = drawExercise(board, RATES, seed, 2, 'raw');
      const [ref] = refsOf(faults);
      const nets = ref!.includes('~')
        ? ref!.split('~')
        : index.replaceable.get(ref!)!.flatMap(({ pins }) => pins);
      expect(nets.map(nameKey), ref).toContain(nameKey('RAW'));
    }
  });
  it('a section is as good as a net, and what is neither is refused by name', () => {
    const parts = board.parts.map((part) =>
      ['F1', 'C1'].includes(part.ref) ? { ...part, section: 'entry' } : part,
    );
    for (let seed = 1; seed <= 10; seed += 1)
      expect(['F1', 'C1']).toContain(
        refsOf(drawExercise({ ...board, parts }, RATES, seed, 2, 'Entry').faults)[0],
      );
    expect(() => drawExercise(board, RATES, 1, 2, 'nowhere')).toThrow(
      /no section is called nowhere/,
    );
    expect(() => drawExercise(board, RATES, 1, 4, 'LAMP')).toThrow(NoExercise);
  });
  it('leaves what the whole board hides as it was', () => {
    expect(drawExercise(board, RATES, 7, 2, '').faults).toEqual(
      drawExercise(board, RATES, 7, 2).faults,
    );
  });
});

describe('the best order that there can be', () => {
  const around = (net: string, seed: number): Exercise =>
    drawExercise(demoBoard('yc2'), RATES, seed, 1, net);

  it('is never beaten by any other order: a thousand random ones take as long or longer', () => {
    const one = around('RAW', 1);
    const best = optimumOf(one, RATES)!;
    expect(best.kinds).toBeGreaterThan(4);
    // The same world once more, by another way: each fault on a bench of its own, read with a meter
    // that shows two figures of a value; what shows alike is not told apart.
    const readings = candidateMeasurements(one.index).filter(({ kind }) => kind !== 'symptom');
    const names = [
      ...new Set(Array.from({ length: 80 }, (_, i) => around('RAW', i + 1).faults[0]!)),
    ];
    const shows = names.map((name) =>
      readings.map((m) => {
        const bench = new BenchBoard(one.index.board, [name], m.setup);
        if (m.setup !== 'off') bench.power(true);
        const value = respond(bench, m)?.value;
        return value === undefined || !Number.isFinite(value) ? 'OL' : value.toPrecision(2);
      }),
    );
    let state = 7;
    const dice = (): number => (state = (state * 48271) % 2147483647) / 2147483647;
    const minutesWith = (order: readonly number[], truth: number): number => {
      let left = names.map((_, i) => i);
      let [minutes, setup]: [number, Setup] = [0, 'off'];
      for (const r of order) {
        if (left.every((i) => readings.every((_, k) => shows[i]![k] === shows[truth]![k]))) break;
        const m = readings[r]!;
        // A sensible worker leaves out what tells nothing.
        if (new Set(left.map((i) => shows[i]![r])).size < 2) continue;
        minutes += setupMinutes(setup, m.setup, DEFAULT_COSTS) + DEFAULT_COSTS.reading[m.kind];
        setup = m.setup;
        left = left.filter((i) => shows[i]![r] === shows[truth]![r]);
      }
      return minutes;
    };
    const truth = names.indexOf(one.faults[0]!);
    const mean = (order: readonly number[]): number =>
      names.reduce((sum, _, i) => sum + minutesWith(order, i), 0) / names.length;
    let fixedBest = Infinity;
    for (let n = 0; n < 300; n += 1) {
      const order = readings.map((_, i) => i).sort(() => dice() - 0.5);
      fixedBest = Math.min(fixedBest, mean(order));
    }
    expect(truth).toBeGreaterThanOrEqual(0);
    // Weights are not equal there, so a tenth is left.
    expect(best.meanMinutes).toBeLessThanOrEqual(1.1 * fixedBest);
  });
  it('two parts in a row take one reading where one reading tells: worked out by hand', () => {
    const { board } = boardFile('./reference/benches/diode-network.cir');
    const net = board.parts.find(({ kind }) => kind === 'diode')!.pins[0]!;
    const one = drawExercise(board, RATES, 1, 1, net);
    const best = optimumOf(one, RATES)!;
    // No reading costs less than the cheapest; with k kinds at least log2(k) of them on average
    // where each tells two kinds apart, and each reading has its own minutes.
    const cheapest = Math.min(...Object.values(DEFAULT_COSTS.reading));
    expect(best.minutes).toBeGreaterThanOrEqual(cheapest);
    expect(best.meanMinutes).toBeGreaterThanOrEqual(cheapest);
    expect(best.words.length).toBeGreaterThan(0);
    expect(new Set(best.words).size).toBe(best.words.length);
  });
  it('is not given where it cannot be: several faults, what comes and goes, a large board', () => {
    for (const level of [3, 5, 6, 7, 8] as const)
      expect(optimumOf(drawExercise(demoBoard('yc2'), RATES, 1, level), RATES)).toBeUndefined();
    expect(optimumOf(drawExercise(demoBoard('cr40'), RATES, 1, 1), RATES)).toBeUndefined();
  });
  it('the mean is that of its paths, weighed by how often each fault happens', () => {
    const one = around('RAW', 1);
    const best = optimumOf(one, RATES)!;
    const minutes = new Map<string, number>();
    for (let seed = 1; seed <= 60; seed += 1) {
      const other = around('RAW', seed);
      // The same fault again has the same best order.
      const fault = other.faults[0]!;
      if (!minutes.has(fault)) minutes.set(fault, optimumOf(other, RATES)!.minutes);
    }
    const all = [...minutes.values()];
    expect(Math.min(...all)).toBeLessThanOrEqual(best.meanMinutes);
    expect(Math.max(...all)).toBeGreaterThanOrEqual(best.meanMinutes);
  });
});
