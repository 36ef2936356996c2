/** One thing that is turned in a search. Degrees from where it was found. */
export interface Axis {
  readonly ref: string;
  readonly least: number;
  readonly most: number;
  readonly firstStep: number;
  /** Below this a step is not worth making. */
  readonly leastStep: number;
  /** Play in screw or wiper: it is always approached from below. */
  readonly backlash: number;
}

/** A setting that was tried, and how it did; larger is better. */
export interface Tried {
  readonly at: readonly number[];
  readonly score: number;
}

/** What to set next. moves: turns in order, with the play of each taken up; why: in words. */
export interface Proposal {
  readonly at: readonly number[];
  readonly moves: readonly { readonly ref: string; readonly degrees: number }[];
  readonly why: string;
}

type Point = readonly number[];
interface Ask {
  readonly at: Point;
  readonly why: string;
}
/** A search asks for the score of a point and is told. It ends where steps are too small. */
type Search = Generator<Ask, void, number>;

/** Points that are the same setting, degrees. */
const SAME_DEGREES = 0.75;
/** Settings in a row that were tried already, at most: no search is longer. */
const MOST_KNOWN = 500;
/** Shares of the simplex: reflection, expansion, contraction, shrinking. Source: Nelder and Mead, The Computer Journal 7, 1965. */
const REFLECT = 1;
const EXPAND = 2;
const CONTRACT = 0.5;
const SHRINK = 0.5;

const held = (axes: readonly Axis[], at: Point): Point =>
  axes.map(({ least, most }, i) => Math.min(most, Math.max(least, at[i]!)));
const isSame = (a: Point, b: Point): boolean =>
  a.every((value, i) => Math.abs(value - b[i]!) < SAME_DEGREES);

/** One axis after the other, on while it gets better, then the other way; then smaller steps. */
function* byAxis(
  axes: readonly Axis[],
  start: Tried,
  step: number[],
): Generator<Ask, Tried, number> {
  let best = start;
  let better = true;
  while (better) {
    better = false;
    for (let axis = 0; axis < axes.length; axis += 1)
      for (const way of [1, -1]) {
        let moved = false;
        for (;;) {
          const at = held(
            axes,
            best.at.map((value, i) => (i === axis ? value + way * step[axis]! : value)),
          );
          if (isSame(at, best.at)) break;
          const score = yield {
            at,
            why: moved
              ? `${axes[axis]!.ref} on the same way: it got better`
              : `${axes[axis]!.ref} ${way > 0 ? 'one step on' : 'the other way'}, the rest as it is best`,
          };
          if (score <= best.score) break;
          best = { at, score };
          moved = true;
          better = true;
        }
        if (moved) break;
      }
  }
  return best;
}

/** A simplex of n + 1 settings that crawls uphill and shrinks. */
function* bySimplex(axes: readonly Axis[], start: Tried, step: number[]): Search {
  const corners: Tried[] = [start];
  for (let axis = 0; axis < axes.length; axis += 1) {
    let at = held(
      axes,
      start.at.map((value, i) => (i === axis ? value + step[axis]! : value)),
    );
    if (isSame(at, start.at))
      at = held(
        axes,
        start.at.map((value, i) => (i === axis ? value - step[axis]! : value)),
      );
    corners.push({ at, score: yield { at, why: `corner of a simplex: ${axes[axis]!.ref} aside` } });
  }
  const wide = (): boolean =>
    corners.some(({ at }) =>
      at.some((value, i) => Math.abs(value - corners[0]!.at[i]!) > axes[i]!.leastStep),
    );
  while (wide()) {
    corners.sort((a, b) => b.score - a.score);
    const worst = corners.at(-1)!;
    const rest = corners.slice(0, -1);
    const centre = axes.map((_, i) => rest.reduce((sum, { at }) => sum + at[i]!, 0) / rest.length);
    const along = (share: number): Point =>
      held(
        axes,
        centre.map((value, i) => value + share * (value - worst.at[i]!)),
      );
    const mirrored = along(REFLECT);
    const score = yield { at: mirrored, why: 'away from the worst of the last settings' };
    if (score > corners[0]!.score) {
      const far = along(EXPAND);
      const farScore = yield { at: far, why: 'further the same way: it got better' };
      corners[corners.length - 1] =
        farScore > score ? { at: far, score: farScore } : { at: mirrored, score };
      continue;
    }
    if (score > rest.at(-1)!.score) {
      corners[corners.length - 1] = { at: mirrored, score };
      continue;
    }
    const near = along(score > worst.score ? CONTRACT : -CONTRACT);
    const nearScore = yield { at: near, why: 'between: the way out was no better' };
    if (nearScore > Math.max(score, worst.score)) {
      corners[corners.length - 1] = { at: near, score: nearScore };
      continue;
    }
    for (let i = 1; i < corners.length; i += 1) {
      const at = held(
        axes,
        corners[i]!.at.map(
          (value, k) => corners[0]!.at[k]! + SHRINK * (value - corners[0]!.at[k]!),
        ),
      );
      corners[i] = { at, score: yield { at, why: 'closer around the best' } };
    }
  }
}

/** Coordinate steps until no step of one alone helps, then the simplex for what they do together. */
function* search(axes: readonly Axis[], start: Tried): Search {
  const step = axes.map(({ firstStep }) => firstStep);
  const best = yield* byAxis(axes, start, step);
  if (axes.length > 1)
    yield* bySimplex(
      axes,
      best,
      step.map((one) => one / 2),
    );
  else {
    let at = best;
    for (let size = step[0]! / 2; size >= axes[0]!.leastStep; size /= 2)
      at = yield* byAxis(axes, at, [size]);
  }
}

/**
 * What to set next, from all that was tried so far. The same history gives the same proposal, so it
 * survives a reload. What a person set on their own counts: the search goes on from the best.
 * Undefined where steps have become too small to be worth making.
 * @param tried in the order tried; the first is how it was found
 * @param now where it stands, degrees
 */
export function nextSetting(
  axes: readonly Axis[],
  tried: readonly Tried[],
  now: readonly number[],
): Proposal | undefined {
  const [first] = tried;
  if (!first || axes.length === 0) return undefined;
  let best = first;
  let running = search(axes, first);
  let asked = running.next();
  const passed: Tried[] = [first];
  const skipKnown = (): void => {
    // A setting that is asked for again has its score already.
    for (let i = 0; i < MOST_KNOWN && !asked.done; i += 1) {
      const { at } = asked.value;
      const one = passed.find((other) => isSame(other.at, at));
      if (!one) return;
      asked = running.next(one.score);
    }
  };
  for (const one of tried.slice(1)) {
    skipKnown();
    passed.push(one);
    if (one.score > best.score) best = one;
    if (!asked.done && isSame(asked.value.at, one.at)) asked = running.next(one.score);
    else {
      running = search(axes, best);
      asked = running.next();
    }
  }
  skipKnown();
  if (asked.done) return undefined;
  const { at, why } = asked.value;
  return { at, why, moves: movesTo(axes, now, at) };
}

/** Turns from one setting to another. Down goes past by the play and comes up again. */
export function movesTo(
  axes: readonly Axis[],
  from: readonly number[],
  to: readonly number[],
): Proposal['moves'] {
  return axes.flatMap(({ ref, backlash }, i) => {
    const by = to[i]! - from[i]!;
    if (Math.abs(by) < SAME_DEGREES) return [];
    return by < 0 && backlash > 0
      ? [
          { ref, degrees: by - backlash },
          { ref, degrees: backlash },
        ]
      : [{ ref, degrees: by }];
  });
}

/** The best of what was tried; undefined where nothing was. */
export function bestOf(tried: readonly Tried[]): Tried | undefined {
  return tried.reduce<Tried | undefined>(
    (best, one) => (best === undefined || one.score > best.score ? one : best),
    undefined,
  );
}
