import { describe, expect, it } from 'vitest';
import { Diagnoser } from '../../src/diagnosis';
import { BenchState, type Measurement, type Response } from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';
import { boardFile, RATES } from '../boards';

const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
const { space, predictor } = new Diagnoser(index, RATES);

/** A fresh board with the fault, solved in full: what the short ways are held to. */
function inFull(
  hypothesis: (typeof space.hypotheses)[number],
  severity: number,
  m: Measurement,
): Response {
  const response = new BenchState(index, {
    setup: m.setup,
    faults: [{ fault: hypothesis.fault, severity }],
    absent: [],
  }).respond(m);
  if ('ok' in response) throw new Error(`${hypothesis.name}: ${response.why}`);
  return response;
}

function same(m: Measurement, a: number, b: number): boolean {
  // A beep is all that continuity tells, so beyond the threshold any ohms are as good as others.
  if (m.kind === 'continuity') return a < 30 === b < 30;
  if (!Number.isFinite(a) || !Number.isFinite(b)) return a === b || Math.max(a, b) > 39.9e6;
  const floor = m.kind === 'voltage' || m.kind === 'diode' ? 2e-4 : 1e-3;
  // Answers within a hundredth of their spread count as one: of an ESR that the sheet does not
  // state that is more.
  return Math.abs(a - b) <= floor + (m.kind === 'esr' ? 2e-3 : 2e-4) * Math.abs(b);
}

describe('the predictor against a board solved in full, every fault of the demo board', () => {
  const candidates = candidateMeasurements(index);
  it('has faults and measurements to compare', () => {
    expect(space.hypotheses.length).toBeGreaterThan(200);
    expect(candidates.length).toBeGreaterThan(80);
  });

  it.each(['voltage', 'resistance', 'continuity', 'diode', 'esr'] as const)('%s', (kind) => {
    const own = candidates.filter((m) => m.kind === kind);
    const wrong: string[] = [];
    let compared = 0;
    space.hypotheses.forEach((hypothesis, h) => {
      // A third of the pairs, a different one for each fault: all faults and all points come up.
      own.forEach((m, i) => {
        if ((i + h) % 3 !== 0) return;
        const last = hypothesis.severities.length - 1;
        const quick = predictor.under(hypothesis, m);
        const full = inFull(hypothesis, hypothesis.severities[last]!, m);
        compared += 1;
        if (!same(m, quick.at(-1)!.value, full.value))
          wrong.push(
            `${hypothesis.name} ${m.at.pin?.part.ref ?? m.at.net}: ${quick.at(-1)!.value} against ${full.value}`,
          );
      });
    });
    expect(compared).toBeGreaterThan(100);
    expect(wrong).toEqual([]);
  });
});
