import { describe, expect, it } from 'vitest';
import { RATES } from '@hanzai/data';
import type { BaseLinearisation } from '../../src/circuit';
import { MOST_PORTS, DeviceAnswer } from '../../src/circuit/device';
import { Diagnoser } from '../../src/diagnosis';
import { seeded } from '../../src/practice';
import { soundBoard } from './sound-board';

/** What a piece that is said to be on its tangent may move a node by, volt: as a search has it. */
const LEAVES_VOLT = 1e-4;
const TRIES = 60;

// Searches learn how far a piece may go before it leaves its tangent. After every fault of a board
// was searched, pieces are tried at random points within what was learnt, and asked: off the
// tangent by the piece's own law, times what the node looks into.
describe('how far a piece stays on its tangent, as searches have learnt it', () => {
  it.each([
    ['tl9', 1],
    ['cr40Whole', 3],
    ['yc2Whole', 3],
    ['pd3Rw', 2],
  ] as const)('%s', (name, every) => {
    const { index, points, withFaults } = soundBoard(name);
    const known = (): number => points.reduce((sum, point) => sum + count(point), 0);
    const before = known();
    new Diagnoser(index, RATES).space.hypotheses.forEach(({ fault, severities }, h) => {
      if (h % every === 0) withFaults([{ fault, severity: severities[h % severities.length]! }]);
    });
    // What was named beforehand holds at the point itself only, for junctions and transistors; a
    // hair off it is learnt.
    expect(known()).toBeGreaterThan(before);
    const wrong = points.flatMap((point, phase) =>
      leavers(point).map((words) => `phase ${phase}: ${words}`),
    );
    expect(wrong.slice(0, 5)).toEqual([]);
  });
});

/**
 * A point a little off a base linearisation's own at a piece's ports: by scales from a microvolt to volts,
 * together or each by itself.
 */
function besides(point: BaseLinearisation, i: number, uniform: () => number): Float64Array {
  const x = point.x.slice();
  const together = (uniform() - 0.5) * 2;
  const scale = 10 ** (-6 + 6.5 * uniform());
  for (const port of point.devices[i]!.device.ports)
    if (port >= 0)
      x[port] = x[port]! + (uniform() < 0.3 ? together : 0) + scale * (uniform() - 0.5) * 2;
  return x;
}

/** Of how many tries a piece is known to be on its tangent. */
function count(point: BaseLinearisation): number {
  const uniform = seeded(7);
  let found = 0;
  point.devices.forEach((_, i) => {
    for (let t = 0; t < TRIES; t += 1)
      if (point.straight.has(i, besides(point, i, uniform))) found += 1;
  });
  return found;
}

/** Devices that are not where they are said to be. */
function leavers(point: BaseLinearisation): string[] {
  const uniform = seeded(8);
  const answer = new DeviceAnswer();
  const volts = new Float64Array(MOST_PORTS);
  const wrong: string[] = [];
  point.devices.forEach(({ device, ampere, slope }, i) => {
    const { ports, feeds } = device;
    for (let t = 0; t < TRIES; t += 1) {
      const x = besides(point, i, uniform);
      if (!point.straight.has(i, x)) continue;
      const at = (vector: Float64Array, port: number): number => (port < 0 ? 0 : vector[port]!);
      ports.forEach((port, p) => (volts[p] = at(x, port)));
      device.at(volts, answer);
      for (let r = 0; r < feeds; r += 1) {
        if (ports[r]! < 0) continue;
        const tangent = [...ports].reduce(
          (sum, port, c) => sum + slope[r * ports.length + c]! * (at(x, port) - at(point.x, port)),
          ampere[r]!,
        );
        const moves = Math.abs(answer.ampere[r]! - tangent) * point.sourceOhm(ports[r]!);
        if (moves > LEAVES_VOLT * 1.001)
          wrong.push(`device ${i} (${device.constructor.name}) moves its port ${r} by ${moves} V`);
      }
    }
  });
  return wrong;
}
