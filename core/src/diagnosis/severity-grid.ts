import type { Hypothesis } from '../fault';
import { type Reading, type Response } from '../instrument';
import { logLikelihood, scaled, scaledValue, type Scaled } from './likelihood';

/** Steps into which the way from one solved severity to the next is divided. */
const STEPS = 8;

/** Number of points at which belief looks at a hypothesis: its severities, and the steps between them where they are points of a range. */
export function gridSize({ severities, discrete }: Pick<Hypothesis, 'severities' | 'discrete'>): number {
  return discrete || severities.length === 1 ? severities.length : (severities.length - 1) * STEPS + 1;
}

/** Log-likelihood of one reading at every point of the severity grid (length gridSize). Between solved severities the prediction is interpolated, and the width of a step counts as
 *  uncertainty, so that a severity between two points is not missed. responses: one per severity, or a single one where severity does not matter to this reading. */
export function gridLikelihood(reading: Reading, responses: readonly Response[], severities: readonly number[], size: number, voltSpan: number): Float64Array {
  const { kind } = reading.measurement;
  const out = new Float64Array(size);
  if (responses.length === 1) return out.fill(logLikelihood(kind, reading.value, scaled(kind, responses[0]!), voltSpan));
  const points = responses.length === size ? responses.map((response) => scaled(kind, response)) : between(kind, responses, severities, size);
  return out.map((_, i) => logLikelihood(kind, reading.value, points[i]!, voltSpan));
}

/** Predictions at every point of the grid. */
function between(kind: Reading['measurement']['kind'], responses: readonly Response[], severities: readonly number[], size: number): readonly Scaled[] {
  const points = responses.map((response) => scaled(kind, response));
  const at = Array.from({ length: size }, (_, i): Scaled => {
    const left = Math.min(Math.floor(i / STEPS), points.length - 2);
    const share = (i - left * STEPS) / STEPS;
    const [a, b] = [points[left]!, points[left + 1]!];
    if (share === 0) return a;
    if (a.overload || b.overload || a.pulsing !== b.pulsing || a.unknown || b.unknown) return share < 0.5 ? a : b;
    const y = kind === 'esr' ? undefined : quotient(kind, responses, severities, left, share);
    return { y: y ?? a.y + share * (b.y - a.y), sigma: a.sigma + share * (b.sigma - a.sigma), overload: false, pulsing: a.pulsing };
  });
  // Each point stands for half a step to either side.
  return at.map((point, i) => {
    const [before, next] = [at[i - 1] ?? point, at[i + 1] ?? point];
    if (point.overload || before.overload || next.overload) return point;
    return { ...point, sigma: Math.hypot(point.sigma, Math.abs(next.y - before.y) / 2 / Math.sqrt(12)) };
  });
}

/** Of a linear circuit every reading is a quotient of two straight lines of one changed conductance (or of its inverse): three solved severities give all of it. On the natural scale;
 *  undefined where they do not lie on one such curve. Source: the bilinear theorem of linear circuits, common textbook knowledge. */
function quotient(
  kind: Reading['measurement']['kind'],
  responses: readonly Response[],
  severities: readonly number[],
  left: number,
  share: number,
): number | undefined {
  const third = left + 2 < responses.length ? left + 2 : left - 1;
  if (third < 0) return undefined;
  const [s1, s2, s3] = [severities[left]!, severities[left + 1]!, severities[third]!];
  const [f1, f2, f3] = [responses[left]!.value, responses[left + 1]!.value, responses[third]!.value];
  if (!Number.isFinite(f3) || f1 === f2 || f3 === f1 || f3 === f2) return undefined;
  const s = s1 * (s2 / s1) ** share;
  // Cross ratio of four points, the same on both sides.
  const k = ((s - s1) * (s3 - s2)) / ((s - s2) * (s3 - s1));
  const m = (f3 - f2) / (f3 - f1);
  const value = (m * f1 - k * f2) / (m - k);
  const inside = value >= Math.min(f1, f2) && value <= Math.max(f1, f2);
  return inside ? scaledValue(kind, value) : undefined;
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
