import { Marks } from './marks';

/** Steps in which a reach falls. */
export const FALL = 4;

/**
 * What a current moves by less than this is left where it is, volt or ampere. With more, nodes that
 * only megohms hold go astray.
 */
const LEAST_EFFECT = 1e-8;
/**
 * What no current moves by as much does not count as moved: all of them together then move it by
 * less than anyone looks at.
 */
const LEAST_MOVE = 1e-6;

/** How the unknowns of a known circuit answer to one ampere into one of them. */
interface Responses {
  column(unknown: number): Float64Array;
  /** Those it moves most first, none by more than FALL times one before it. */
  reach(unknown: number): Int32Array;
}

/** What currents into a known circuit move. Its lists are working memory: one search at a time. */
export class Movement {
  /**
   * Unknowns that are not exactly where they were, and those among them that count as moved: the
   * first so many of each list.
   */
  readonly touched: Int32Array;
  touchedCount = 0;
  readonly moved: Int32Array;
  movedCount = 0;
  private readonly isTouched: Marks;
  private readonly isMoved: Marks;

  constructor(
    private readonly known: Responses,
    size: number,
  ) {
    this.touched = new Int32Array(size);
    this.moved = new Int32Array(size);
    this.isTouched = new Marks(size);
    this.isMoved = new Marks(size);
  }

  begin(): void {
    this.touchedCount = this.movedCount = 0;
    this.isTouched.begin();
    this.isMoved.begin();
  }

  note(unknown: number): void {
    if (this.isTouched.add(unknown)) this.touched[this.touchedCount++] = unknown;
    if (this.isMoved.add(unknown)) this.moved[this.movedCount++] = unknown;
  }

  /** Adds what a current into an unknown does to x. */
  add(unknown: number, ampere: number, x: Float64Array): void {
    const { touched, moved, isTouched, isMoved } = this;
    const column = this.known.column(unknown);
    const reach = this.known.reach(unknown);
    const least = LEAST_EFFECT / (FALL * Math.abs(ampere));
    const far = LEAST_MOVE / Math.abs(ampere);
    for (let k = 0; k < reach.length; k += 1) {
      const i = reach[k]!;
      const response = column[i]!;
      const size = Math.abs(response);
      if (size < least) return;
      x[i] = x[i]! + ampere * response;
      if (isTouched.add(i)) touched[this.touchedCount++] = i;
      if (size >= far && isMoved.add(i)) moved[this.movedCount++] = i;
    }
  }
}

/** The unknowns of a known point that are elsewhere now. */
export function movedFrom(before: Float64Array, x: Float64Array): Int32Array {
  const moved = new Int32Array(before.length);
  let count = 0;
  for (let i = 0; i < before.length; i += 1)
    if (!(Math.abs(x[i]! - before[i]!) <= LEAST_MOVE)) moved[count++] = i;
  return moved.slice(0, count);
}
