import { describe, expect, it } from 'vitest';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '../../src/board';
import { Diagnoser } from '../../src/diagnosis';
import { linearChange } from '../../src/fault';
import { BenchState } from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';
import { board, measurement } from '../boards';

// Value and spread of the short ways against a whole solve of the faulty board, which knows nothing
// of the sound one.
describe('what a fault does to a reading, value and spread', () => {
  it.each([
    ['cr40', 7],
    ['yc2', 3],
    ['tl9', 31],
    ['pd3Rw', 61],
  ] as const)(
    '%s',
    (name, every) => {
      const index = indexBoard(demoBoard(name));
      const { hypotheses } = new Diagnoser(index, RATES).space;
      const measurements = candidateMeasurements(index, ['resistance', 'esr', 'voltage']);
      const sound = {
        on: new BenchState(index, { setup: 'on', faults: [], absent: [] }),
        off: new BenchState(index, { setup: 'off', faults: [], absent: [] }),
      };
      sound.on.solve();
      const wrong: string[] = [];
      let [compared, at] = [0, 0];
      for (const { fault, severities, name: title } of hypotheses) {
        if (fault.type === 'cut' || fault.type === 'dry') continue;
        for (const severity of severities) {
          at += 1;
          if (at % every !== 0) continue;
          const change = linearChange(fault, severity);
          if (!change) continue;
          const states = new Map<string, BenchState>();
          for (const [k, m] of measurements.entries()) {
            if ((k + at) % 9 !== 0 || (m.setup !== 'on' && m.setup !== 'off')) continue;
            const quick = sound[m.setup].respondAfter(m, change);
            if (!quick || quick.unknown || !Number.isFinite(quick.value)) continue;
            let state = states.get(m.setup);
            if (!state)
              states.set(
                m.setup,
                (state = new BenchState(index, {
                  setup: m.setup,
                  faults: [{ fault, severity }],
                  absent: [],
                })),
              );
            const whole = state.respond(m);
            if ('ok' in whole || whole.unknown || !Number.isFinite(whole.value)) continue;
            // An amplifier without its feedback is anywhere: its spread is not a matter of a
            // tangent.
            if (m.kind === 'voltage' && whole.spread > 1) continue;
            compared += 1;
            const least = m.kind === 'voltage' ? 2e-3 : 2e-3 + 1e-3 * Math.abs(whole.value);
            if (Math.abs(quick.spread - whole.spread) > least + 0.1 * whole.spread)
              wrong.push(
                `${title}@${severity.toPrecision(3)} ${m.kind} ${m.at.net}-${m.to.net}: ${quick.value} ± ${quick.spread} against ${whole.value} ± ${whole.spread}`,
              );
          }
        }
      }
      expect(compared).toBeGreaterThan(100);
      expect(wrong.slice(0, 10)).toEqual([]);
    },
    120_000,
  );

  it('an open choke is believed as much with a milliohm of wire as with an ohm', () => {
    const belief = (dcr: string): number => {
      const index = board(
        `V1 SUP 0 9\nXJ1 SUP IN PIN\nL2 IN VM 47u\n*@ L2 dcr=${dcr} pos=10,10\nC1 VM 0 100u\n*@ C1 kind=electrolytic esr=0.3 pos=30,10\nR1 VM 0 1k\n*@ R1 pos=40,10\nR2 VM OUT 470\nR3 OUT 0 1k`,
      );
      const diagnoser = new Diagnoser(index, RATES);
      const ohms = diagnoser.predictor.healthy(measurement(index, 'resistance', 'VM')).value;
      const readings = [
        { measurement: measurement(index, 'voltage', 'VM'), value: 0 },
        { measurement: measurement(index, 'resistance', 'VM'), value: ohms },
        { measurement: measurement(index, 'voltage', 'IN'), value: 9 },
      ];
      return diagnoser.believe(readings).byPart.find(({ ref }) => ref === 'L2')!.probability;
    };
    const [thick, middle, thin] = [belief('1m'), belief('0.1'), belief('1')];
    expect(thin).toBeGreaterThan(0.3);
    expect(thick / thin).toBeGreaterThan(0.9);
    expect(middle / thin).toBeGreaterThan(0.9);
  });
});
