import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import { Predictor, scaled } from '../../src/diagnosis';
import { BenchState, pointText, resolveMeasurement } from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';
import { seeded, variedBoard } from '../../src/practice';
import { demoBoard } from '@hanzai/data/demo';

const BOARDS = 16;

/**
 * How far sound boards within tolerance lie from the prediction, in standard deviations, by
 * measurement.
 */
function distances(name: 'cr40' | 'yc2' | 'tl9'): Map<string, number[]> {
  const board = demoBoard(name);
  const index = indexBoard(board);
  const predictor = new Predictor(index);
  const random = seeded(11);
  const found = new Map<string, number[]>();
  for (let n = 0; n < BOARDS; n += 1) {
    const varied = indexBoard(variedBoard(board, random));
    const states = new Map<string, BenchState>();
    for (const m of candidateMeasurements(index)) {
      const healthy = predictor.healthy(m);
      if (m.kind === 'symptom' || m.kind === 'logic' || m.kind === 'continuity' || healthy.unknown)
        continue;
      const there = resolveMeasurement(varied, m.setup, m.kind, pointText(m.at), pointText(m.to));
      if (!there.ok) throw new Error(there.what);
      if (!states.has(m.setup))
        states.set(m.setup, new BenchState(varied, { setup: m.setup, faults: [], absent: [] }));
      const response = states.get(m.setup)!.respond(there.measurement);
      if ('ok' in response || response.unknown) continue;
      const [expected, own] = [scaled(m.kind, healthy), scaled(m.kind, response)];
      const distance =
        expected.overload !== own.overload
          ? Infinity
          : expected.overload
            ? 0
            : (own.y - expected.y) / expected.sigma;
      const key = `${m.kind} ${pointText(m.at)} ${pointText(m.to)}`;
      found.set(key, [...(found.get(key) ?? []), distance]);
    }
  }
  return found;
}

describe.each(['cr40', 'yc2', 'tl9'] as const)(
  'sound boards within tolerance look sound: %s',
  (name) => {
    const found = distances(name);
    it('no reading is out of its band again and again', () => {
      expect(found.size).toBeGreaterThan(30);
      const wide = [...found]
        .map(
          ([key, values]) =>
            [key, Math.sqrt(values.reduce((sum, z) => sum + z * z, 0) / values.length)] as const,
        )
        .filter(([, rms]) => !(rms < 1.7));
      expect(wide).toEqual([]);
    });
  },
);
