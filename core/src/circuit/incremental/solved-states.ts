import { differing } from '../levels';

/** Most points that are kept. */
const MOST_KEPT = 24;

/** A point with the states of the drivers that it belongs to. */
export interface Point {
  readonly drives: Uint8Array;
  readonly x: Float64Array;
}

/**
 * Operating points of whole searches over boards that are all nearly one, by what their drivers do:
 * a board whose drivers do almost the same comes to almost the same.
 */
export class SolvedStates {
  private readonly points: Point[] = [];
  private next = 0;

  /** x: not to change any more. */
  note(drives: Uint8Array, x: Float64Array): void {
    this.points[this.next] = { drives, x };
    this.next = (this.next + 1) % MOST_KEPT;
  }

  /**
   * The point with the fewest drivers in other states than these, which have to be fewer than so
   * many; undefined where there is none.
   */
  nearest(drives: Uint8Array, fewerThan: number): Point | undefined {
    let least = fewerThan;
    let found: Point | undefined;
    for (const point of this.points) {
      const count = differing(point.drives, drives, least);
      if (count >= least) continue;
      least = count;
      found = point;
    }
    return found;
  }
}
