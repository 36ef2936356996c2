import { describe, expect, it } from 'vitest';
import { replaceableRef } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { BenchState, type Measurement, type Reading, type ReadingValue } from '../src/instrument';
import { candidateMeasurements, planNext } from '../src/plan';
import type { SingleHypothesis as Hypothesis } from '../src/fault';
import { boardFile, RATES } from './boards';

const MOST_READINGS = 14;

/** What the standard meter would be read as. */
function readOff(m: Measurement, value: number): ReadingValue {
  if (m.kind === 'continuity') return value < 30 ? 'beep' : 'open';
  return Number.isFinite(value) ? Number(value.toPrecision(4)) : 'OL';
}

/** A bench with one hidden fault; answers measurements. */
function hiddenBench(
  index: Parameters<typeof candidateMeasurements>[0],
  hypothesis: Hypothesis,
): (m: Measurement) => Reading {
  const severity = hypothesis.severities[hypothesis.severities.length >> 1]!;
  const states = new Map<string, BenchState>();
  return (m) => {
    let state = states.get(m.setup);
    if (!state)
      states.set(
        m.setup,
        (state = new BenchState(index, {
          setup: m.setup,
          faults: [{ fault: hypothesis.fault, severity }],
          absent: [],
        })),
      );
    const response = state.respond(m);
    if ('ok' in response) throw new Error(`${hypothesis.name}: ${response.why}`);
    return { measurement: m, value: readOff(m, response.value) };
  };
}

describe.each(['lamp-driver', 'diode-network'])(
  'hidden faults on %s, followed by the planner alone',
  (name) => {
    const index = boardFile(`./reference/benches/${name}.cir`);
    const diagnoser = new Diagnoser(index, RATES);
    const candidates = candidateMeasurements(index);
    // One way of failing for each part and mode; joints read as their part does.
    const hidden = diagnoser.space.hypotheses.filter(({ fault }) => fault.type === 'mode');

    /**
     * Parts that every candidate measurement shows the same with this fault: nobody could tell them
     * apart without lifting a leg.
     */
    function alike(truth: Hypothesis): ReadonlySet<string> {
      const middle = truth.severities.length >> 1;
      const visible = candidates.map((m) =>
        diagnoser.predictor.at(truth, truth.severities.length === 1 ? 0 : middle, m),
      );
      const refs = new Set([truth.refs[0]!]);
      for (const other of diagnoser.space.hypotheses) {
        if (refs.has(other.refs[0]!)) continue;
        const same = other.severities.some((_, i) =>
          candidates.every((m, c) => {
            const [a, b] = [visible[c]!, diagnoser.predictor.at(other, i, m)];
            if (!Number.isFinite(a.value) || !Number.isFinite(b.value)) return a.value === b.value;
            return (
              Math.abs(a.value - b.value) <=
              2 * Math.max(a.spread, b.spread) +
                0.02 * Math.abs(a.value) +
                (m.kind === 'voltage' ? 0.02 : 0.1)
            );
          }),
        );
        if (same) refs.add(other.refs[0]!);
      }
      return refs;
    }

    /**
     * True where no measurement at all differs from the healthy board: such a fault cannot be
     * found, only suspected.
     */
    function invisible(truth: Hypothesis): boolean {
      return candidates.every((m) => {
        const [a, b] = [
          diagnoser.predictor.at(truth, truth.severities.length >> 1, m),
          diagnoser.predictor.healthy(m),
        ];
        if (!Number.isFinite(a.value) || !Number.isFinite(b.value)) return a.value === b.value;
        return (
          Math.abs(a.value - b.value) <=
          2 * Math.max(a.spread, b.spread) +
            0.02 * Math.abs(b.value) +
            (m.kind === 'voltage' ? 0.02 : 0.1)
        );
      });
    }

    it('are found, what cannot be told apart counting as one, in at least 95 of 100', () => {
      const visible = hidden.filter((truth) => !invisible(truth));
      const missed: string[] = [];
      let readingsTaken = 0;
      for (const truth of visible) {
        const measure = hiddenBench(index, truth);
        const readings: Reading[] = [];
        for (let i = 0; i < MOST_READINGS; i += 1) {
          const plan = planNext(diagnoser, readings, diagnoser.believe(readings));
          if (plan.state === 'replace' || plan.measurements.length === 0) break;
          readings.push(measure(plan.measurements[0]!.measurement));
        }
        readingsTaken += readings.length;
        const { byPart } = diagnoser.believe(readings);
        if (!alike(truth).has(replaceableRef(byPart[0]!.ref)))
          missed.push(
            `${truth.name}: ${byPart
              .slice(0, 3)
              .map((p) => `${p.ref} ${p.probability.toFixed(2)}`)
              .join(', ')} after ${readings.length}`,
          );
      }
      expect(visible.length).toBeGreaterThan(20);
      expect(readingsTaken / visible.length).toBeLessThan(10);
      // As often as they occur: a resistor that shorts is one in thousands, and loses against a
      // transistor that reads the same.
      const weight = (list: readonly Hypothesis[]): number =>
        list.reduce((sum, { prior }) => sum + prior, 0);
      expect(
        weight(
          visible.filter(({ name: title }) => missed.some((line) => line.startsWith(`${title}:`))),
        ) / weight(visible),
        missed.join('\n'),
      ).toBeLessThanOrEqual(0.05);
      expect(missed.length / visible.length, missed.join('\n')).toBeLessThanOrEqual(0.12);
    });
  },
);
