// The proof: new joints, the first power with its limit, runs and what they show.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cleanStartsAtRate } from '../src/block';
import { indexBoard } from '../src/board';
import { Predictor } from '../src/diagnosis';
import { parseFaultState } from '../src/fault';
import { BenchState, readout } from '../src/instrument';
import {
  boundText,
  firstDraws,
  firstPowerSetup,
  fittingShorts,
  isProven,
  jointChecks,
  proofStatement,
  proofSteps,
  proofWithoutSheet,
  runsStep,
  runTable,
  standing,
  statementWords,
  type ProofDone,
  type Run,
} from '../src/prove';
import { demoBoard } from '@hanzai/data/demo';
import { board, boardFile, measurement } from './boards';

const supply = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
const run = (more: Partial<Run> = {}): Run => ({
  medium: 'card 14',
  kind: 'pressed',
  where: '',
  states: ['closed'],
  passes: 1,
  errors: 0,
  ...more,
});
const done = (more: Partial<ProofDone> = {}): ProofDone => ({
  fitted: [],
  settings: [],
  opened: false,
  runs: [],
  ...more,
});

describe('new joints', () => {
  it('are checked leg by leg, each to another part on its net, and beep on the good board', () => {
    const checks = jointChecks(supply, ['f1', 'C1', 'F1']);
    expect(checks.map(({ at }) => `${at.pin!.part.ref}.${at.pin!.index + 1}`)).toEqual([
      'F1.1',
      'F1.2',
      'C1.1',
      'C1.2',
    ]);
    const predictor = new Predictor(supply);
    for (const m of checks) {
      expect(m).toMatchObject({ setup: 'off', kind: 'continuity' });
      expect(m.to.pin?.part).not.toBe(m.at.pin!.part);
      expect(readout(m.kind, predictor.healthy(m)).display).toBe('beep');
    }
  });

  it('see a joint that did not take, and ask for none where nothing else is on the net', () => {
    const [at] = jointChecks(supply, ['L1']);
    const { ok, ...read } = parseFaultState(supply, 'L1.1:dry');
    expect(ok).toBe(true);
    const fault = (read as { state: Parameters<typeof bench>[0][number] }).state;
    const response = bench([fault]).respond(at!);
    expect('value' in response && readout(at!.kind, response).display).toBe('open');
    const loose = board('V1 IN 0 9\nR1 IN A 1k\nR2 A 0 1k\nR3 A LONE 1k');
    expect(jointChecks(loose, ['R3'])).toHaveLength(1);
    expect(jointChecks(loose, ['R99'])).toEqual([]);
    // A source of the sheet is no place for a probe.
    expect(jointChecks(loose, ['R1']).map(({ at: { net } }) => net)).toEqual(['A']);
  });

  const bench = (faults: ConstructorParameters<typeof BenchState>[1]['faults']) =>
    new BenchState(supply, { setup: 'off', faults, absent: [] });
});

describe('the first power', () => {
  it('draws what the circuit says, by hand: nine volts through 100 and 200 ohm', () => {
    const index = board('V1 IN 0 9\nR1 IN OUT 100\nR2 OUT 0 200\nC1 OUT 0 10u');
    expect(firstPowerSetup(index)).toBe('on');
    const [draw] = firstDraws(index);
    expect(draw).toMatchObject({ ref: 'V1', net: 'IN', volt: 9 });
    expect(draw!.ampere).toBeCloseTo(0.03, 4);
    // Half as much again, and fifty milliamperes at least.
    expect(draw!.limitAmpere).toBeCloseTo(0.08, 4);
  });

  it('is without the loads that can be unplugged', () => {
    const index = board('V1 IN 0 10\nR1 IN 0 1k\nR2 IN 0 10\n*@ R2 role="load motor"');
    expect(firstPowerSetup(index)).toBe('unloaded');
    expect(firstDraws(index)[0]!.ampere).toBeCloseTo(0.01, 4);
  });

  it('names the short that draws it, with its ohms, on the demo board', () => {
    const index = indexBoard(demoBoard('cr40'));
    const setup = firstPowerSetup(index);
    for (const [rail, ohm] of [
      ['VM', 2],
      ['P5', 1],
    ] as const) {
      const state = parseFaultState(index, `${['0', rail].sort().join('~')}:bridge=${ohm}`);
      if (!state.ok) throw new Error(state.what);
      const ref = rail === 'P5' ? 'V2' : 'V1';
      const bench = new BenchState(index, { setup, faults: [state.state], absent: [] });
      const read = bench.respond({ ...measurement(index, 'current', ref), setup });
      const ampere = Math.abs((read as { value: number }).value);
      const found = fittingShorts(index, ref, ampere).find(({ net }) => net === rail);
      expect(found!.ohm / ohm).toBeGreaterThan(0.95);
      expect(found!.ohm / ohm).toBeLessThan(1.05);
      for (const part of found!.refs)
        expect(index.partByKey.get(part.toLowerCase())!.pins).toContain(rail);
    }
  });

  it('finds no short where none fits, and lives through anything', () => {
    expect(fittingShorts(supply, 'V1', 1e-6)).toEqual([]);
    expect(fittingShorts(supply, 'V1', 1e6)).toEqual([]);
    expect(fittingShorts(supply, 'V1', Number.NaN)).toEqual([]);
    expect(fittingShorts(supply, 'R1', 1)).toEqual([]);
    expect(fittingShorts(supply, 'nobody', 1)).toEqual([]);
  });
});

describe('the plan', () => {
  const predictor = new Predictor(supply);
  const steps = (of: ProofDone | undefined, answers: { key: string; passed: boolean }[] = []) =>
    proofSteps(supply, predictor, { before: [], after: [], symptoms: [], answers, done: of });

  it('goes from what needs no power to the run of the whole', () => {
    const all = steps(
      done({ fitted: ['F1'], settings: [{ ref: 'gain', left: '520 Ω' }], opened: true }),
    );
    expect([...new Set(all.map(({ stage }) => stage))]).toEqual([
      'shorts',
      'joints',
      'power',
      'unloaded',
      'loaded',
      'runs',
    ]);
    expect(all.find(({ type }) => type === 'ask')).toMatchObject({
      question: 'gain stands where it was left, at 520 Ω, its mark beside it',
    });
    // Nothing is asked of what was not done.
    expect(steps(undefined).some(({ stage }) => ['joints', 'power', 'runs'].includes(stage))).toBe(
      false,
    );
  });

  it('lets joints and settings pass while power is locked, and nothing else', () => {
    const all = steps(done({ settings: [{ ref: 'gain', left: '' }], runs: [run()] }), [
      { key: 'setting gain ', passed: true },
      { key: 'first power', passed: true },
    ]);
    const locked = standing(all, false).filter(({ state }) => state === 'pass');
    expect(locked.map(({ stage }) => stage)).toEqual(['joints']);
    expect(
      standing(all, true)
        .filter(({ state }) => state === 'pass')
        .map(({ stage }) => stage),
    ).toEqual(['joints', 'power', 'runs']);
    expect(isProven(all)).toBe(false);
  });

  it('without a sheet asks for the first power and the run too', () => {
    const without = proofWithoutSheet({
      rails: [],
      readings: [],
      symptoms: [],
      answers: [],
      starts: { before: [], since: [] },
      done: done(),
    });
    expect(without.map(({ type }) => type)).toEqual(['power', 'runs']);
    expect(without[0]).toMatchObject({ supplies: [] });
  });
});

describe('runs', () => {
  it('count closed up where it was opened, and in a row after an error', () => {
    const state = (opened: boolean, ...runs: Run[]) => runsStep(done({ opened, runs }));
    expect(state(true, run({ states: ['warm'] }))).toMatchObject({ state: 'open', passes: 0 });
    expect(state(false, run({ states: [] }))).toMatchObject({ state: 'pass' });
    expect(state(true, run())).toMatchObject({ state: 'pass', needed: 1 });
    // One error in ten: by the beta-binomial 25 or so in a row before it is believed gone.
    const failed = run({ passes: 9, errors: 1 });
    const again = state(true, failed);
    expect(again).toMatchObject({ state: 'fail' });
    if (again.type !== 'runs') throw new Error('no runs');
    expect(again.needed).toBeGreaterThan(20);
    expect(state(true, failed, run({ passes: again.needed - 1 }))).toMatchObject({ state: 'fail' });
    expect(state(true, failed, run({ passes: again.needed }))).toMatchObject({ state: 'pass' });
    expect(state(true, run({ passes: 500 }), failed)).toMatchObject({ state: 'fail', passes: 0 });
  });

  it('stand in a table by medium, with a cell for each state', () => {
    const rows = runTable([
      run({ passes: 4, states: ['cold', 'closed'] }),
      run({ passes: 3, errors: 1, states: ['warm'] }),
      run({ medium: 'card 2', where: 'outermost' }),
    ]);
    expect(rows).toHaveLength(2);
    expect(rows[0]).toMatchObject({
      passes: 7,
      errors: 1,
      byState: { cold: { passes: 4, errors: 0 }, warm: { passes: 3, errors: 1 } },
    });
  });

  it('show a bound and never more: the rule of three by hand', () => {
    // 157 passes without an error: 1 - 0.05^(1/157) = 1.89 %, said as 1.9.
    const shown = proofStatement(
      [
        run({ medium: 'card 1', passes: 57, states: ['warm'] }),
        run({ medium: 'card 2', passes: 50, states: ['cold'] }),
        run({ medium: 'card 3', passes: 50, states: ['cold', 'closed'] }),
      ],
      { media: [{ kind: 'foreign', title: 'one to be refused' }], places: ['outermost'] },
      0,
    );
    expect(shown.rateBelow).toBeCloseTo(1 - 0.05 ** (1 / 157), 10);
    expect(statementWords(shown)).toBe(
      'Error rate below 1.9 % at 95 % (0 of 157 passes with an error), 3 media, closed, cold, warm.',
    );
    expect(shown.notTried).toEqual(['one to be refused', 'outermost', 'after a power cycle']);
    expect(statementWords(proofStatement([], undefined, 0))).toMatch(/Nothing was run/);
    // A medium that was refused as it should is a control and no pass of the unit.
    expect(proofStatement([run({ kind: 'foreign' })], undefined, 0)).toMatchObject({
      passes: 0,
      rateBelow: 1,
    });
    // Ten hours of soak leave three tenths of an error an hour open.
    expect(proofStatement([run()], undefined, 10).perHourBelow).toBeCloseTo(0.29957, 4);
  });

  it('never say that it works, and round a bound up', () => {
    const states = fc.subarray(['closed', 'cold', 'warm'] as const);
    const some = fc.record({ passes: fc.nat(500), errors: fc.nat(20), states });
    fc.assert(
      fc.property(fc.array(some, { maxLength: 6 }), fc.nat(40), (list, hours) => {
        const shown = proofStatement(
          list.map((one) => run(one)),
          undefined,
          hours,
        );
        expect(statementWords(shown)).not.toMatch(/works|NaN|undefined|Infinity/);
        const said = Number(boundText(shown.rateBelow).split(' ')[0]) / 100;
        expect(said).toBeGreaterThanOrEqual(shown.rateBelow - 1e-9);
        expect(said).toBeLessThanOrEqual(shown.rateBelow * 1.101 + 1e-9);
      }),
    );
    // So many without an error leave less than one in a hundred.
    expect(
      boundText(proofStatement([run({ passes: cleanStartsAtRate(0.01) })], undefined, 0).rateBelow),
    ).toBe('1 %');
    expect(cleanStartsAtRate(0.01)).toBe(299);
  });
});
