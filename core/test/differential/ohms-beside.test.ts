import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import { Diagnoser } from '../../src/diagnosis';
import { BenchState, type Response } from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';

/**
 * A share of the reading that no meter of the trade sees, and what it may be off at the bottom of
 * its range, ohm or volt.
 */
const UNSEEN = { share: 2e-3, ohm: 0.02, volt: 5e-4 } as const;

function agree(kind: string, found: Response, whole: Response): boolean {
  // Where part spread decides which range the meter takes, both say so or one does: then nothing is
  // claimed.
  if (found.unknown || whole.unknown) return true;
  if (!Number.isFinite(found.value) || !Number.isFinite(whole.value))
    return found.value === whole.value;
  return (
    Math.abs(found.value - whole.value) <=
    UNSEEN.share * Math.abs(whole.value) + (kind === 'diode' ? UNSEEN.volt : UNSEEN.ohm)
  );
}

// What a meter drives through a board that is off, found beside the sound board, against a search
// over the whole circuit of the board with the fault.
describe('ohms, continuity and diode tests of faulty boards', () => {
  it.each([
    ['tl9', 3, 7],
    ['pd3Rw', 7, 13],
    ['pd3If', 29, 17],
    ['cr40Whole', 17, 29],
    ['yc2Whole', 19, 23],
  ] as const)(
    '%s',
    (name, everyFault, everyReading) => {
      const index = indexBoard(demoBoard(name));
      const { hypotheses } = new Diagnoser(index, RATES).space;
      const base = new BenchState(index, { setup: 'off', faults: [], absent: [] });
      const driven = candidateMeasurements(index).filter(
        ({ kind, at, to }) =>
          ['resistance', 'continuity', 'diode'].includes(kind) && !at.pin && !to.pin,
      );
      const own = candidateMeasurements(index).filter(
        ({ kind, at }) => ['resistance', 'diode'].includes(kind) && at.pin,
      );
      const wrong: string[] = [];
      let [compared, moved] = [0, 0];
      for (let h = 0; h < hypotheses.length; h += everyFault) {
        const { fault, name: title, severities } = hypotheses[h]!;
        const faults = [{ fault, severity: severities[h % severities.length]! }];
        const lifted = fault.type === 'dry' || fault.type === 'cut';
        const readings = (lifted ? driven : [...driven, ...own]).filter(
          (_, i) => (i + h) % everyReading === 0,
        );
        let whole: BenchState | undefined;
        for (const m of readings) {
          const found = base.respondWith(faults, m);
          if (!found) continue;
          whole ??= new BenchState(index, { setup: 'off', faults, absent: [] });
          const answer = whole.respond(m);
          if ('ok' in answer) continue;
          compared += 1;
          const sound = base.respond(m);
          if (!('ok' in sound) && !agree(m.kind, found, sound)) moved += 1;
          if (!agree(m.kind, found, answer))
            wrong.push(
              `${title} ${m.kind} ${m.at.net} ${m.to.net}: ${found.value} against ${answer.value}`,
            );
        }
      }
      expect(wrong).toEqual([]);
      expect(compared).toBeGreaterThan(100);
      expect(moved).toBeGreaterThan(5);
    },
    120_000,
  );
});
