import type { Hypothesis } from '../fault';
import type { Reading, Response } from '../instrument';
import { logLikelihood, scaled, type Scaled } from './likelihood';

/** Steps into which the way from one solved severity to the next is divided. */
const STEPS = 8;

/** Number of points at which belief looks at a hypothesis: its severities, and the steps between them where they are points of a range. */
export function gridSize({ severities, discrete }: Pick<Hypothesis, 'severities' | 'discrete'>): number {
  return discrete || severities.length === 1 ? severities.length : (severities.length - 1) * STEPS + 1;
}

/** Log-likelihood of one reading at every point of the severity grid (length gridSize). Between solved severities the prediction is interpolated on
 *  its natural scale, and the width of a step counts as uncertainty, so that a severity between two points is not missed.
 *  responses: one per solved severity, or a single one where severity does not matter to this reading. */
export function gridLikelihood(reading: Reading, responses: readonly Response[], size: number, voltSpan: number): Float64Array {
  const { kind } = reading.measurement;
  const out = new Float64Array(size);
  const points = responses.map((response) => scaled(kind, response));
  if (points.length === 1) return out.fill(logLikelihood(kind, reading.value, points[0]!, voltSpan));
  if (points.length === size) return out.map((_, i) => logLikelihood(kind, reading.value, points[i]!, voltSpan));
  for (let i = 0; i < size; i += 1) {
    const left = Math.min(Math.floor(i / STEPS), points.length - 2);
    out[i] = logLikelihood(kind, reading.value, between(points[left]!, points[left + 1]!, (i - left * STEPS) / STEPS), voltSpan);
  }
  return out;
}

function between(a: Scaled, b: Scaled, share: number): Scaled {
  if (a.overload || b.overload || a.pulsing !== b.pulsing || a.unknown || b.unknown) return share < 0.5 ? a : b;
  const step = Math.abs(b.y - a.y) / STEPS;
  const sigma = a.sigma + share * (b.sigma - a.sigma);
  return { y: a.y + share * (b.y - a.y), sigma: Math.hypot(sigma, step / Math.sqrt(12)), overload: false, pulsing: a.pulsing };
}

/** `logMeanExp(total - part)` without making the difference. */
export function logMeanExpWithout(total: Float64Array, part: Float64Array): number {
  let top = -Infinity;
  for (let i = 0; i < total.length; i += 1) top = Math.max(top, total[i]! - part[i]!);
  let sum = 0;
  for (let i = 0; i < total.length; i += 1) sum += Math.exp(total[i]! - part[i]! - top);
  return top + Math.log(sum / total.length);
}

/** ln of the mean of exp(values): severities on the grid are equally likely. */
export function logMeanExp(values: Float64Array): number {
  let top = -Infinity;
  for (const value of values) top = Math.max(top, value);
  let sum = 0;
  for (const value of values) sum += Math.exp(value - top);
  return top + Math.log(sum / values.length);
}
