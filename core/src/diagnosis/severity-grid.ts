import type { Hypothesis } from '../fault';
import { type Reading, type Response } from '../instrument';
import { logLikelihood, scaled, scaledValue, type Scaled } from './likelihood';

/** Steps into which the way from one solved severity to the next is divided. */
const STEPS = 8;

/**
 * Number of points at which belief looks at a hypothesis: its severities, and the steps between
 * them where they are points of a range.
 */
export function gridSize({
  severities,
  discrete,
}: Pick<Hypothesis, 'severities' | 'discrete'>): number {
  return discrete || severities.length === 1
    ? severities.length
    : (severities.length - 1) * STEPS + 1;
}

/**
 * Log-likelihood of one reading at every point of the severity grid (length gridSize). Between
 * solved severities the prediction is interpolated, and the width of a step counts as
 * uncertainty, so that a severity between two points is not missed. responses: one per severity, or
 * a single one where severity does not matter to this reading.
 */
export function gridLikelihood(
  reading: Reading,
  responses: readonly Response[],
  severities: readonly number[],
  size: number,
  voltSpan: number,
): Float64Array {
  const { kind } = reading.measurement;
  const out = new Float64Array(size);
  if (responses.length === 1)
    return out.fill(logLikelihood(kind, reading.value, scaled(kind, responses[0]!), voltSpan));
  const points =
    responses.length === size
      ? responses.map((response) => scaled(kind, response))
      : between(kind, responses, severities, size);
  return out.map((_, i) => logLikelihood(kind, reading.value, points[i]!, voltSpan));
}

/** Points of the fine grid in each of the two steps about a peak. */
export const FINE = 12;
/**
 * What interpolation between two solved severities may be off, as a share of how far they are apart
 * on the natural scale.
 */
const INTERPOLATION_ERROR = 0.003;

/**
 * Log-likelihood of one reading about one point of the grid, at FINE points in the step before it
 * and as many in the step after it: as `gridLikelihood`, but so finely that several readings can
 * agree on one severity.
 */
export function fineLikelihood(
  reading: Reading,
  responses: readonly Response[],
  severities: readonly number[],
  point: number,
  voltSpan: number,
): Float64Array {
  const { kind } = reading.measurement;
  const out = new Float64Array(2 * FINE);
  if (responses.length === 1)
    return out.fill(logLikelihood(kind, reading.value, scaled(kind, responses[0]!), voltSpan));
  const points = responses.map((response) => scaled(kind, response));
  const last = (severities.length - 1) * STEPS;
  return out.map((_, f) => {
    const at = Math.min(last, Math.max(0, point - 1 + (f + 0.5) / FINE));
    const left = Math.min(Math.floor(at / STEPS), points.length - 2);
    const share = at / STEPS - left;
    const [a, b] = [points[left]!, points[left + 1]!];
    const answer =
      at === left * STEPS
        ? a
        : at === (left + 1) * STEPS
          ? b
          : interpolated(kind, responses, severities, points, left, share);
    const apart = a.overload || b.overload ? 0 : Math.abs(b.y - a.y);
    return logLikelihood(
      kind,
      reading.value,
      {
        ...answer,
        sigma: Math.hypot(
          answer.sigma,
          apart * (INTERPOLATION_ERROR + 1 / (STEPS * FINE * Math.sqrt(12))),
        ),
      },
      voltSpan,
    );
  });
}

/** A prediction between two solved severities. */
function interpolated(
  kind: Reading['measurement']['kind'],
  responses: readonly Response[],
  severities: readonly number[],
  points: readonly Scaled[],
  left: number,
  share: number,
): Scaled {
  const [a, b] = [points[left]!, points[left + 1]!];
  if (a.overload || b.overload || a.pulsing !== b.pulsing || a.unknown || b.unknown)
    return share < 0.5 ? a : b;
  // A beep knows no ohms between: it goes by the nearer of the two.
  if (kind === 'continuity') return share < 0.5 ? a : b;
  const y = kind === 'esr' ? undefined : quotient(kind, responses, severities, left, share);
  return {
    y: y ?? a.y + share * (b.y - a.y),
    sigma: a.sigma + share * (b.sigma - a.sigma),
    overload: false,
    pulsing: a.pulsing,
  };
}

/**
 * ln of the mean of exp(total) over the grid, with the two steps about its peak taken from the fine
 * grid instead. total, fine: summed over the readings.
 */
export function logMeanRefined(total: Float64Array, point: number, fine: Float64Array): number {
  const top = Math.max(logMeanExp(total), ...fine);
  let sum = 0;
  for (let i = 0; i < total.length; i += 1)
    if (Math.abs(i - point) > 1) sum += Math.exp(total[i]! - top);
  // The two neighbours keep the half of their step that lies outside; the fine grid stands for the
  // two steps between them.
  for (const i of [point - 1, point + 1])
    if (i >= 0 && i < total.length) sum += 0.5 * Math.exp(total[i]! - top);
  for (const value of fine) sum += Math.exp(value - top) / FINE;
  return top + Math.log(sum / total.length);
}

/** Predictions at every point of the grid. */
function between(
  kind: Reading['measurement']['kind'],
  responses: readonly Response[],
  severities: readonly number[],
  size: number,
): readonly Scaled[] {
  const points = responses.map((response) => scaled(kind, response));
  const at = Array.from({ length: size }, (_, i): Scaled => {
    const left = Math.min(Math.floor(i / STEPS), points.length - 2);
    const share = (i - left * STEPS) / STEPS;
    const a = points[left]!;
    return share === 0 ? a : interpolated(kind, responses, severities, points, left, share);
  });
  // Each point stands for half a step to either side.
  return at.map((point, i) => {
    const [before, next] = [at[i - 1] ?? point, at[i + 1] ?? point];
    if (kind === 'continuity' || point.overload || before.overload || next.overload) return point;
    return {
      ...point,
      sigma: Math.hypot(point.sigma, Math.abs(next.y - before.y) / 2 / Math.sqrt(12)),
    };
  });
}

/**
 * Of a linear circuit every reading is a quotient of two straight lines of one changed conductance
 * (or of its inverse): three solved severities give all of it. On the natural scale;
 * undefined where they do not lie on one such curve. Source: the bilinear theorem of linear
 * circuits, common textbook knowledge.
 */
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
  const [f1, f2, f3] = [
    responses[left]!.value,
    responses[left + 1]!.value,
    responses[third]!.value,
  ];
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
