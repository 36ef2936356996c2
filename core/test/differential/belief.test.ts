import { describe, expect, it } from 'vitest';
import { blank, decibans, Diagnoser } from '../../src/diagnosis';
import { gridLikelihood, gridSize } from '../../src/diagnosis/severity-grid';
import { BenchState, measurementKey, type Measurement, type Reading } from '../../src/instrument';
import { candidateMeasurements, type Outlook } from '../../src/plan';
import {
  informationOf,
  foresee,
  outlookBase,
  outlooksOf,
  type OutlookBase,
} from '../../src/plan/outlook';
import { boardFile, RATES } from '../boards';

const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
const candidates = candidateMeasurements(index);

/** A reading off the board with one fault at its middle severity. */
function readOff(diagnoser: Diagnoser, fault: string, m: Measurement): Reading | undefined {
  const truth = diagnoser.space.hypotheses.find(({ name }) => name === fault)!;
  const faults = [
    { fault: truth.fault, severity: truth.severities[truth.severities.length >> 1]! },
  ];
  const response = new BenchState(index, { setup: m.setup, faults, absent: [] }).respond(m);
  if ('ok' in response || response.unknown || (m.kind !== 'voltage' && m.kind !== 'resistance'))
    return undefined;
  return { measurement: m, value: Number.isFinite(response.value) ? response.value : 'OL' };
}

/**
 * Bayes' rule written out: every fault's prior times the mean over its severities of the product
 * over all readings. Without double faults.
 */
function byTheBook(
  diagnoser: Diagnoser,
  readings: readonly Reading[],
): { parts: Map<string, number>; healthy: number; unmodelled: number } {
  const { space, predictor, voltSpan } = diagnoser;
  const product = (terms: readonly number[]): number => terms.reduce((a, b) => a * b, 1);
  const weights = space.hypotheses.map((h) => {
    const size = gridSize(h);
    const rows = readings.map((reading) =>
      gridLikelihood(
        reading,
        predictor.under(h, reading.measurement),
        h.severities,
        size,
        voltSpan,
      ),
    );
    const means = Array.from({ length: size }, (_, i) =>
      product(rows.map((row) => Math.exp(row[i]!))),
    );
    return (h.prior * means.reduce((a, b) => a + b, 0)) / size;
  });
  const sound = product(
    readings.map((reading) =>
      Math.exp(
        gridLikelihood(reading, [predictor.healthy(reading.measurement)], [1], 1, voltSpan)[0]!,
      ),
    ),
  );
  const nothing = product(
    readings.map(({ measurement, value }) => blank(measurement.kind, value, voltSpan)),
  );
  const [healthy, unmodelled] = [space.healthyPrior * sound, space.unmodelledPrior * nothing];
  const all = weights.reduce((a, b) => a + b, 0) + healthy + unmodelled;
  const parts = new Map<string, number>();
  space.hypotheses.forEach(({ refs }, h) =>
    refs.forEach((ref) => parts.set(ref, (parts.get(ref) ?? 0) + weights[h]! / all)),
  );
  return { parts, healthy: healthy / all, unmodelled: unmodelled / all };
}

const CLOSER = 0.75;
const TRUTHS = ['F1:open', 'C1:short', 'L1:open', 'R2:open', 'C6:short'] as const;

describe("belief against Bayes' rule written out", () => {
  it.each(TRUTHS)('%s', (fault) => {
    const diagnoser = new Diagnoser(index, RATES);
    const readings = candidates
      .flatMap((m) => readOff(diagnoser, fault, m) ?? [])
      .filter((_, i) => i % 9 === 0)
      .slice(0, 6);
    expect(readings.length).toBeGreaterThan(3);
    const belief = diagnoser.believe(readings);
    // One fault explains them all: the only pairs are that fault with what may have caused it.
    // Beside them the singles stand as the book has them.
    const pairs = belief.suspects.filter(({ hypothesis }) => hypothesis.type === 'joint');
    const alone = 1 - pairs.reduce((sum, { probability }) => sum + probability, 0);
    for (const { hypothesis } of pairs)
      expect(
        hypothesis.faults.some((name) => /:open|:cut/.test(name)) &&
          hypothesis.faults.some((name) => /short|leaky|bridge/.test(name)),
      ).toBe(true);
    const book = byTheBook(diagnoser, readings);
    // The book sums over the grid. Where the readings ask for one severity more sharply than that,
    // belief looks closer about it, which moves shares by less than a factor of four.
    const near = (value: number, other: number, what: string): void =>
      expect(Math.abs(value - other), what).toBeLessThanOrEqual(
        1e-7 + CLOSER * Math.max(value, other),
      );
    near(belief.healthy / alone, book.healthy, 'healthy');
    near(belief.unmodelled / alone, book.unmodelled, 'none of these');
    const singles = new Map<string, number>();
    for (const { hypothesis, probability } of belief.suspects)
      if (hypothesis.type === 'single')
        singles.set(
          hypothesis.refs[0]!,
          (singles.get(hypothesis.refs[0]!) ?? 0) + probability / alone,
        );
    for (const [ref, probability] of singles) near(probability, book.parts.get(ref) ?? 0, ref);
    if (pairs.length > 0) return;
    // The weight of each reading: what the odds lose when it is left out.
    readings.forEach((_, r) => {
      const without = byTheBook(
        diagnoser,
        readings.filter((__, i) => i !== r),
      );
      for (const { ref, probability, weights } of belief.byPart.slice(0, 5)) {
        // A closer look is taken at all readings together and stands beside the weights of each.
        if (Math.abs(probability - book.parts.get(ref)!) > 1e-6) continue;
        expect(weights[r], `${ref}, reading ${r}`).toBeCloseTo(
          decibans(probability) - decibans(without.parts.get(ref)!),
          4,
        );
      }
    });
  });

  it('does not depend on the order of the readings, nor on readings taken back', () => {
    const diagnoser = new Diagnoser(index, RATES);
    const readings = candidates.flatMap((m) => readOff(diagnoser, 'L1:open', m) ?? []).slice(0, 8);
    const forward = diagnoser.believe(readings);
    diagnoser.believe(readings.slice(0, 3));
    const backward = new Diagnoser(index, RATES).believe([...readings].reverse());
    for (const { ref, probability } of forward.byPart)
      expect(backward.byPart.find((part) => part.ref === ref)!.probability, ref).toBeCloseTo(
        probability,
        7,
      );
  });
});

function foreseen(
  diagnoser: Diagnoser,
  view: OutlookBase,
  leastBits: number,
): readonly (readonly Outlook[] | undefined)[] {
  const steps = foresee(diagnoser, view, candidates, [], leastBits);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

describe('what a plan foresees, one group taken together, against every hypothesis by itself', () => {
  it.each(TRUTHS)('%s', (fault) => {
    const diagnoser = new Diagnoser(index, RATES);
    const readings = candidates.flatMap((m) => readOff(diagnoser, fault, m) ?? []).slice(0, 1);
    const view = outlookBase(diagnoser.believe(readings), candidates.length);
    const together = foreseen(diagnoser, view, 0);
    candidates.forEach((m, i) => {
      const [one, other] = [
        informationOf(together[i]!, view, m),
        informationOf(outlooksOf(diagnoser, view, m, []), view, m),
      ];
      expect(one.gainBits, measurementKey(m)).toBeCloseTo(other.gainBits, 9);
      expect(one.expectedTop, measurementKey(m)).toBeCloseTo(other.expectedTop, 9);
      expect(together[i]!.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
    });
  });

  it('leaves out readings only that tell less than is asked for', () => {
    const diagnoser = new Diagnoser(index, RATES);
    const readings = candidates.flatMap((m) => readOff(diagnoser, 'F1:open', m) ?? []).slice(0, 2);
    const view = outlookBase(diagnoser.believe(readings), candidates.length);
    const [all, some] = [foreseen(diagnoser, view, 0), foreseen(diagnoser, view, 0.02)];
    const left = candidates.filter((_, i) => some[i] === undefined);
    expect(left.length).toBeGreaterThan(0);
    expect(left.length).toBeLessThan(candidates.length);
    candidates.forEach((m, i) => {
      if (some[i]) expect(some[i]).toEqual(all[i]);
      else expect(informationOf(all[i]!, view, m).gainBits, measurementKey(m)).toBeLessThan(0.02);
    });
  });
});
