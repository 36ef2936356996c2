import type { Hypothesis } from '../fault';
import type { Reading } from '../instrument';
import type { Joint } from './joints';
import { EsrLevels } from './esr-levels';
import { addTo, ReadingRows, type LikelihoodRow } from './reading-rows';
import { gridSize } from './severity-grid';

/**
 * Readings that share an unknown level, put together for one belief: they are not independent of
 * one another, so they count together. The row of one of them alone is what it adds to the others.
 * Lives as long as one belief is worked out.
 */
export class SharedLevels {
  private readonly groups: readonly (readonly number[])[];
  private readonly groupAt = new Map<number, readonly number[]>();
  private readonly tables: ReadonlyMap<number, ReturnType<EsrLevels['tables']>>;

  /**
   * guesses: how many guesses at the edges of the sheet stand beside each severity; a level is the
   * same under all of them.
   */
  constructor(
    private readonly levels: EsrLevels,
    readings: readonly Reading[],
    private readonly singles: readonly Hypothesis[],
    private readonly guesses: number,
    /** The singles that speak of the board and not of its sheet: the first of them all. */
    ownSingles = singles,
  ) {
    this.groups = levels.grouped(readings);
    for (const group of this.groups) for (const r of group) this.groupAt.set(r, group);
    this.tables = new Map(
      [...this.groupAt.keys()].map((r) => [r, levels.tables(readings[r]!, ownSingles)]),
    );
  }

  /** Whether a reading shares a level. */
  has(r: number): boolean {
    return this.groupAt.has(r);
  }

  /**
   * Rows of a reading that shares a level: what it adds to the other readings of its group.
   * Undefined for any other.
   */
  rowsOf(r: number): ReadingRows | undefined {
    const group = this.groupAt.get(r);
    if (!group) return undefined;
    const rows = new ReadingRows(this.spread(this.added(group, r, undefined, 1), 1));
    const seen = new Set(group.flatMap((one) => [...this.tables.get(one)!.moved.keys()]));
    this.singles.forEach((hypothesis, h) => {
      const size = gridSize(hypothesis);
      rows.push(
        seen.has(h)
          ? this.spread(this.added(group, r, h, size), size)
          : rows.unmoved(size * this.guesses),
      );
    });
    return rows;
  }

  /**
   * Adds what all groups say to a total over the severities of a hypothesis (undefined: the sound
   * board), in place.
   */
  add(total: LikelihoodRow, h: number | undefined): LikelihoodRow {
    const size = total.length / this.guesses;
    for (const group of this.groups) addTo(total, this.spread(this.together(group, h, size), size));
    return total;
  }

  /** The same for several faults at once, at the severities that the readings speak for. */
  addJoint(total: LikelihoodRow, joint: Joint): LikelihoodRow {
    for (const group of this.groups)
      addTo(total, this.spread(this.togetherWithAll(group, joint), 1));
    return total;
  }

  /**
   * What a reading adds to the others of its group under several faults; undefined where it shares
   * no level.
   */
  jointRow(joint: Joint, r: number): LikelihoodRow | undefined {
    const group = this.groupAt.get(r);
    if (!group) return undefined;
    const others = group.filter((one) => one !== r);
    return this.spread(
      difference(this.togetherWithAll(group, joint), this.togetherWithAll(others, joint)),
      1,
    );
  }

  private added(
    group: readonly number[],
    r: number,
    h: number | undefined,
    size: number,
  ): LikelihoodRow {
    const others = group.filter((one) => one !== r);
    return difference(this.together(group, h, size), this.together(others, h, size));
  }

  private together(group: readonly number[], h: number | undefined, size: number): LikelihoodRow {
    return this.levels.together(
      group.map((r) => this.tableOf(r, h)),
      size,
    );
  }

  private togetherWithAll(
    group: readonly number[],
    { hypothesis, positions, peaks }: Joint,
  ): LikelihoodRow {
    const tables = group.map((r) => {
      // A reading that one of them moves is that one's; what several move is left to the first.
      const by = positions.findIndex((h) => this.tables.get(r)!.moved.has(h));
      if (by < 0) return this.tables.get(r)!.healthy;
      return EsrLevels.at(
        this.tableOf(r, positions[by]),
        peaks[by]! % gridSize(hypothesis.members[by]!),
      );
    });
    return this.levels.together(tables, 1);
  }

  private tableOf(r: number, h: number | undefined): Float64Array {
    const { healthy, moved } = this.tables.get(r)!;
    return (h === undefined ? undefined : moved.get(h)) ?? healthy;
  }

  /** The same for every guess at the edges. */
  private spread(row: LikelihoodRow, size: number): LikelihoodRow {
    if (this.guesses === 1) return row;
    const out = new Float64Array(size * this.guesses);
    for (let k = 0; k < this.guesses; k += 1) out.set(row, k * size);
    return out;
  }
}

function difference(one: LikelihoodRow, other: LikelihoodRow): LikelihoodRow {
  return one.map((value, i) => value - other[i]!);
}
