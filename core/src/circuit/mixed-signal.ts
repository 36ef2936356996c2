import { HIGH, LOW, PULSE, UNKNOWN, type Level } from '../logic';
import { ChipLevels } from './chip-levels';
import type { NetlistChange } from './incremental/netlist-change';
import type { SolvedStates } from './incremental/solved-states';
import { movedFrom } from './incremental/movement';
import { atNewLevels, inStep } from './forecast';
import { holdsAlike } from './incremental/driven-after';
import { differing, driveStates, holdTest, isPowered, levelAt, sameStates } from './levels';
import { fanOut } from './fan-out';
import { nodeOf, type LogicStamp, type Network } from './network';
import {
  across,
  operatingPoint,
  type NoOperatingPoint,
  type OperatingPoint,
} from './operating-point';
import type { FreshChips, MixedSignalSolution } from './mixed-signal-solution';
import type { BaseLinearisation } from './incremental/base-linearisation';
import { solveIncrementally, type NearPoint } from './incremental/incremental-search';

export interface SettleOptions {
  /**
   * A settled network of the same chips to begin from; its registers are kept only where keepMemory
   * is set (the board has not been switched off between).
   */
  readonly from?: MixedSignalSolution | undefined;
  /** The network that `from` belongs to, where its nodes are numbered differently. */
  readonly fromNetwork?: Network | undefined;
  readonly keepMemory?: boolean;
  /**
   * Where this network is `fromNetwork` with a few elements exchanged: that one's points (one a
   * phase), the netlistChange, its chips as they come on.
   */
  readonly near?: {
    readonly points: readonly BaseLinearisation[];
    readonly netlistChange: NetlistChange;
    readonly fresh: FreshChips | undefined;
    /** What whole searches over other such networks have come to; taken note of here. */
    readonly solved: SolvedStates;
  };
}

/**
 * Rounds of circuit and logic after which what still changes is called oscillating, and twice as
 * many after which the search gives up.
 */
const PATIENT_ROUNDS = 24;
/**
 * A search that has stood on its own circuit leaves from there unless a like board's drivers have
 * so many times fewer to switch.
 */
const OWN_START_SHARE = 0.25;
/** A Schmitt input's node counts as elsewhere from so far on, volt. */
const ARRIVED_VOLT = 0.01;

/**
 * Solves circuit and logic together to a fixed point: an output is a stage of its family, an input
 * loads its net as that family does and sees the level that the net really has. Without chips this
 * is the operating point.
 */
export function solveMixedSignal(
  network: Network,
  options: SettleOptions = {},
): MixedSignalSolution | NoOperatingPoint {
  return new Settling(network, options).run();
}

/**
 * The chips of a settled board as they come on; undefined where what they then do is not what the
 * board has come to (its registers had more to go by).
 */
export function freshChips(network: Network, settled: MixedSignalSolution): FreshChips | undefined {
  const levels = new ChipLevels(network, { from: settled });
  levels.propagate(new Set(network.chips.keys()), settled.phases);
  const { driven, seen } = settled;
  const same =
    levels.driven.every((level, i) => level === driven[i]) &&
    levels.seen.every((own, c) => own.every((level, i) => level === seen[c]![i]));
  return same
    ? {
        memories: levels.memories,
        powered: network.chips.map((chip) => isPowered(chip, settled.phases)),
      }
    : undefined;
}

/** A phase. moved: as in `MixedSignalSolution`. near: as it was found beside the known board. */
type Found = Pick<OperatingPoint, 'ok' | 'x'> & {
  readonly moved?: Int32Array | undefined;
  readonly near?: NearPoint;
};

/** The search's working memory: lives as long as one search. */
class Settling {
  private readonly levels: ChipLevels;
  /** Schmitt inputs that have been looked at. */
  private readonly lookedAt = new Set<LogicStamp['inputs'][number]>();
  private cameOn = false;
  /**
   * Whether too much takes part for a search beside the known board: it will in the next round and
   * in the other phase too.
   */
  private reachesFar = false;
  private phases: Float64Array[] = [];
  /** As in `MixedSignalSolution`. */
  private moved: Int32Array | undefined;
  private near: MixedSignalSolution['near'];
  private drives: Uint8Array[] = [];
  /** States of the drivers that belong to the phases. */
  private solvedDrives: Uint8Array[] = [];

  constructor(
    private readonly network: Network,
    private readonly options: SettleOptions,
  ) {
    const { from, fromNetwork, keepMemory, near } = options;
    this.levels = new ChipLevels(network, {
      from,
      others: fromNetwork?.chips,
      fresh: near?.fresh,
      keepMemory,
    });
    if (!from || from.driven.length !== network.drivers.length) return;
    const renumbered =
      fromNetwork && fromNetwork.nodeIndex !== network.nodeIndex ? fromNetwork : undefined;
    this.phases = from.phases.map((x) => (renumbered ? carryOver(renumbered, x, network) : x));
  }

  run(): MixedSignalSolution | NoOperatingPoint {
    const { chips } = this.network;
    if (chips.length === 0) {
      const trouble = this.solve();
      return trouble ?? this.finish(this.phases);
    }
    if (!this.options.from) {
      const dark = this.solve();
      if (dark) return dark;
      this.look(true);
    }
    const met: Uint8Array[] = [];
    const { levels } = this;
    let active = this.firstToLook();
    levels.propagate(active, this.phases);
    for (let round = 0; round < 2 * PATIENT_ROUNDS; round += 1) {
      const trouble = this.solve();
      if (trouble) return trouble;
      const changed = this.look(false);
      if (changed.size === 0 && !this.comesOnElse()) return this.finish(this.phases);
      active = changed;
      const before = levels.driven.slice();
      levels.propagate(active, this.phases);
      // What has been so before will come again and again.
      const state = levels.row();
      if (round >= PATIENT_ROUNDS || met.some((other) => sameStates(other, state)))
        levels.lockThose(active, before);
      met.push(state);
    }
    return {
      ok: false,
      why: 'not converged',
      at: this.network.chips[[...active][0] ?? 0]!.logic.ref,
    };
  }

  /**
   * The chips that have to be asked first: all, or beside a settled board those that are not as
   * they were there.
   */
  private firstToLook(): Set<number> {
    const { near, fromNetwork } = this.options;
    const { chips } = this.network;
    const others = near?.fresh ? fromNetwork?.chips : undefined;
    return new Set([...chips.keys()].filter((c) => chips[c] !== others?.[c]));
  }

  /**
   * Whether the chips come to anything else when they are switched on at these levels; asked once a
   * search.
   */
  private comesOnElse(): boolean {
    if (this.cameOn || this.options.keepMemory) return false;
    this.cameOn = true;
    return this.levels.comeOn(this.phases);
  }

  private finish(phases: readonly Float64Array[]): MixedSignalSolution {
    const { drives, moved, near } = this;
    const { driven, seen, memories, locked } = this.levels;
    const states = drives.length > 0 ? drives : [new Uint8Array(this.network.drivers.length)];
    return {
      ok: true,
      phases,
      drives: states,
      driven,
      seen,
      memories,
      oscillating: locked,
      moved,
      near,
    };
  }

  /** Solves the circuit for the drivers as they are, once or in both phases. */
  private solve(): NoOperatingPoint | undefined {
    const { driven } = this.levels;
    const moving = driven.includes(PULSE) || driven.includes(UNKNOWN);
    const found: Found[] = [];
    this.drives =
      this.statesAsKnown() ??
      (moving ? ([LOW, HIGH] as const) : ([LOW] as const)).map((phase) =>
        driveStates(this.network, driven, phase),
      );
    for (const [i, drives] of this.drives.entries()) {
      const point = this.point(drives, i, found[0]?.x);
      if (!point.ok) return point;
      found.push(point);
    }
    this.phases = found.map(({ x }) => x);
    this.near = found.map(({ near }) => near);
    this.solvedDrives = this.drives;
    this.moved = this.options.from?.phases.length === found.length ? movedInAny(found) : undefined;
    return undefined;
  }

  /** The known board's drivers, where all of them do what they do there. */
  private statesAsKnown(): Uint8Array[] | undefined {
    const { network, options } = this;
    const { driven } = this.levels;
    const { from, fromNetwork, near } = options;
    if (!from || !near || network.chips !== fromNetwork?.chips) return undefined;
    for (let i = 0; i < driven.length; i += 1) if (driven[i] !== from.driven[i]) return undefined;
    return [...from.drives];
  }

  /**
   * One operating point: beside a known one where that is possible, else by a search over the whole
   * circuit. first: the first phase, where this is the second.
   */
  private point(
    drives: Uint8Array,
    phase: number,
    first: Float64Array | undefined,
  ): Found | NoOperatingPoint {
    const { near } = this.options;
    const before = this.phases[phase] ?? this.phases[0] ?? first;
    const base = near?.points[phase] ?? near?.points[0];
    const found =
      near &&
      base &&
      !this.reachesFar &&
      solveIncrementally(base, near.netlistChange.difference, drives, before);
    if (found) return { ok: true, x: found.x, moved: found.moved, near: found };
    this.reachesFar = true;
    const from = phase > 0 ? inStep(this.network, drives, this.phases[0], first, before) : before;
    const start = from && this.start(drives, phase, from);
    const [network, correction] = near
      ? [near.netlistChange.inMatrix, near.netlistChange.correction]
      : [this.network, undefined];
    const options = { drives, correction, near: near !== undefined };
    const point = operatingPoint(network, start ? { ...options, start } : options);
    if (!near) return point.ok || !start ? point : operatingPoint(network, { drives, correction });
    if (!point.ok) return point;
    near.solved.note(drives, point.x);
    return base ? { ...point, moved: movedFrom(base.x, point.x) } : point;
  }

  /**
   * Where a search over the whole circuit begins that last stood at x: from there with the drivers
   * at their new levels, or where a like board came to whose drivers do more nearly what these do.
   */
  private start(drives: Uint8Array, phase: number, x: Float64Array): Float64Array {
    const { near } = this.options;
    const before =
      this.solvedDrives[phase] ??
      this.solvedDrives[0] ??
      near?.points[phase]?.drives ??
      near?.points[0]?.drives;
    const most =
      before && differing(before, drives) * (this.solvedDrives.length > 0 ? OWN_START_SHARE : 1);
    const other = near && most && near.solved.nearest(drives, most);
    if (!other) return atNewLevels(this.network, drives, before, x);
    // Nodes that only this circuit has stay where they were.
    const start = x.slice();
    start.set(other.x.subarray(0, this.network.size));
    return atNewLevels(this.network, drives, other.drives, start);
  }

  /**
   * Compares what the chips see with what was assumed, and takes over what is different. first:
   * nodes with a driver are left unknown. Returns the chips that see something new.
   */
  private look(first: boolean): Set<number> {
    const { network, levels } = this;
    const changed = new Set<number>();
    const isHeld = holdTest(network, this.drives[0]!);
    for (const c of (first ? undefined : this.chipsToLook()) ?? network.chips.keys()) {
      const chip = network.chips[c]!;
      const powered = isPowered(chip, this.phases);
      if (powered !== levels.powered[c]) changed.add(c);
      levels.powered[c] = powered;
      chip.inputs.forEach((input, i) => {
        const { node } = input;
        if (first && levels.driversOf.has(node)) return;
        const before = levels.seen[c]![i] as Level;
        const was = chip.logic.inputs[i]!.schmitt && this.arrivesAnew(input) ? UNKNOWN : before;
        const level = levelAt(levels.driven, levels.driversOf, this.phases, chip, i, was, isHeld);
        if (level === before) return;
        levels.see(c, i, level);
        if (levels.driversOf.has(node)) levels.overruled.add(node);
        changed.add(c);
      });
    }
    return changed;
  }

  /**
   * Whether a Schmitt input is looked at for the first time where its node is not on the known
   * board: what it saw there says nothing of how it came here.
   */
  private arrivesAnew(input: LogicStamp['inputs'][number]): boolean {
    const { from, keepMemory, fromNetwork } = this.options;
    if (!from || keepMemory || this.lookedAt.has(input)) return false;
    this.lookedAt.add(input);
    const { node } = input;
    const [now, before] = [this.phases[0]!, from.phases[0]!];
    return (
      node >= before.length ||
      fromNetwork?.nodeIndex !== this.network.nodeIndex ||
      Math.abs(across(now, node, -1) - across(before, node, -1)) > ARRIVED_VOLT
    );
  }

  /**
   * The chips that may see anything else than on the known board: where something moved, where a
   * driver does something else, and those that were told something else on the way. Undefined: any
   * may.
   */
  private chipsToLook(): Iterable<number> | undefined {
    const { network, options, moved, levels } = this;
    const { driven } = levels;
    const { from, fromNetwork, near } = options;
    if (
      !moved ||
      !from ||
      !fromNetwork ||
      !near?.fresh ||
      driven.includes(UNKNOWN) !== from.driven.includes(UNKNOWN)
    )
      return undefined;
    const { at, openInputs } = fanOut(fromNetwork);
    // Where other nodes may float, inputs that need to be held have to look.
    if (
      openInputs.size > 0 &&
      !holdsAlike(near.points[0]!, near.netlistChange.difference, this.drives[0]!)
    )
      return undefined;
    const chips = new Set<number>();
    const lookAt = (node: number): void => at[node]?.forEach((chip) => chips.add(chip));
    network.chips.forEach((chip, c) => {
      if (levels.wasTold(c) || chip !== fromNetwork.chips[c]) chips.add(c);
      for (const { node, driver } of chip.outputs)
        if (driven[driver] !== from.driven[driver]) lookAt(node);
    });
    const alike = from.phases.length === this.phases.length;
    for (const node of moved)
      if (at[node] && !(alike && this.staysWithin(near.points, node))) lookAt(node);
    return chips;
  }

  /**
   * Whether a node is so near to where it is on the known board, in every phase, that no chip sees
   * anything else there.
   */
  private staysWithin(points: readonly BaseLinearisation[], node: number): boolean {
    for (let phase = 0; phase < points.length; phase += 1) {
      const { x, levelSlacks } = points[phase]!;
      if (!(Math.abs(this.phases[phase]![node]! - x[node]!) < levelSlacks[node]!)) return false;
    }
    return true;
  }
}

/** What has moved in any phase; undefined: anything may have in one of them. */
function movedInAny(phases: readonly Found[]): Int32Array | undefined {
  const lists = phases.flatMap(({ moved }) => moved ?? []);
  if (lists.length < phases.length) return undefined;
  if (lists.length === 1) return lists[0];
  const all = new Int32Array(lists.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const list of lists) {
    all.set(list, at);
    at += list.length;
  }
  return all;
}

/**
 * A solution of one network as a start for another: nodes by name, a new node at the level of what
 * a conductance joins it to.
 */
function carryOver(from: Network, x: Float64Array, to: Network): Float64Array {
  const start = new Float64Array(to.size);
  const added = new Set<number>();
  to.nodeNames.forEach((name, node) => {
    const there = nodeOf(from, name);
    if (there === undefined) added.add(node);
    else if (there >= 0) start[node] = x[there]!;
  });
  if (added.size === 0) return start;
  for (const { a, b } of to.conductances) {
    if (added.has(a) && b >= 0 && !added.has(b)) start[a] = start[b]!;
    if (added.has(b) && a >= 0 && !added.has(a)) start[b] = start[a]!;
  }
  return start;
}
