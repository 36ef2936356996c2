import {
  indexBoard,
  nameKey,
  parseFuse,
  replaceableRef,
  type Board,
  type BoardIndex,
  type Setup,
} from '../board';
import { parseFaultState, type FaultState } from '../fault';
import {
  BenchState,
  resolveMeasurement,
  type Measurement,
  type MeterProfile,
  type Response,
} from '../instrument';

/**
 * A fuse opens above this many times its rating. Source: IEC 60127-2 has all of its sheets open at
 * 2.1 times and more within half an hour.
 */
const BLOWS_AT = 2.1;
/** A fuse without a rating is taken to be sized so many times above what the board draws. */
const UNRATED_MARGIN = 3;
/** No smaller fuse is made for a control board, A. From memory of bench practice. */
const SMALLEST_FUSE = 0.1;
/** How often a supply is turned down until it is within its limit. */
const LIMIT_STEPS = 20;

/**
 * The board on a simulated bench: what is wrong with it, what is plugged, and what its mistakes have
 * done to it. Everything is by name, because a turned-down supply makes another board of it.
 */
export class BenchBoard {
  private faults: readonly string[];
  private absent: readonly string[] = [];
  private isOn = false;
  private solved: { readonly index: BoardIndex; readonly state: BenchState } | undefined;
  private readonly ratings: ReadonlyMap<string, number>;
  /** What has happened to the board by itself, oldest first. */
  readonly events: string[] = [];

  /**
   * board: with the values that its parts really have. faults: names, with a severity if need be
   * (`C3:high-esr=5`).
   *
   * @throws Error where a fault is none of this board's.
   */
  constructor(
    private readonly board: Board,
    faults: readonly string[],
    private setup: Setup,
    private limitAmpere = Infinity,
  ) {
    this.faults = faults;
    const index = indexBoard(board);
    faultStates(index, faults);
    this.ratings = fuseRatings(index);
  }

  get index(): BoardIndex {
    return this.now().index;
  }

  get isPowered(): boolean {
    return this.isOn;
  }

  get setupName(): Setup {
    return this.setup;
  }

  /** Names of what is wrong with it now, hidden and happened. */
  get wrong(): readonly string[] {
    return this.faults;
  }

  get supplyLimit(): number {
    return this.limitAmpere;
  }

  power(on: boolean): void {
    this.isOn = on;
    this.changed();
  }

  putInto(setup: Setup): void {
    this.setup = setup;
    this.changed();
  }

  limitSupply(ampere: number): void {
    this.limitAmpere = ampere;
    this.changed();
  }

  unplug(ref: string): void {
    this.absent = [...this.absent, replaceableRef(ref)];
    this.changed();
  }

  plug(ref: string): void {
    const gone = nameKey(replaceableRef(ref));
    this.absent = this.absent.filter((other) => nameKey(other) !== gone);
    this.changed();
  }

  /** A fault more: a lifted leg, a bridge. @throws Error where the board cannot have it. */
  spoil(fault: string): void {
    faultStates(this.index, [fault]);
    this.faults = [...this.faults, fault];
    this.changed();
  }

  /** Takes a fault off again by its name; whether it was there. */
  undo(fault: string): boolean {
    const left = this.faults.filter((name) => nameKey(name) !== nameKey(fault));
    const was = left.length < this.faults.length;
    this.faults = left;
    this.changed();
    return was;
  }

  /** A good part in the place of this one. */
  replace(ref: string): void {
    const key = nameKey(replaceableRef(ref));
    this.faults = this.faults.filter((name) => {
      const place = name.slice(0, name.lastIndexOf(':'));
      return place.includes('~') || nameKey(replaceableRef(place)) !== key;
    });
    this.changed();
  }

  /** What the board does while two nets are joined for a moment, as by a slipped probe. */
  bridgeForAMoment(a: string, b: string): void {
    if (!this.isOn) return;
    const before = this.faults;
    const name = `${a}~${b}:bridge`;
    this.faults = [...before, name];
    this.changed();
    // What blew stays blown; the bridge goes.
    this.faults = this.faults.filter((fault) => fault !== name);
    this.changed();
  }

  /**
   * What a meter would answer; undefined where the circuit has no answer. meter: where it is not the
   * standard one.
   */
  respond(kind: string, at: string, to: string, meter?: MeterProfile): Response | undefined {
    const { index, state } = this.now();
    const m = this.measurement(index, kind, at, to);
    if (!m) return undefined;
    const response = state.respond(meter ? { ...m, meter } : m);
    return 'ok' in response ? undefined : response;
  }

  /** Volts that stand between two points at this moment, whatever is measured. */
  volts(at: string, to: string): number {
    return this.isOn ? (this.respond('voltage', at, to)?.value ?? 0) : 0;
  }

  /** Amperes that the supplies give, added up without their signs. */
  drawn(): number {
    if (!this.isOn) return 0;
    return supplies(this.board).reduce((sum, ref) => sum + this.through(ref), 0);
  }

  private measurement(
    index: BoardIndex,
    kind: string,
    at: string,
    to: string,
  ): Measurement | undefined {
    const wanted = this.isOn ? this.setup : 'off';
    const resolved = resolveMeasurement(index, wanted, kind, at, to);
    return resolved.ok ? resolved.measurement : undefined;
  }

  private through(ref: string): number {
    return Math.abs(this.respond('current', ref, '')?.value ?? 0);
  }

  private now(): { readonly index: BoardIndex; readonly state: BenchState } {
    return (this.solved ??= this.solve(1));
  }

  /** supplyShare: what is left of every supply's volts, 0 to 1. */
  private solve(supplyShare: number): {
    readonly index: BoardIndex;
    readonly state: BenchState;
  } {
    const parts = this.board.parts.map((part) =>
      part.kind === 'voltageSource' ? { ...part, volt: part.volt * supplyShare } : part,
    );
    const index = indexBoard(supplyShare === 1 ? this.board : { ...this.board, parts });
    const faults = faultStates(index, this.faults);
    const setup = this.isOn ? this.setup : 'off';
    return { index, state: new BenchState(index, { setup, faults, absent: [...this.absent] }) };
  }

  private changed(): void {
    this.solved = undefined;
    if (!this.isOn) return;
    this.limit();
    this.blow();
  }

  /** Turns the supply down until it gives no more than its limit. */
  private limit(): void {
    if (this.limitAmpere === Infinity || this.drawn() <= this.limitAmpere) return;
    let [low, high] = [0, 1];
    for (let step = 0; step < LIMIT_STEPS; step += 1) {
      const share = (low + high) / 2;
      this.solved = this.solve(share);
      if (this.drawn() > this.limitAmpere) high = share;
      else low = share;
    }
    this.solved = this.solve(low);
  }

  /** Opens every fuse through which too much flows, the worst first, until none is left. */
  private blow(): void {
    for (;;) {
      const over = [...this.ratings]
        .filter(([ref]) => !this.faults.includes(`${ref}:open`) && !this.isAbsent(ref))
        .map(([ref, rating]) => ({ ref, times: this.through(ref) / rating }))
        .filter(({ times }) => times > BLOWS_AT)
        .sort((a, b) => b.times - a.times)[0];
      if (!over) return;
      this.faults = [...this.faults, `${over.ref}:open`];
      this.events.push(`${over.ref} blew: ${over.times.toFixed(1)} times its rating`);
      this.solved = undefined;
      this.limit();
    }
  }

  private isAbsent(ref: string): boolean {
    return this.absent.some((gone) => nameKey(gone) === nameKey(replaceableRef(ref)));
  }
}

function faultStates(index: BoardIndex, names: readonly string[]): FaultState[] {
  return names.map((name) => {
    const result = parseFaultState(index, name);
    if (!result.ok) throw new Error(`${result.what}; expected ${result.expected}`);
    return result.state;
  });
}

function supplies(board: Board): readonly string[] {
  return board.parts.flatMap(({ kind, ref }) => (kind === 'voltageSource' ? [ref] : []));
}

/** Amperes at which each fuse of a board is rated; from what the sound board draws where unknown. */
function fuseRatings(index: BoardIndex): ReadonlyMap<string, number> {
  const fuses = index.board.parts.filter(({ kind }) => kind === 'fuse');
  if (fuses.length === 0) return new Map();
  const sound = new BenchState(index, { setup: 'on', faults: [], absent: [] });
  return new Map(
    fuses.map(({ ref, rating }) => {
      const stated = parseFuse(rating ?? '').ampere;
      if (stated !== undefined) return [ref, stated];
      const resolved = resolveMeasurement(index, 'on', 'current', ref, '');
      const drawn = resolved.ok ? sound.respond(resolved.measurement) : undefined;
      const ampere = drawn && !('ok' in drawn) ? Math.abs(drawn.value) : 0;
      return [ref, Math.max(SMALLEST_FUSE, UNRATED_MARGIN * ampere)];
    }),
  );
}
