import { normalBelow } from '../quantity';
import type { Scaled } from '../diagnosis';

/** Anything that predicts a reading; undefined where it predicts none. */
interface Predicting {
  readonly predicted: Scaled | undefined;
}

const MAX_BINS = 40;
/**
 * Two predictions nearer than this share of the sum of their standard deviations lie in one bin.
 */
const SEPARATION = 0.5;

/** So many standard deviations from a boundary nothing of a prediction is beyond it. */
const FAR = 5;

/** Gives each bin its share of one prediction. The last bin is OL. */
export function spread(
  { y, sigma, overload }: Scaled,
  cuts: readonly number[],
  chances: Float64Array,
): void {
  chances.fill(0, 0, cuts.length + 2);
  if (overload) {
    chances[cuts.length + 1] = 1;
    return;
  }
  const width = Math.max(sigma, 1e-9);
  let below = 0;
  for (let bin = 0; bin <= cuts.length; bin += 1) {
    const z = bin === cuts.length ? Infinity : (cuts[bin]! - y) / width;
    if (z < -FAR) continue;
    const upTo = z > FAR ? 1 : normalBelow(z);
    if (upTo - below > 1e-6) chances[bin] = upTo - below;
    below = upTo;
    if (below > 1 - 1e-6) return;
  }
}

/**
 * Whether all predictions lie so near to one another that there is no boundary between them: so it
 * is with most readings.
 */
function areTogether(outlooks: readonly Predicting[]): boolean {
  let [least, most, sigma] = [Infinity, -Infinity, Infinity];
  for (let o = 0; o < outlooks.length; o += 1) {
    const { predicted } = outlooks[o]!;
    if (!predicted || predicted.overload) continue;
    least = Math.min(least, predicted.y);
    most = Math.max(most, predicted.y);
    sigma = Math.min(sigma, predicted.sigma);
  }
  return !(most - least > 2 * SEPARATION * Math.max(sigma, 1e-12));
}

const byPlace = (one: Scaled, other: Scaled): number => one.y - other.y;

/**
 * Boundaries between groups of predictions, ascending, at most MAX_BINS - 1: those with the widest
 * gaps.
 */
export function cutsBetween(outlooks: readonly Predicting[]): number[] {
  if (areTogether(outlooks)) return [];
  const points: Scaled[] = [];
  for (let o = 0; o < outlooks.length; o += 1) {
    const { predicted } = outlooks[o]!;
    if (predicted && !predicted.overload && predicted !== points.at(-1)) points.push(predicted);
  }
  points.sort(byPlace);
  const cuts: number[] = [];
  const widths: number[] = [];
  for (let i = 1; i < points.length; i += 1) {
    const [left, right] = [points[i - 1]!, points[i]!];
    const total = Math.max(left.sigma + right.sigma, 1e-12);
    const width = (right.y - left.y) / total;
    if (width <= SEPARATION) continue;
    cuts.push((left.y * right.sigma + right.y * left.sigma) / total);
    widths.push(width);
  }
  if (cuts.length < MAX_BINS) return cuts;
  const least = [...widths].sort((a, b) => b - a)[MAX_BINS - 2]!;
  return cuts.filter((_, i) => widths[i]! >= least).slice(0, MAX_BINS - 1);
}
