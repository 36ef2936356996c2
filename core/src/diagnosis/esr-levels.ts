import { indexBoard, nameKey, type BoardIndex, type Part } from '../board';
import { typicalEsrOhm } from '../device';
import type { Hypothesis } from '../fault';
import { answerKey, type Reading } from '../instrument';
import { Predictor } from './prediction';
import { gridLikelihood, gridSize } from './severity-grid';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/**
 * Where the healthy ESR of parts may lie whose sheet does not state it, as ln of a factor on what
 * is usual for their size. Far below it, low-impedance series are sold; far above it, nothing
 * healthy lies. From memory of data sheets of several makes.
 */
const LEVELS = Array.from({ length: 16 }, (_, i) => -3.4 + 0.33 * i);
/** Spread of what lies above the usual, ln; below it every level is as likely as another. */
const ABOVE_SPREAD = 0.8;
const LOG_WEIGHTS = logWeights();

function logWeights(): readonly number[] {
  const weights = LEVELS.map((level) =>
    level <= 0 ? 1 : Math.exp(-0.5 * (level / ABOVE_SPREAD) ** 2),
  );
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((weight) => Math.log(weight / sum));
}

/**
 * One reading under one hypothesis: its log-likelihood at each severity (rows) and each level
 * (columns).
 */
type Table = Float64Array;

/** One reading under everything. */
interface Tables {
  readonly healthy: Table;
  /** By the position of the hypothesis; those that do not move the reading are left out. */
  readonly moved: ReadonlyMap<number, Table>;
}

interface Level {
  readonly index: BoardIndex;
  readonly predictor: Predictor;
  readonly singles: readonly Hypothesis[];
}

/**
 * The healthy ESR of like parts is not printed anywhere, but it is one for all of them: an unknown
 * level that readings teach. So a better reading never convicts, and brothers convict the one that
 * is out of line. Lives as long as a board is being worked on.
 */
export class EsrLevels {
  static readonly count = LEVELS.length;
  static readonly logWeights = LOG_WEIGHTS;
  private readonly groups: ReadonlyMap<string, string>;
  private ownLevels: readonly Level[] | undefined;
  private readonly known = new Map<string, Tables>();

  /**
   * drawn: the board with every unstated ESR as usual. singlesOf: the single hypotheses of a board,
   * in the order of this one's.
   */
  constructor(
    private readonly index: BoardIndex,
    private readonly drawn: Predictor,
    private readonly voltSpan: number,
    private readonly singlesOf: (index: BoardIndex) => readonly Hypothesis[],
  ) {
    const unstated = index.board.parts.filter(
      (part): part is Capacitor => part.kind === 'capacitor' && part.esrOhm === undefined,
    );
    this.groups = new Map(unstated.map((part) => [part.ref, groupOf(part)]));
  }

  /** The board at each level, made at the first reading that asks for them. */
  private get levels(): readonly Level[] {
    return (this.ownLevels ??= LEVELS.map((level): Level => {
      const board = atLevel(this.index, level);
      return { predictor: new Predictor(board), singles: this.singlesOf(board), index: board };
    }));
  }

  /** The group whose level a reading speaks of; undefined where it speaks of none. */
  groupOf({ measurement: m, absent = [] }: Reading): string | undefined {
    if (m.kind !== 'esr' || this.groups.size === 0) return undefined;
    const off = new Set(absent.map(nameKey));
    const own = m.at.pin?.part ?? m.to.pin?.part;
    const ends = [m.at.net, m.to.net].map(nameKey).sort().join(' ');
    const between = this.index.board.parts.filter(
      (part): part is Capacitor =>
        part.kind === 'capacitor' &&
        !off.has(nameKey(part.ref)) &&
        part.pins.map(nameKey).sort().join(' ') === ends,
    );
    // Of several in parallel the largest has the say.
    const part =
      between.find((one) => one === own) ??
      [...between].sort((a, b) => b.capacitanceFarad - a.capacitanceFarad)[0];
    return part && this.groups.get(part.ref);
  }

  /** Readings that share a level, as positions, by group. */
  grouped(readings: readonly Reading[]): readonly (readonly number[])[] {
    const found = new Map<string, number[]>();
    readings.forEach((reading, r) => {
      const group = this.groupOf(reading);
      if (group !== undefined) found.set(group, [...(found.get(group) ?? []), r]);
    });
    return [...found.values()];
  }

  /**
   * Log-likelihood of readings of one group together at every severity, the level summed over.
   * tableOf: the table of each reading, of `size` rows or of one.
   */
  together(tables: readonly Table[], size: number): Float64Array {
    const out = new Float64Array(size);
    const count = LEVELS.length;
    const sums = new Float64Array(count);
    for (let i = 0; i < size; i += 1) {
      let top = -Infinity;
      for (let l = 0; l < count; l += 1) {
        let sum = LOG_WEIGHTS[l]!;
        for (const table of tables) sum += table[(table.length > count ? i * count : 0) + l]!;
        sums[l] = sum;
        if (sum > top) top = sum;
      }
      let total = 0;
      for (let l = 0; l < count; l += 1) total += Math.exp(sums[l]! - top);
      out[i] = top + Math.log(total);
    }
    return out;
  }

  /** What a reading says under some of the hypotheses, by their position. Not kept. */
  tablesOf(reading: Reading, singles: readonly Hypothesis[], only: readonly number[]): Tables {
    return this.find(reading, singles, only);
  }

  /** What a reading says under each single hypothesis, worked out once. */
  tables(reading: Reading, singles: readonly Hypothesis[]): Tables {
    const key = `${answerKey(reading.measurement)}|${reading.value}|${reading.absent?.join() ?? ''}`;
    let known = this.known.get(key);
    if (!known) this.known.set(key, (known = this.find(reading, singles, [...singles.keys()])));
    return known;
  }

  private find(reading: Reading, singles: readonly Hypothesis[], only: readonly number[]): Tables {
    const { measurement: m, absent } = reading;
    const count = LEVELS.length;
    const healthy = new Float64Array(count);
    this.levels.forEach(
      ({ predictor }, l) =>
        (healthy[l] = gridLikelihood(
          reading,
          [predictor.healthy(m, absent)],
          [1],
          1,
          this.voltSpan,
        )[0]!),
    );
    const sound = this.drawn.healthy(m, absent);
    const moved = new Map<number, Table>();
    for (const h of only) {
      const hypothesis = singles[h]!;
      if (this.drawn.under(hypothesis, m, absent).every((response) => response === sound)) continue;
      const size = gridSize(hypothesis);
      const table = new Float64Array(size * count);
      this.levels.forEach(({ predictor, singles: own }, l) => {
        const column = gridLikelihood(
          reading,
          predictor.under(own[h]!, m, absent),
          hypothesis.severities,
          size,
          this.voltSpan,
        );
        for (let i = 0; i < size; i += 1) table[i * count + l] = column[i]!;
      });
      moved.set(h, table);
    }
    return { healthy, moved };
  }

  /** The row of a table at one severity. */
  static at(table: Table, i: number): Table {
    return table.length > LEVELS.length
      ? table.subarray(i * LEVELS.length, (i + 1) * LEVELS.length)
      : table;
  }
}

/** Parts that are like one another: kind, value and volts. */
function groupOf({ ref, unknown, dielectric, capacitanceFarad, ratedVolt }: Capacitor): string {
  if (unknown) return `? ${ref}`;
  return `${dielectric ?? ''} ${capacitanceFarad} ${ratedVolt ?? ''}`;
}

/** The board with every unstated ESR at a level. */
function atLevel(index: BoardIndex, level: number): BoardIndex {
  const parts = index.board.parts.map((part) =>
    part.kind === 'capacitor' && part.esrOhm === undefined
      ? { ...part, esrOhm: typicalEsrOhm(part) * Math.exp(level) }
      : part,
  );
  return indexBoard({ ...index.board, parts });
}
