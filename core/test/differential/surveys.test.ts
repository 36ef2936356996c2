import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { RATES } from '@hanzai/data';
import { indexBoard, type BoardIndex } from '../../src/board';
import { Diagnoser, esrSurvey, symptomTable } from '../../src/diagnosis';
import { parseFault, type Fault, type SingleHypothesis } from '../../src/fault';
import {
  BenchState,
  observableMeasurements,
  resolveMeasurement,
  type Measurement,
} from '../../src/instrument';

/** What a meter shows on a board with a fault, solved by itself from nothing. */
function shows(
  index: BoardIndex,
  m: Measurement,
  absent: readonly string[],
  fault?: Fault,
  severity?: number,
): number {
  const faults = fault ? [{ fault, ...(severity === undefined ? {} : { severity }) }] : [];
  const response = new BenchState(index, { setup: m.setup, faults, absent }).respond(m);
  return 'ok' in response ? Infinity : response.value;
}

function acrossPins(index: BoardIndex, ref: string): Measurement {
  const result = resolveMeasurement(index, 'off', 'esr', `${ref}.1`, `${ref}.2`);
  if (!result.ok) throw new Error(result.what);
  return result.measurement;
}

// The survey bisects on changes to one solved board. Here each capacitor is made worse by every
// factor of a grid on a board of its own.
describe('how bad a capacitor could be without its reading in circuit saying so', () => {
  const FACTORS = [1.2, 1.5, 2, 3, 5, 8, 12, 15, 20, 40, 100, 300, 1000, 2900];
  /** The survey's bisection ends at so much. */
  const STEP = 1.03;

  it.each(['cr40', 'yc2', 'tl9', 'yc2Whole'] as const)('%s', (name) => {
    const index = indexBoard(demoBoard(name));
    const { verdicts, hidden, lift } = esrSurvey(index);
    const wrong: string[] = [];
    let judged = 0;
    const leaves = (
      ref: string,
      band: number,
      factor: number,
      absent: readonly string[] = [],
    ): boolean => {
      const parsed = parseFault(index, `${ref}:high-esr`);
      return parsed.ok && shows(index, acrossPins(index, ref), absent, parsed.fault, factor) > band;
    };
    for (const { ref, bandOhm, hiddenFactor } of verdicts) {
      // Beyond it nothing reads healthy, and just below it something does.
      for (const factor of FACTORS)
        if (factor > hiddenFactor * STEP && !leaves(ref, bandOhm, factor))
          wrong.push(
            `${ref}: ${factor} times its ESR reads healthy, said to end at ${hiddenFactor}`,
          );
      const below = Math.min(hiddenFactor, 3000) / STEP;
      if (below > 1 && leaves(ref, bandOhm, below))
        wrong.push(
          `${ref}: ${below} times its ESR does not read healthy, said to be hidden up to ${hiddenFactor}`,
        );
      judged += 1;
    }
    expect(wrong).toEqual([]);
    expect(judged).toBeGreaterThan(3);
    // High ESR begins at fifteen times the healthy value: what hides more is not judged by its
    // reading.
    expect(hidden).toEqual(
      verdicts.filter(({ hiddenFactor }) => hiddenFactor >= 15).map(({ ref }) => ref),
    );
    if (!lift) return expect(hidden).toEqual([]);
    // With the named leg up, each of the parts that this settles shows fifteen times its ESR well
    // outside what it shows when healthy.
    for (const ref of lift.settles.filter((settled) => settled !== lift.ref)) {
      const healthy = shows(index, acrossPins(index, ref), [lift.ref]);
      const parsed = parseFault(index, `${ref}:high-esr`);
      expect([
        ref,
        parsed.ok &&
          shows(index, acrossPins(index, ref), [lift.ref], parsed.fault, 15) > 1.5 * healthy,
      ]).toEqual([ref, true]);
    }
  });
});

// Without its 5 V the comparator of PD3-RW has the same volts at both inputs: what it then shows is
// a tie.
const TIES = /^home-seen under J1\.1/;

// The table comes of the dictionary. Here faults at every severity have boards of their own, and
// the shares are added up by their definition.
describe('from symptom to suspects', () => {
  it.each([
    ['tl9', 4],
    ['yc2Whole', 9],
    ['pd3Rw', 16],
  ] as const)('%s', (name, every) => {
    const index = indexBoard(demoBoard(name));
    const { space, predictor } = new Diagnoser(index, RATES);
    const { hypotheses } = space;
    const measurements = observableMeasurements(index);
    const table = symptomTable(index, RATES, predictor);
    expect(measurements.length).toBeGreaterThan(3);
    const wrong: string[] = [];
    for (const [i, m] of measurements.entries()) {
      const healthy = shows(index, m, []) >= 0.5;
      const turned = (h: SingleHypothesis): number =>
        mean(predictor.under(h, m).map(({ value }) => (healthy ? 1 - value : value)));
      hypotheses.forEach((h, place) => {
        if (h.type !== 'single' || place % every !== i % every) return;
        const alone = mean(
          h.severities
            .map((severity) => shows(index, m, [], h.fault, severity))
            .map((seen) => (healthy ? 1 - seen : seen)),
        );
        if (!(Math.abs(alone - turned(h)) < 0.02))
          wrong.push(`${m.observable!.name} under ${h.name}: ${turned(h)}, by itself ${alone}`);
      });
      const singles = hypotheses.filter((h) => h.type === 'single');
      const total = singles.reduce((sum, h) => sum + h.prior * turned(h), 0);
      const row = table[i]!;
      expect([row.name, row.healthy]).toEqual([m.observable!.name, healthy ? 'yes' : 'no']);
      expect(row.share).toBeCloseTo(total / singles.reduce((sum, { prior }) => sum + prior, 0), 6);
      for (const { ref, probability } of row.suspects.slice(0, 5)) {
        const own = singles
          .filter(({ refs }) => refs[0] === ref)
          .reduce((sum, h) => sum + h.prior * turned(h), 0);
        expect(probability).toBeCloseTo(own / total, 6);
      }
    }
    expect(wrong.filter((words) => !TIES.test(words))).toEqual([]);
  });
});

function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}
