import type { Difference } from './exchange';
import { isOpen } from './law-stamp';
import { Loose, MOST_OWN, type Tangent } from './loose';
import { looseNodeStart, loosePieces } from './loose-pieces';
import { across } from './operating-point';
import { MOST_PORTS, PieceAnswer, readPorts } from './piece';
import { MOVED_VOLT, type Known, type Vicinity } from './vicinity';

/** A search settles when its last step moved no unknown of the vicinity by more than this: absolute (volt or ampere) and as a share of itself. Newton converges
 *  quadratically: what is left is far less. */
const SETTLED = { absolute: 1e-7, relative: 1e-6 } as const;
/** While the vicinity grows so many times as much will do: a rough solution shows as well who else takes part. */
const ROUGH = 1e3;
const MOST_STEPS = 40;
/** Steps after which every other one is only half taken. */
const UNDAMPED = 12;
/** A piece whose current leaves its tangent by so much that it moves a node further than this joins the search, volt. */
const LEAVES_TANGENT_VOLT = 1e-4;
/** What a node is at least taken to look into where the difference or a piece of the vicinity may have let go of it, ohm. */
const LEAST_SOURCE_OHM = 1e5;
/** The same for a node that is stiff by feedback. */
const LEAST_REGULATED_OHM = 100;

const answer = new PieceAnswer();
const volts = new Float64Array(MOST_PORTS);

/** The same where a meter drives a current through a board that is off and shows a fraction of a volt. */
const LEAVES_TANGENT_DRIVEN = 1e-5;

/** An operating point found beside another, with the circuit linear about it. */
export interface NearPoint {
  /** Length size, then the nodes that only this circuit has. */
  readonly x: Float64Array;
  /** Ohms between two nodes. */
  sourceOhm(a: number, b: number): number;
  /** Unknowns for one ampere into a and out of b. As long as x. */
  response(a: number, b: number): Float64Array;
  /** The adjoint of the output v(a) - v(b): the solution of the transposed system. As long as x. */
  adjoint(a: number, b: number): Float64Array;
}

const NONE = { junctions: [], transistors: [], laws: [] } as const;
/** Nothing else. */
export const NO_DIFFERENCE: Difference = { conductances: [], gone: NONE, come: NONE, branches: [], extra: 0 };

/** The operating point of the circuit that differs so from the vicinity's, with the chips' drivers in these states. start: where to begin, default the vicinity's
 *  point. Undefined where too much is different for that. */
export function pointBeside(vicinity: Vicinity, difference: Difference, drives: Uint8Array, start?: Float64Array): NearPoint | undefined {
  const search = new VicinitySearch(vicinity, difference, drives, vicinity.x, LEAVES_TANGENT_VOLT, start);
  return search.run() ? search : undefined;
}

/** The operating point with `siemens` more (negative: less) between p and q and nothing else; undefined as for `pointBeside`. */
export function pointAfter(vicinity: Vicinity, p: number, q: number, siemens: number): NearPoint | undefined {
  return pointBeside(vicinity, { ...NO_DIFFERENCE, conductances: [{ a: p, b: q, siemens }] }, vicinity.drives);
}

/** The operating point of the circuit that differs so from the vicinity's, with a current driven into p and out of q; undefined as for `pointBeside`. */
export function pointDriven(vicinity: Vicinity, difference: Difference, p: number, q: number, ampere: number): NearPoint | undefined {
  const values = Float64Array.from(vicinity.x);
  const response = vicinity.column(p, q);
  for (let i = 0; i < values.length; i += 1) values[i] = values[i]! + ampere * response[i]!;
  const search = new VicinitySearch(vicinity, difference, vicinity.drives, values, LEAVES_TANGENT_DRIVEN);
  return search.run() ? search : undefined;
}

/** The search for one operating point near a known one: Newton over the few unknowns on which active pieces hang, all else on its tangent. Lives as long as the search. */
class VicinitySearch implements NearPoint {
  /** Where the search has come to; of all unknowns only after `widen`. */
  readonly x: Float64Array;
  private readonly loose: Loose;
  private readonly tangent: Tangent;
  private readonly taken: Uint8Array;
  /** In which round of widening each piece was last asked. */
  private readonly asked: Uint8Array;
  private round = 0;
  /** Unknowns that something may have let go of. */
  private readonly loosened: Uint8Array;

  /** values: the tangent's solution without any difference. leavesVolt: a piece that leaves its tangent by so much that it moves a node further joins the search. */
  constructor(
    private readonly vicinity: Vicinity,
    private readonly difference: Difference,
    private readonly drives: Uint8Array,
    values: Float64Array,
    private readonly leavesVolt: number,
    start: Float64Array = vicinity.x,
  ) {
    const { size } = vicinity.network;
    this.taken = new Uint8Array(vicinity.pieces.length);
    this.asked = new Uint8Array(vicinity.pieces.length);
    this.loosened = new Uint8Array(size);
    this.tangent = { values, column: (unknown) => vicinity.column(unknown) };
    const startOf = looseNodeStart(start, size, difference);
    this.x = new Float64Array(size + difference.extra);
    for (let i = 0; i < this.x.length; i += 1) this.x[i] = startOf(i);
    this.loose = new Loose(size, startOf);
  }

  /** Searches. False where too much takes part or the search does not settle. */
  run(): boolean {
    this.begin();
    const { loose, x, vicinity } = this;
    let rough = true;
    for (let step = 1; step <= MOST_STEPS; step += 1) {
      if (loose.unknowns.length > MOST_OWN) return false;
      const heldBack = loose.step(x, this.tangent, vicinity.x);
      if (heldBack === undefined) return false;
      if (!this.go(step, rough ? ROUGH : 1) || heldBack) continue;
      x.set(this.tangent.values);
      loose.spread(x);
      const grew = this.widen();
      if (!grew && !rough) return true;
      rough = grew;
    }
    return false;
  }

  sourceOhm(a: number, b: number): number {
    return across(this.response(a, b), a, b);
  }

  response(a: number, b: number): Float64Array {
    return this.corrected(this.vicinity.column(a, b), false, (unknown) => this.vicinity.column(unknown));
  }

  adjoint(a: number, b: number): Float64Array {
    return this.corrected(this.vicinity.adjoint(a, b), true, (unknown) => this.vicinity.adjoint(unknown, -1));
  }

  private corrected(known: Float64Array, transposed: boolean, column: (unknown: number) => Float64Array): Float64Array {
    const vector = new Float64Array(this.x.length);
    vector.set(known);
    this.loose.correct(vector, transposed, column);
    return vector;
  }

  /** Takes in what the difference and the drivers change. */
  private begin(): void {
    const { vicinity, difference, drives } = this;
    const { gone } = difference;
    for (const piece of loosePieces(difference, drives)) this.loose.add(piece);
    for (const { a, b, siemens } of difference.conductances) if (siemens < 0) this.loosen([a, b]);
    for (const { row } of difference.branches) this.loosen([row]);
    for (const list of [gone.junctions, gone.transistors, gone.laws]) for (const stamp of list) this.take(vicinity.pieceOf(stamp), false);
    for (let driver = 0; drives !== vicinity.drives && driver < drives.length; driver += 1) {
      if (drives[driver] === vicinity.drives[driver]) continue;
      for (const i of vicinity.switchedBy(driver)) {
        const { law, open } = vicinity.pieces[i]!;
        if (isOpen(law!, drives) !== open) this.take(i, !open);
      }
    }
  }

  private loosen(unknowns: Iterable<number>): void {
    for (const unknown of unknowns) if (unknown >= 0 && unknown < this.loosened.length) this.loosened[unknown] = 1;
  }

  private take(i: number, present: boolean): void {
    if (this.taken[i]) return;
    this.taken[i] = 1;
    const known = this.vicinity.pieces[i]!;
    this.loosen(known.piece.ports);
    if (known.open || present) this.loose.add(known.piece, known.open ? known : undefined, present);
  }

  /** Goes to where the last step leads; returns whether that is where it was. */
  private go(step: number, rough: number): boolean {
    const { x, loose } = this;
    const share = step > UNDAMPED && step % 2 === 0 ? 0.5 : 1;
    let settled = share === 1;
    loose.unknowns.forEach((unknown, k) => {
      const to = loose.valueOf(k);
      const way = to - x[unknown]!;
      if (!(Math.abs(way) <= rough * (SETTLED.absolute + SETTLED.relative * Math.abs(to)))) settled = false;
      x[unknown] = x[unknown]! + share * way;
    });
    return settled;
  }

  /** Takes in the pieces that have left their tangent. Returns whether there were any. */
  private widen(): boolean {
    const { vicinity, taken, asked, x } = this;
    const { slacks, around, x: before } = vicinity;
    const { nodeCount } = vicinity.network;
    this.round += 1;
    let added = false;
    for (let node = 0; node < nodeCount; node += 1) {
      const way = Math.abs(x[node]! - before[node]!);
      if (way <= MOVED_VOLT) continue;
      const places = around[node]!;
      for (let k = 0; k < places.length; k += 1) {
        const i = places[k]!;
        if (way <= slacks[i]!) break;
        if (taken[i] === 1 || asked[i] === this.round) continue;
        asked[i] = this.round;
        if (!this.leavesTangent(vicinity.pieces[i]!, x)) continue;
        this.take(i, true);
        added = true;
        if (this.loose.unknowns.length > MOST_OWN) return true;
      }
    }
    return added;
  }

  private leavesTangent({ piece, ampere, slope }: Known, x: Float64Array): boolean {
    const { ports } = piece;
    const before = this.vicinity.x;
    const width = ports.length;
    readPorts(piece, x, volts);
    piece.at(volts, answer);
    for (let r = 0; r < piece.feeds; r += 1) {
      const row = ports[r]!;
      if (row < 0) continue;
      let off = answer.ampere[r]! - ampere[r]!;
      for (let c = 0; c < width; c += 1) if (ports[c]! >= 0) off -= slope[r * width + c]! * (volts[c]! - before[ports[c]!]!);
      if (off === 0) continue;
      const source = this.vicinity.sourceOhm(row);
      const least = this.loosened[row] === 1 ? LEAST_SOURCE_OHM : piece.regulates ? LEAST_REGULATED_OHM : 0;
      if (Math.abs(off) * Math.max(source, least) > this.leavesVolt) return true;
    }
    return false;
  }
}
