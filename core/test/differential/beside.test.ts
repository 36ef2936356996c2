import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import { Diagnoser } from '../../src/diagnosis';
import { BenchState, type VoltSnapshot } from '../../src/instrument';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { driveBoard } from '../../../scripts/drive-board';

/** Low, high and doubt of a net, from a difference where it is in it, else from the sound board. */
function levelsAt(
  snapshot: VoltSnapshot,
  sound: VoltSnapshot,
  net: number,
): readonly [number, number, number] {
  const place = snapshot.nets ? snapshot.nets.indexOf(net) : net;
  const [from, i] = place >= 0 ? [snapshot, place] : [sound, net];
  return [from.low[i]!, (from.high ?? from.low)[i]!, from.unknown[i]!];
}

// What is found beside the sound board against the board with the fault switched on by itself,
// which knows nothing of the sound one: every net that has a level, in both phases.
describe('boards found incremental the sound one', () => {
  it.each([
    ['tl9', 5],
    ['pd3Rw', 13],
    ['cr40Whole', 23],
    ['yc2Whole', 29],
    ['generated', 11],
  ] as const)(
    '%s',
    (name, every) => {
      const index = indexBoard(name === 'generated' ? driveBoard(60, 11) : demoBoard(name));
      const { hypotheses } = new Diagnoser(index, RATES).space;
      const base = new BenchState(index, { setup: 'on', faults: [], absent: [] });
      const wrong: string[] = [];
      let [compared, incremental] = [0, 0];
      for (let h = 0; h < hypotheses.length; h += every) {
        const { fault, name: title, severities } = hypotheses[h]!;
        // An open that leaks less than the one before is found from that one.
        for (const severity of severities.length === 2
          ? severities
          : [severities[h % severities.length]!]) {
          const faults = [{ fault, severity }];
          const found = base.snapshotWith(faults);
          const whole = new BenchState(index, { setup: 'on', faults, absent: [] }).snapshot();
          if (!whole) continue;
          compared += 1;
          if (!found) continue;
          incremental += 1;
          index.nets.forEach((net, i) => {
            const [low, high, doubt] = levelsAt(found, base.snapshot()!, i);
            if (Number.isNaN(whole.low[i]!)) return;
            // A net that a meter would load otherwise than before is left to the state itself.
            if (Number.isNaN(low)) return;
            const off = Math.max(
              Math.abs(low - whole.low[i]!),
              Math.abs(high - (whole.high ?? whole.low)[i]!),
            );
            if (off > 1e-3 + 1e-3 * Math.abs(whole.low[i]!) || doubt !== whole.unknown[i])
              wrong.push(
                `${title} at ${severity} ${net}: ${low}, ${high} against ${whole.low[i]}, ${(whole.high ?? whole.low)[i]}`,
              );
          });
        }
      }
      expect(wrong).toEqual([]);
      expect(compared).toBeGreaterThan(30);
      // Only what cannot be told beside the sound board at all is left to a search of its own.
      expect(incremental).toBeGreaterThan(0.9 * compared);
    },
    120_000,
  );
});
