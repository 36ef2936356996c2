import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { nameKey } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { parseFault } from '../src/fault';
import { resolveMeasurement, type Measurement } from '../src/instrument';
import { BenchBoard } from '../src/simulated';
import {
  debrief,
  drawExercise,
  HELP_MINUTES,
  isLevel,
  LEVELS,
  NoExercise,
  refsOf,
  Session,
  type Exercise,
} from '../src/training';
import { boardFile, RATES } from './boards';

// Exercises with something hidden, the way through them, and what is said afterwards.

const board = demoBoard('cr40');
const exercise = (seed: number, level: Exercise['level']): Exercise =>
  drawExercise(board, RATES, seed, level);
const measure = (of: Exercise, kind: string, at: string, to = '', setup = 'off'): Measurement => {
  const resolved = resolveMeasurement(of.index, setup, kind, at, to);
  if (!resolved.ok) throw new Error(resolved.what);
  return resolved.measurement;
};

describe('an exercise', () => {
  it('is the same for the same seed and level, and another for another', () => {
    expect(exercise(7, 2).faults).toEqual(exercise(7, 2).faults);
    expect(exercise(7, 2).board).toEqual(exercise(7, 2).board);
    const drawn = new Set(Array.from({ length: 20 }, (_, i) => exercise(i + 1, 2).faults.join()));
    expect(drawn.size).toBeGreaterThan(6);
  });
  it('hides what its level says: each fault is one of the board, on a part of its own', () => {
    for (const { level, faults } of LEVELS)
      for (let seed = 1; seed <= 12; seed += 1) {
        const one = exercise(seed, level);
        // A blown fuse beside it, what somebody left beside it.
        if (level !== 4 && level !== 7) expect(one.faults).toHaveLength(faults);
        for (const name of one.faults) expect(parseFault(one.index, name).ok, name).toBe(true);
        expect(new Set(refsOf(one.faults).map(nameKey)).size).toBe(one.faults.length);
        if (level === 1) expect(one.faults[0]).toMatch(/:(open|short|dry)$/);
        // What is told to the trainee never names it.
        for (const ref of refsOf(level === 7 ? one.faults.slice(0, 1) : one.faults))
          expect(one.complaint).not.toMatch(new RegExp(`\\b${ref}\\b`));
      }
  });
  it('of level 4 comes in with its fuse blown, and a new fuse alone blows again', () => {
    const one = exercise(1, 4);
    const fuse = one.faults.find((name) => /^F\d+:open$/.test(name))!;
    expect(fuse).toBeDefined();
    const bench = new BenchBoard(one.board, one.faults, 'on');
    bench.replace(fuse.split(':')[0]!);
    bench.power(true);
    expect(bench.events.join()).toContain('blew');
  });
  it('is refused where a board has nothing for the level', () => {
    // No fuse on it.
    const small = boardFile('./reference/benches/diode-network.cir').board;
    expect(() => drawExercise(small, RATES, 1, 4)).toThrow(NoExercise);
  });
  it('levels are those that there are', () => {
    for (const { level } of LEVELS) expect(isLevel(level)).toBe(true);
    for (const level of [0, 9, 1.5, Number.NaN]) expect(isLevel(level)).toBe(false);
  });
});

describe('a session', () => {
  it('runs in bench minutes: a reading, the change of power, a part', () => {
    const one = exercise(1, 1);
    const session = new Session(one);
    session.take(measure(one, 'resistance', 'P5'));
    expect(session.minutes).toBeCloseTo(0.5, 9);
    session.take(measure(one, 'voltage', 'P5', '', 'on'));
    expect(session.minutes).toBeCloseTo(0.5 + 1 + 0.5, 9);
    session.replace('C1');
    expect(session.minutes).toBeCloseTo(2 + 2 + 15, 9);
  });
  it('is sound when what was hidden is replaced, and not before', () => {
    for (const level of [1, 3, 5] as const) {
      const one = exercise(2, level);
      const session = new Session(one);
      for (const ref of refsOf(one.faults)) {
        expect(session.isSound).toBe(false);
        expect(session.replace(ref.toLowerCase())).toBe(true);
      }
      expect(session.isSound).toBe(true);
    }
  });
  it('a good part that is replaced was good, and what was read before no longer stands', () => {
    const one = exercise(1, 1);
    const session = new Session(one);
    session.take(measure(one, 'resistance', 'P5'));
    expect(session.readings).toHaveLength(1);
    const good = ['R5', 'R6', 'C8'].find((ref) => !refsOf(one.faults).includes(ref))!;
    expect(session.replace(good)).toBe(false);
    expect(session.readings).toEqual([]);
  });
  it('power into a short blows the fuse, and that is told as what it is', () => {
    const drawn = Array.from({ length: 60 }, (_, i) => exercise(i + 1, 2)).find((one) => {
      const bench = new BenchBoard(one.board, one.faults, 'on');
      bench.power(true);
      return bench.events.length > 0;
    })!;
    const session = new Session(drawn);
    session.take(measure(drawn, 'voltage', 'P5', '', 'on'));
    expect(session.damage[0]!.words).toMatch(/blew: .*ohms from the rails to ground/);
    expect(session.isSound).toBe(false);
    for (const ref of refsOf(drawn.faults)) session.replace(ref);
    // The fuse is bad now, too.
    expect(session.isSound).toBe(false);
    session.replace('F1');
    expect(session.isSound).toBe(true);
  });
  it('help costs its minutes, and never tells what is hidden outright', () => {
    const one = exercise(1, 1);
    const session = new Session(one);
    const diagnoser = new Diagnoser(one.index, RATES);
    expect(session.help(diagnoser, 'net', 'p9f')).toMatch(/^On P9F: .*F1/);
    expect(session.help(diagnoser, 'net', 'nowhere')).toContain('no net');
    expect(session.help(diagnoser, 'suspects')).toMatch(/\d+ %/);
    expect(session.help(diagnoser, 'next')).toContain('measure');
    expect(session.minutes).toBe(2 * HELP_MINUTES.net + HELP_MINUTES.suspects + HELP_MINUTES.next);
  });
});

describe('what is said afterwards', () => {
  const one = exercise(1, 1);
  const [bad] = refsOf(one.faults);

  it('puts each reading beside what would have told more, with the belief that followed', () => {
    const session = new Session(one);
    session.take(measure(one, 'esr', 'C8.1', 'C8.2'));
    session.take(measure(one, 'resistance', 'P9F'));
    session.replace(bad!);
    const said = debrief(session, RATES);
    expect(said.truth).toEqual(one.faults);
    expect(said.moves).toHaveLength(3);
    // A capacitor far from it told less than the supply did.
    expect(said.moves[0]!.worthBits!).toBeLessThan(said.moves[0]!.better!.bits);
    expect(said.moves[2]!.words).toContain('it was bad');
    expect(said.noticedAt).toBe(2);
    expect(said.solved).toBe(true);
    expect(said.score).toMatchObject({ safety: 1, attribution: 1 });
  });
  it('names what was concluded wrongly, and the score shows it', () => {
    const session = new Session(one);
    const good = bad === 'R5' ? 'R6' : 'R5';
    session.replace(good);
    session.replace(bad!);
    const said = debrief(session, RATES);
    expect(said.wrong[0]).toMatch(new RegExp(`^${good} was good`));
    expect(said.score.attribution).toBe(0.5);
    expect(said.score.cost).toBeLessThan(1);
  });
  it('nothing done is no score, and no way that led nowhere is called solved', () => {
    const said = debrief(new Session(one), RATES);
    expect(said).toMatchObject({ solved: false, minutes: 0, decidedAt: undefined });
    expect(said.score).toMatchObject({ cost: 0, attribution: 0 });
  });
  it('the planner comes through every one of these, without a fuse blown', () => {
    for (const [seed, level] of [
      [1, 1],
      [2, 2],
      [3, 1],
      [1, 4],
    ] as const) {
      const { best } = debrief(new Session(exercise(seed, level)), RATES);
      expect(best, `seed ${seed}, level ${level}`).toBeDefined();
      expect(best!.words.at(-1)).toContain('it was bad');
      expect(best!.words.join()).not.toContain('blew');
    }
  });
});
