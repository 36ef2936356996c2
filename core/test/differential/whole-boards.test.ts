import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import { Diagnoser } from '../../src/diagnosis';
import type { SingleHypothesis } from '../../src/fault';
import { BenchState, pointText, type Measurement, type Response } from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';

/**
 * Whether a short way and a full solve agree as far as a person at the bench can tell: 1 %, 10 mV,
 * 10 milliohm.
 */
function agree({ kind }: Measurement, quick: Response, full: Response): boolean {
  if (quick.unknown || full.unknown) return true;
  if (kind === 'continuity') return quick.value < 30 === full.value < 30;
  if (kind === 'logic' || kind === 'symptom')
    return Math.abs(quick.value - full.value) < 0.15 && quick.pulsing === full.pulsing;
  if (!Number.isFinite(quick.value) || !Number.isFinite(full.value))
    return quick.value === full.value || Math.max(quick.value, full.value) > 39e6;
  return Math.abs(quick.value - full.value) <= 0.01 + 0.01 * Math.abs(full.value);
}

/** Every so many-th fault with every third measurement, a different third for each. */
function disagreements(
  index: ReturnType<typeof indexBoard>,
  every: number,
): { compared: number; wrong: string[] } {
  const { space, predictor } = new Diagnoser(index, RATES);
  const candidates = candidateMeasurements(index);
  const wrong: string[] = [];
  let compared = 0;
  const look = (hypothesis: SingleHypothesis, h: number): void => {
    const last = hypothesis.severities.length - 1;
    const states = new Map<string, BenchState>();
    candidates.forEach((m, i) => {
      if ((i + h) % 3 !== 0) return;
      if (!states.has(m.setup))
        states.set(
          m.setup,
          new BenchState(index, {
            setup: m.setup,
            faults: [{ fault: hypothesis.fault, severity: hypothesis.severities[last]! }],
            absent: [],
          }),
        );
      const full = states.get(m.setup)!.respond(m);
      if ('ok' in full) return;
      compared += 1;
      const quick = predictor.at(hypothesis, last, m);
      if (!agree(m, quick, full))
        wrong.push(
          `${hypothesis.name} ${m.setup} ${m.kind} ${pointText(m.at)} ${pointText(m.to)}: ${quick.value} against ${full.value}`,
        );
    });
  };
  space.hypotheses.forEach((hypothesis, h) => h % every === 0 && look(hypothesis, h / every));
  return { compared, wrong };
}

describe('short ways, snapshots and derived networks against full solves on whole boards', () => {
  it.each([
    ['pd3Rw', 29],
    ['yc2Whole', 61],
    ['tl9', 19],
    ['cr40Whole', 67],
  ] as const)(
    '%s',
    (name, every) => {
      const { compared, wrong } = disagreements(indexBoard(demoBoard(name)), every);
      expect(compared).toBeGreaterThan(1000);
      expect(wrong).toEqual([]);
    },
    120_000,
  );
});
