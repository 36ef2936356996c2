import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { RATES } from '@hanzai/data';
import { indexBoard, type BoardIndex } from '../../src/board';
import { esrSurvey, symptomTable } from '../../src/diagnosis';
import { hypothesisSpace, parseFault, type Fault } from '../../src/fault';
import { BenchState, observableMeasurements, resolveMeasurement, type Measurement } from '../../src/instrument';

/** What a meter shows on a board with a fault, solved by itself from nothing. */
function shows(index: BoardIndex, m: Measurement, absent: readonly string[], fault?: Fault, severity?: number): number {
  const faults = fault ? [{ fault, ...(severity === undefined ? {} : { severity }) }] : [];
  const response = new BenchState(index, { setup: m.setup, faults, absent }).respond(m);
  return 'ok' in response ? Infinity : response.value;
}

function acrossPins(index: BoardIndex, ref: string): Measurement {
  const result = resolveMeasurement(index, 'off', 'esr', `${ref}.1`, `${ref}.2`);
  if (!result.ok) throw new Error(result.what);
  return result.measurement;
}

// The survey bisects on changes to one solved board. Here each capacitor is made worse by every factor of a grid on a board of its own.
describe('how bad a capacitor could be without its reading in circuit saying so', () => {
  const FACTORS = [1.2, 1.5, 2, 3, 5, 8, 12, 15, 20, 40, 100, 300, 1000, 2900];
  /** The survey's bisection ends at so much. */
  const STEP = 1.03;

  it.each(['cr40', 'yc2', 'tl9', 'yc2Whole'] as const)('%s', (name) => {
    const index = indexBoard(demoBoard(name));
    const { verdicts, hidden, lift } = esrSurvey(index);
    const wrong: string[] = [];
    let judged = 0;
    const leaves = (ref: string, band: number, factor: number, absent: readonly string[] = []): boolean => {
      const parsed = parseFault(index, `${ref}:high-esr`);
      return parsed.ok && shows(index, acrossPins(index, ref), absent, parsed.fault, factor) > band;
    };
    for (const { ref, bandOhm, hiddenFactor } of verdicts) {
      // Beyond it nothing reads healthy, and just below it something does.
      for (const factor of FACTORS) if (factor > hiddenFactor * STEP && !leaves(ref, bandOhm, factor)) wrong.push(`${ref}: ${factor} times its ESR reads healthy, said to end at ${hiddenFactor}`); // prettier-ignore
      const below = Math.min(hiddenFactor, 3000) / STEP;
      if (below > 1 && leaves(ref, bandOhm, below)) wrong.push(`${ref}: ${below} times its ESR does not read healthy, said to be hidden up to ${hiddenFactor}`);
      judged += 1;
    }
    expect(wrong).toEqual([]);
    expect(judged).toBeGreaterThan(3);
    // High ESR begins at fifteen times the healthy value: what hides more is not judged by its reading.
    expect(hidden).toEqual(verdicts.filter(({ hiddenFactor }) => hiddenFactor >= 15).map(({ ref }) => ref));
    if (!lift) return expect(hidden).toEqual([]);
    // With the named leg up, each of the parts that this settles shows fifteen times its ESR well outside what it shows when healthy.
    for (const ref of lift.settles.filter((settled) => settled !== lift.ref)) {
      const healthy = shows(index, acrossPins(index, ref), [lift.ref]);
      const parsed = parseFault(index, `${ref}:high-esr`);
      expect([ref, parsed.ok && shows(index, acrossPins(index, ref), [lift.ref], parsed.fault, 15) > 1.5 * healthy]).toEqual([ref, true]);
    }
  });
});

// The table comes of the dictionary. Here every fault at every severity has a board of its own, and the shares are added up by their definition.
describe('from symptom to suspects', () => {
  it.each(['cr40', 'tl9', 'pd3Rw'] as const)('%s', (name) => {
    const index = indexBoard(demoBoard(name));
    const table = symptomTable(index, RATES);
    const { hypotheses } = hypothesisSpace(index, RATES);
    const measurements = observableMeasurements(index);
    expect(measurements.length).toBeGreaterThan(0);
    expect(table.map((row) => row.name)).toEqual(measurements.map((m) => m.observable!.name));
    for (const [i, m] of measurements.entries()) {
      const row = table[i]!;
      const healthy = shows(index, m, []) >= 0.5;
      expect([row.name, row.healthy]).toEqual([row.name, healthy ? 'yes' : 'no']);
      const weights = new Map<string, number>();
      for (const { fault, severities, prior, refs } of hypotheses) {
        const turned = severities.map((severity) => {
          const seen = shows(index, m, [], fault, severity);
          return healthy ? 1 - seen : seen;
        });
        weights.set(refs[0]!, (weights.get(refs[0]!) ?? 0) + (prior * turned.reduce((sum, share) => sum + share, 0)) / turned.length);
      }
      const total = [...weights.values()].reduce((sum, weight) => sum + weight, 0);
      const all = hypotheses.reduce((sum, { prior }) => sum + prior, 0);
      expect(Math.abs(row.share - total / all)).toBeLessThan(2e-3);
      for (const [ref, weight] of weights) {
        const stated = row.suspects.find((suspect) => suspect.ref === ref)?.probability ?? 0;
        expect([row.name, ref, Math.abs(stated - weight / total) < 5e-3]).toEqual([row.name, ref, true]);
      }
    }
  });
});
