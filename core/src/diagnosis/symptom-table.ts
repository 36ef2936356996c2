import type { BoardIndex } from '../board';
import { hypothesisSpace, type RateTable } from '../fault';
import { observableMeasurements, type Measurement } from '../instrument';
import { Predictor } from './prediction';

/** One symptom of a board with what may be behind it. */
export interface SymptomRow {
  readonly name: string;
  readonly title: string;
  /** What is seen on a sound board. The symptom is the opposite. */
  readonly healthy: 'yes' | 'no';
  /** Chance that a faulty board of this kind shows the symptom at all. */
  readonly share: number;
  /** Parts likeliest first, given the symptom and one fault. */
  readonly suspects: readonly { readonly ref: string; readonly probability: number }[];
}

/**
 * From symptom to suspects, computed from the circuit: for every observable, which single faults
 * turn it round, weighed by how often they happen. predictor: of this board, where the caller has
 * one.
 */
export function symptomTable(
  index: BoardIndex,
  rates: RateTable,
  predictor = new Predictor(index),
): readonly SymptomRow[] {
  const { hypotheses } = hypothesisSpace(index, rates);
  const faulty = hypotheses.reduce((sum, { prior }) => sum + prior, 0);
  return observableMeasurements(index).map((m: Measurement): SymptomRow => {
    const { name, title } = m.observable!;
    const healthy = predictor.healthy(m).value >= 0.5;
    const byPart = new Map<string, number>();
    let total = 0;
    for (const h of hypotheses) {
      const answers = predictor.under(h, m);
      const seen = answers.reduce((sum, { value }) => sum + value, 0) / answers.length;
      const weight = h.prior * (healthy ? 1 - seen : seen);
      total += weight;
      byPart.set(h.refs[0]!, (byPart.get(h.refs[0]!) ?? 0) + weight);
    }
    const suspects = [...byPart]
      .map(([ref, weight]) => ({ ref, probability: total > 0 ? weight / total : 0 }))
      .filter(({ probability }) => probability > 1e-4)
      .sort((a, b) => b.probability - a.probability);
    return { name, title, healthy: healthy ? 'yes' : 'no', share: total / faulty, suspects };
  });
}
