import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { indexBoard, nameKey } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { resolveMeasurement, type Measurement } from '../src/instrument';
import { BenchBoard } from '../src/simulated';
import {
  Action,
  debrief,
  debriefSteps,
  drawExercise,
  isAlike,
  isWithoutSheet,
  LEVELS,
  refsOf,
  Session,
  skillOf,
  triedIn,
  type Debrief,
  type Exercise,
} from '../src/training';
import { Intermittence, WHOLE_BOARD } from '../src/training/come-and-go';
import { leadOhmOf } from '../src/training/exercise';
import { seeded } from '../src/practice';
import { boardFile, RATES } from './boards';

// What goes wrong at the bench of an exercise beside what is hidden, and what is not always there.

const board = demoBoard('cr40');
const drawn = (seed: number, level: Exercise['level']): Exercise =>
  drawExercise(board, RATES, seed, level);
const measure = (of: Exercise, kind: string, at: string, to = '', setup = 'off'): Measurement => {
  const resolved = resolveMeasurement(of.index, setup, kind, at, to);
  if (!resolved.ok) throw new Error(resolved.what);
  return resolved.measurement;
};
const nobody = (): Diagnoser => {
  throw new Error('nobody was asked');
};
/** What is said afterwards, without the planner's own way. */
const withoutWay = (session: Session): Debrief => {
  const steps = debriefSteps(session, RATES);
  for (;;) {
    const step = steps.next(false);
    if (step.done) return step.value;
  }
};
const first = (level: Exercise['level'], is: (one: Exercise) => boolean): Exercise => {
  for (let seed = 1; seed < 80; seed += 1) {
    const one = drawn(seed, level);
    if (is(one)) return one;
  }
  throw new Error(`no such exercise at level ${level}`);
};

describe('a fault that comes and goes', () => {
  const cold = { fault: 'C1:open', ref: 'C1', by: 'warmth' } as const;

  it('of warmth is there once the board is warm, and gone when it has cooled', () => {
    const one = new Intermittence(cold, seeded(1));
    expect(one.isThere()).toBe(false);
    one.pass(3, true);
    expect(one.isThere()).toBe(false);
    // 1 - exp(-t/4 min) passes 0.6 after 3.67 minutes: the closed form of a first-order rise.
    one.pass(0.7, true);
    expect(one.isThere()).toBe(true);
    one.pass(100, true);
    one.pass(4, false);
    expect(one.isThere()).toBe(true);
    // exp(-t/8 min) falls below 0.6 after 4.09 minutes.
    one.pass(0.2, false);
    expect(one.isThere()).toBe(false);
  });
  it('does not depend on how its minutes are cut', () => {
    const [whole, cut] = [new Intermittence(cold, seeded(1)), new Intermittence(cold, seeded(1))];
    whole.pass(3.7, true);
    for (let i = 0; i < 37; i += 1) cut.pass(0.1, true);
    expect([whole.isThere(), cut.isThere()]).toEqual([true, true]);
  });
  it('of warmth goes where its own part is sprayed cold, for some minutes, and nowhere else', () => {
    const one = new Intermittence(cold, seeded(1));
    one.pass(60, true);
    one.chill('C2');
    expect(one.isThere()).toBe(true);
    one.chill('c1');
    expect(one.isThere()).toBe(false);
    one.pass(2.9, true);
    expect(one.isThere()).toBe(false);
    one.pass(0.2, true);
    expect(one.isThere()).toBe(true);
  });
  it('of touch is there while its part is pressed on, and now and then by itself', () => {
    const one = new Intermittence({ fault: 'C1:dry', ref: 'C1', by: 'touch' }, seeded(5));
    const share = (): number =>
      Array.from({ length: 400 }, () => one.isThere()).filter(Boolean).length / 400;
    // Binomial of 0.25 and 400: three deviations are 0.065.
    expect(Math.abs(share() - 0.25)).toBeLessThan(0.065);
    one.press('C1');
    expect(share()).toBe(1);
    one.press(WHOLE_BOARD);
    expect(share()).toBe(1);
    one.press('C2');
    expect(Math.abs(share() - 0.25)).toBeLessThan(0.065);
    one.press(undefined);
    expect(share()).toBeLessThan(0.5);
  });

  const warm = first(6, ({ comesAndGoes }) => comesAndGoes?.by === 'warmth');
  it('is not seen by a cold reading, is by a warm one, and the debrief says which were which', () => {
    const session = new Session(warm);
    const bad = new BenchBoard(warm.board, warm.faults, 'off');
    const good = new BenchBoard(warm.board, [], 'off');
    // A reading of the board without power that shows it.
    const [ref] = refsOf(warm.faults);
    const part = warm.index.partByKey.get(nameKey(ref!))!;
    const m = warm.index.nets
      .filter((net) => net !== '0')
      .flatMap((net) => [measure(warm, 'resistance', net)])
      .concat(
        part.pins.length === 2
          ? [measure(warm, 'resistance', `${part.ref}.1`, `${part.ref}.2`)]
          : [],
      )
      .find((one) => {
        const [a, b] = [bad, good].map(
          (bench) => bench.respond('resistance', one.at.net, one.to.net)?.value ?? 0,
        );
        return (
          Math.abs(a! - b!) > 0.3 * Math.max(a!, b!) || Number.isFinite(a!) !== Number.isFinite(b!)
        );
      });
    expect(session.isSound).toBe(false);
    if (m) session.take(m);
    const cold_ = session.readings.at(-1)?.value;
    session.act({ do: 'wait', minutes: 8 }, nobody);
    if (m) session.take(m);
    if (m) expect(session.readings.at(-1)?.value).not.toBe(cold_);
    expect(session.isSound).toBe(false);
    session.replace(ref!);
    expect(session.isSound).toBe(true);
    const said = withoutWay(session);
    expect(said.notes.join()).toContain('came with warmth: 1 of 2 readings');
    expect(said.moves[0]!.words).toContain('the fault was away');
    expect(said.moves.map(({ words }) => words).join()).toContain('left on for 8 min');
  });
  it('is cured by its part though it is away at that moment', () => {
    const session = new Session(warm);
    expect(session.replace(refsOf(warm.faults)[0]!)).toBe(true);
    expect(session.isSound).toBe(true);
    // And stays so when it is warm.
    session.act({ do: 'wait', minutes: 30 }, nobody);
    expect(session.isSound).toBe(true);
  });
  it('the owner says when, and never where', () => {
    const touch = first(6, ({ comesAndGoes }) => comesAndGoes?.by === 'touch');
    expect(warm.complaint).toContain('after some minutes');
    expect(touch.complaint).toContain('knock');
    for (const one of [warm, touch])
      for (const ref of refsOf(one.faults)) expect(one.complaint).not.toContain(ref);
  });
});

describe('after somebody else', () => {
  it('his places are named, what was bad from the beginning is not among them', () => {
    for (let seed = 1; seed <= 12; seed += 1) {
      const { faults, visited = [], complaint, index } = drawn(seed, 7);
      expect(faults).toHaveLength(2);
      expect(faults[1]).toMatch(/:(dry|bridge)$/);
      const [asked] = refsOf([faults[0]!]);
      expect(visited.map(nameKey)).not.toContain(nameKey(asked!));
      expect(visited.length).toBeGreaterThan(1);
      for (const ref of visited) {
        expect(index.replaceable.has(ref), ref).toBe(true);
        expect(complaint).toContain(ref);
      }
    }
  });
});

describe('mishaps', () => {
  it('leads add to ohms until they are zeroed, and to nothing else', () => {
    const one = first(2, ({ leadOhm }) => leadOhm > 0.4);
    const m = measure(one, 'resistance', 'L1.1', 'L1.2');
    const [as, zeroed] = [new Session(one), new Session(one)];
    zeroed.act({ do: 'zero' }, nobody);
    const [a, b] = [as.take(m), zeroed.take(m)] as [number, number];
    // Same seed, same noise: what is left is the leads, to the four figures that a meter shows.
    expect(a - b).toBeCloseTo(one.leadOhm, 1);
    const v = measure(one, 'voltage', 'P5', '', 'on');
    expect(new Session(one).take(v)).toBe(new Session({ ...one, leadOhm: 0 }).take(v));
    for (let seed = 1; seed < 200; seed += 1) {
      expect(leadOhmOf(seed)).toBeGreaterThanOrEqual(0.1);
      expect(leadOhmOf(seed)).toBeLessThanOrEqual(0.8);
    }
  });
  it('a probe slips from a chip’s pin under power now and then, never in level 1, never from a pad', () => {
    const chipBoard = demoBoard('tl9');
    const index = indexBoard(chipBoard);
    const chip = index.board.parts.find(({ kind }) => kind === 'chip')!;
    const bare = { ...drawExercise(chipBoard, RATES, 3, 2), faults: [] };
    const at = { do: 'take', setup: 'on', kind: 'logic', at: `${chip.ref}.2`, to: '' } as const;
    const slips = (one: Exercise, point: string): number => {
      const session = new Session(one);
      return Array.from({ length: 150 }, () => session.act({ ...at, at: point }, nobody)).filter(
        ({ words }) => words?.includes('slipped'),
      ).length;
    };
    const often = slips(bare, `${chip.ref}.2`);
    // Binomial of 0.02 and 150: more than twelve of them has a chance below 1 in 10 000.
    expect(often).toBeGreaterThan(0);
    expect(often).toBeLessThan(13);
    expect(slips({ ...bare, level: 1 }, `${chip.ref}.2`)).toBe(0);
    expect(slips(bare, chip.pins[1]!)).toBe(0);
  });
  it('a trimmer that goes without its setting is harm, once; written down first it is none', () => {
    const one = drawExercise(demoBoard('tl9'), RATES, 2, 2);
    const trimmer = one.index.board.parts.find(({ role }) => role?.includes('trimmer'))!;
    const careless = new Session(one);
    careless.takeOff(trimmer.ref);
    careless.replace(trimmer.ref);
    expect(careless.damage.filter(({ words }) => words.includes('trimmer'))).toHaveLength(1);
    const careful = new Session(one);
    careful.act({ do: 'mark', ref: trimmer.ref.toLowerCase() }, nobody);
    careful.replace(trimmer.ref);
    expect(careful.damage.filter(({ words }) => words.includes('trimmer'))).toEqual([]);
  });
  it('one hand that presses is missing at the probes', () => {
    const one = drawn(1, 2);
    const session = new Session(one);
    session.act({ do: 'press', ref: '' }, nobody);
    const before = session.minutes;
    session.take(measure(one, 'resistance', 'P5'));
    expect(session.minutes - before).toBeCloseTo(1, 9);
    session.act({ do: 'release' }, nobody);
    const then = session.minutes;
    session.take(measure(one, 'resistance', 'P5'));
    expect(session.minutes - then).toBeCloseTo(0.5, 9);
  });
});

describe('two of a kind that change places', () => {
  const logic = boardFile('./reference/benches/diode-network.cir');
  const alike = (() => {
    const parts = logic.board.parts;
    for (const a of parts)
      for (const b of parts) if (a !== b && isAlike([a], [b])) return [a, b] as const;
    return undefined;
  })();

  it('take their faults with them, and leave joints where they are', () => {
    expect(alike).toBeDefined();
    const [a, b] = alike!;
    const base = drawExercise(logic.board, RATES, 1, 2);
    const one: Exercise = { ...base, faults: [`${a.ref}:open`, `${a.ref}.1:dry`] };
    const session = new Session(one);
    expect(
      session.act({ do: 'swap', ref: a.ref.toLowerCase(), with: b.ref }, nobody).words,
    ).toContain('changed places');
    // The part went, its old joint did not.
    expect(session.replace(b.ref)).toBe(true);
    expect(session.isSound).toBe(false);
    expect(session.replace(a.ref)).toBe(true);
    expect(session.isSound).toBe(true);
  });
  it('are followed by what is said afterwards: the part that took the fault along was the one', () => {
    const [a, b] = alike!;
    const one: Exercise = {
      ...drawExercise(logic.board, RATES, 1, 1),
      faults: [`${a.ref}:open`],
    };
    const session = new Session(one);
    session.swap(a.ref, b.ref);
    session.replace(b.ref);
    const said = withoutWay(session);
    expect(said.score.attribution).toBe(1);
    expect(said.moves[1]!.belief).toBeDefined();
    const tried = triedIn(session, said, true).filter(
      ({ skill }) => skill === skillOf(one.index, one.faults[0]!),
    );
    for (const { done } of tried) expect(done).toBe(1);
  });
  it('are not swapped while one of them is off', () => {
    const [a, b] = alike!;
    const session = new Session({
      ...drawExercise(logic.board, RATES, 1, 1),
      faults: [`${a.ref}:open`],
    });
    session.takeOff(a.ref);
    const before = session.minutes;
    expect(session.swap(a.ref, b.ref)).toContain('put it back first');
    expect(session.minutes).toBe(before);
  });
  it('are refused where they are not of a kind, and cost nothing then', () => {
    const one = drawn(1, 2);
    const session = new Session(one);
    for (const [a, b] of [
      ['C1', 'R5'],
      ['C1', 'C1'],
      ['C1', 'nowhere'],
      ['', 'C1'],
    ] as const)
      expect(session.swap(a, b)).toContain('nothing is swapped');
    expect(session.minutes).toBe(0);
  });
});

describe('what can be done', () => {
  it('every action of the list does something or says why not, and none of them throws', () => {
    const one = drawn(4, 6);
    const diagnoser = new Diagnoser(one.index, RATES);
    const done = Action.options.map((option) => option.shape.do.value);
    const given = {
      take: { setup: 'off', kind: 'resistance', at: 'nowhere', to: '' },
      off: { ref: 'C999' },
      back: { ref: 'C1' },
      replace: { ref: 'P5~NOWHERE' },
      swap: { ref: 'x', with: 'y' },
      mark: { ref: 'C999' },
      zero: {},
      wait: { minutes: 60 },
      chill: { ref: 'nobody' },
      press: { ref: 'nobody' },
      release: {},
      help: { help: 'net', net: 'nowhere' },
      pass: { words: 'a hazard' },
    } as const satisfies Record<(typeof done)[number], object>;
    const session = new Session(one);
    for (const what of done) {
      const action = Action.parse({ do: what, ...given[what] });
      expect(() => session.act(action, () => diagnoser), what).not.toThrow();
    }
    expect(Number.isFinite(session.minutes)).toBe(true);
  });
  it('only the last level is without a sheet', () => {
    expect(LEVELS.filter(({ level }) => isWithoutSheet(level)).map(({ level }) => level)).toEqual([
      8,
    ]);
  });
  it('played again, the same actions give the same session', () => {
    const one = drawn(9, 6);
    const play = (): unknown => {
      const session = new Session(one);
      session.act({ do: 'wait', minutes: 6 }, nobody);
      for (let i = 0; i < 5; i += 1)
        session.act({ do: 'take', setup: 'on', kind: 'voltage', at: 'P5', to: '' }, nobody);
      session.act({ do: 'press', ref: '' }, nobody);
      session.act({ do: 'take', setup: 'off', kind: 'resistance', at: 'P5', to: '' }, nobody);
      return [session.readings.map(({ value }) => value), session.minutes, session.damage];
    };
    expect(play()).toEqual(play());
  });
  it('the planner brings what comes and goes, and comes through', () => {
    for (const by of ['warmth', 'touch'] as const) {
      const one = first(6, ({ comesAndGoes }) => comesAndGoes?.by === by);
      const { best } = debrief(new Session(one), RATES);
      expect(best, by).toBeDefined();
      expect(best!.words[0]).toContain(by === 'warmth' ? 'left on' : 'flexed');
    }
  });
});
