import { copyMemory, emptyMemory, HIGH, LOW, PULSE, runProgram, UNKNOWN, type Level, type Memory } from '../logic';
import { drivenLevel, driversByNode, driveStates, holdTest, isPowered, levelAt, OFF, readersByNode, watchers, type Driven } from './levels';
import type { Exchange } from './exchange';
import { holdsAlike } from './held-beside';
import { atNewLevels, inStep, isPulledUp } from './forecast';
import { nodeOf, type Network } from './network';
import { across, operatingPoint, type NoOperatingPoint, type OperatingPoint } from './operating-point';
import type { Vicinity } from './vicinity';
import { pointBeside, type NearPoint } from './vicinity-search';

/** A board with chips at rest. `phases`: the operating point; two where something pulses or is not known, with those drivers low in the first and high in
 *  the second. */
export interface Settled {
  readonly ok: true;
  readonly phases: readonly Float64Array[];
  /** States of the drivers in each phase. */
  readonly drives: readonly Uint8Array[];
  /** Level of each driver, in network order. */
  readonly driven: Uint8Array;
  /** Levels that the chips see at their inputs, chip by chip. */
  readonly seen: readonly Uint8Array[];
  readonly memories: readonly Memory[];
  /** Drivers that never came to rest. */
  readonly oscillating: ReadonlySet<number>;
  /** The unknowns that are not, in some phase, where they are on the board beside which this was found, among others; undefined: any may have moved. */
  readonly moved?: Int32Array | undefined;
}

export interface SettleOptions {
  /** A settled network of the same chips to begin from; its registers are kept only where keepMemory is set (the board has not been switched off between). */
  readonly from?: Settled | undefined;
  /** The network that `from` belongs to, where its nodes are numbered differently. */
  readonly fromNetwork?: Network | undefined;
  readonly keepMemory?: boolean;
  /** Where this network is `fromNetwork` with a few elements exchanged: that one's points (one a phase), the exchange, and its chips as they come on. */
  readonly near?: { readonly points: readonly Vicinity[]; readonly exchange: Exchange; readonly fresh: FreshChips | undefined };
}

/** What the chips of a settled board hold in their registers when it is switched on anew at the levels it has, and which have their supply. */
export interface FreshChips {
  readonly memories: readonly Memory[];
  readonly powered: readonly boolean[];
}

/** Rounds of circuit and logic after which what still changes is called oscillating, and twice as many after which the search gives up. */
const PATIENT_ROUNDS = 24;
/** A node that moves less than this between the phases has its level all the same, volt. */
const UNCERTAIN_VOLT = 0.1;
/** A Schmitt input's node counts as elsewhere from so far on, volt. */
const ARRIVED_VOLT = 0.01;
/** More inputs than any chip has. */
const MOST_INPUTS = 4096;
/** Unit delays that one change may run through the chips. */
const MOST_DELAYS = 200;

/** Solves circuit and logic together to a fixed point: an output is a stage of its family, an input loads its net as that family does and sees the level
 *  that the net really has. Without chips this is the operating point. */
export function settle(network: Network, options: SettleOptions = {}): Settled | NoOperatingPoint {
  return new Settling(network, options).run();
}

/** The chips of a settled board as they come on; undefined where what they then do is not what the board has come to (its registers had more to go by). */
export function freshChips(network: Network, settled: Settled): FreshChips | undefined {
  return new Settling(network, { from: settled }).freshChips(settled);
}

/** A phase. moved: as in `Settled`. */
type Found = Pick<OperatingPoint, 'ok' | 'x'> & { readonly moved?: Int32Array | undefined };

/** The search's working memory: lives as long as one search. */
class Settling {
  private readonly driven: Uint8Array;
  /** Copied from the known board's where they change. */
  private readonly seen: Uint8Array[];
  private readonly ownSeen: boolean[];
  private readonly memories: Memory[];
  /** Chips whose memory is their own, not another board's. */
  private readonly ownMemory: boolean[];
  private readonly powered: boolean[];
  /** Nodes whose real level is not what their only driver says. */
  private readonly overruled = new Set<number>();
  private readonly locked = new Set<number>();
  private readonly driversOf: ReadonlyMap<number, readonly number[]>;
  private readonly readersOf: ReturnType<typeof readersByNode>;
  private cameOn = false;
  /** Inputs that have been looked at. */
  private readonly lookedAt = new Set<number>();
  /** Whether too much takes part for a search beside the known board: it will in the next round and in the other phase too. */
  private reachesFar = false;
  private phases: Float64Array[] = [];
  /** As in `Settled`. */
  private moved: Int32Array | undefined;
  private drives: Uint8Array[] = [];
  /** States of the drivers that belong to the phases. */
  private solvedDrives: Uint8Array[] = [];

  constructor(
    private readonly network: Network,
    private readonly options: SettleOptions,
  ) {
    const { chips, drivers } = network;
    const { from, keepMemory } = options;
    const fresh = options.near?.fresh;
    const known = from && from.driven.length === drivers.length ? from : undefined;
    this.driven = known ? known.driven.slice() : new Uint8Array(drivers.length).fill(OFF);
    this.ownSeen = chips.map(() => !known);
    this.seen = known ? [...known.seen] : chips.map(({ inputs }) => new Uint8Array(inputs.length).fill(UNKNOWN));
    // A chip that is not as it was there comes on by itself.
    this.ownMemory = chips.map((chip, i) => !fresh || chip !== options.fromNetwork?.chips[i]);
    this.memories = chips.map(({ logic }, i) => {
      if (fresh && !this.ownMemory[i]) return fresh.memories[i]!;
      return from && keepMemory ? copyMemory(from.memories[i]!) : emptyMemory(logic.program);
    });
    this.powered = fresh ? [...fresh.powered] : chips.map(() => true);
    this.driversOf = driversByNode(network);
    this.readersOf = readersByNode(network);
    if (known) {
      const other = options.fromNetwork;
      this.phases = known.phases.map((x) => (other && other.nodeIndex !== network.nodeIndex ? carryOver(other, x, network) : x));
    }
    chips.forEach((chip, c) => {
      if (chip !== options.fromNetwork?.chips[c] || !known) chip.logic.inputs.forEach(({ stuck }, input) => stuck !== undefined && this.see(c, input, stuck));
    });
  }

  private see(chip: number, input: number, level: Level): void {
    if (!this.ownSeen[chip]) this.seen[chip] = this.seen[chip]!.slice();
    this.ownSeen[chip] = true;
    this.seen[chip]![input] = level;
  }

  run(): Settled | NoOperatingPoint {
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
    const met = new Set<string>();
    let active = this.firstToLook();
    this.propagate(active);
    for (let round = 0; round < 2 * PATIENT_ROUNDS; round += 1) {
      const trouble = this.solve();
      if (trouble) return trouble;
      const changed = this.look(false);
      if (changed.size === 0 && !this.comesOnElse()) return this.finish(this.phases);
      active = changed;
      const before = this.driven.slice();
      this.propagate(active);
      // What has been so before will come again and again.
      const state = this.levels();
      if (round >= PATIENT_ROUNDS || met.has(state)) this.lockThose(active, before);
      met.add(state);
    }
    return { ok: false, why: 'not converged', at: this.network.chips[[...active][0] ?? 0]!.logic.ref };
  }

  /** The chips that have to be asked first: all, or beside a settled board those that are not as they were there. */
  private firstToLook(): Set<number> {
    const { near, fromNetwork } = this.options;
    const { chips } = this.network;
    const others = near?.fresh ? fromNetwork?.chips : undefined;
    return new Set([...chips.keys()].filter((c) => chips[c] !== others?.[c]));
  }

  /** Switches the chips that have registers on at the levels that the board has come to: a board is powered with its fault, so none may hold what an input's way there from
   *  the known board (or from the dark) clocked in. Returns whether anything is different then. Once a search. */
  private comesOnElse(): boolean {
    if (this.cameOn || this.options.keepMemory) return false;
    this.cameOn = true;
    const moved = new Set<number>();
    this.network.chips.forEach(({ logic: { program } }, c) => {
      if (!this.ownMemory[c] || program.registers.length === 0) return;
      this.memories[c] = emptyMemory(program);
      this.evaluate(c, moved);
    });
    const dirty = new Set<number>();
    for (const node of moved) this.spread(node, dirty);
    this.propagate(dirty);
    return moved.size > 0;
  }

  /** Levels of all drivers and inputs as one text. */
  private levels(): string {
    return String.fromCharCode(...this.driven, ...this.seen.flatMap((levels) => [...levels]));
  }

  freshChips({ driven, seen, phases }: Settled): FreshChips | undefined {
    this.propagate(new Set(this.network.chips.keys()));
    const same = this.driven.every((level, i) => level === driven[i]) && this.seen.every((levels, c) => levels.every((level, i) => level === seen[c]![i]));
    return same ? { memories: this.memories, powered: this.network.chips.map((chip) => isPowered(chip, phases)) } : undefined;
  }

  private finish(phases: readonly Float64Array[]): Settled {
    const { driven, seen, memories, drives, locked, moved } = this;
    const states = drives.length > 0 ? drives : [new Uint8Array(this.network.drivers.length)];
    return { ok: true, phases, drives: states, driven, seen, memories, oscillating: locked, moved };
  }

  /** Solves the circuit for the drivers as they are, once or in both phases. */
  private solve(): NoOperatingPoint | undefined {
    const moving = this.driven.includes(PULSE) || this.driven.includes(UNKNOWN);
    const found: Found[] = [];
    this.drives = this.statesAsKnown() ?? (moving ? ([LOW, HIGH] as const) : ([LOW] as const)).map((phase) => driveStates(this.network, this.driven, phase));
    for (const [i, drives] of this.drives.entries()) {
      const point = this.point(drives, i, found[0]?.x);
      if (!point.ok) return point;
      found.push(point);
    }
    this.phases = found.map(({ x }) => x);
    this.solvedDrives = this.drives;
    this.moved = this.options.from?.phases.length === found.length ? movedInAny(found) : undefined;
    return undefined;
  }

  /** The known board's drivers, where all of them do what they do there. */
  private statesAsKnown(): Uint8Array[] | undefined {
    const { network, driven, options } = this;
    const { from, fromNetwork, near } = options;
    if (!from || !near || network.chips !== fromNetwork?.chips) return undefined;
    for (let i = 0; i < driven.length; i += 1) if (driven[i] !== from.driven[i]) return undefined;
    return [...from.drives];
  }

  /** One operating point: beside a known one where that is possible, else by a search over the whole circuit. first: the first phase, where this is the second. */
  private point(drives: Uint8Array, phase: number, first: Float64Array | undefined): Found | NoOperatingPoint {
    const { near } = this.options;
    const before = this.phases[phase] ?? this.phases[0] ?? first;
    const vicinity = near?.points[phase] ?? near?.points[0];
    const found = near && vicinity && !this.reachesFar && pointBeside(vicinity, near.exchange.difference, drives, before);
    if (found) return { ok: true, x: found.x, moved: found.moved };
    this.reachesFar = true;
    const from = phase > 0 ? inStep(this.network, drives, this.phases[0], first, before) : before;
    const start = from && atNewLevels(this.network, drives, this.solvedDrives[phase] ?? this.solvedDrives[0] ?? vicinity?.drives, from);
    const [network, loose] = near ? [near.exchange.inMatrix, near.exchange.loose] : [this.network, undefined];
    const options = { drives, loose, near: near !== undefined };
    const point = operatingPoint(network, start ? { ...options, start } : options);
    return point.ok || !start || near ? point : operatingPoint(network, { drives, loose });
  }

  /** Compares what the chips see with what was assumed, and takes over what is different. first: nodes with a driver are left unknown.
   *  Returns the chips that see something new. */
  private look(first: boolean): Set<number> {
    const { network } = this;
    const changed = new Set<number>();
    const isHeld = holdTest(network, this.drives[0]!);
    for (const c of (first ? undefined : this.chipsToLook()) ?? network.chips.keys()) {
      const chip = network.chips[c]!;
      const powered = isPowered(chip, this.phases);
      if (powered !== this.powered[c]) changed.add(c);
      this.powered[c] = powered;
      chip.inputs.forEach(({ node }, i) => {
        if (first && this.driversOf.has(node)) return;
        const was = this.arrivesAnew(c, i, node) ? UNKNOWN : (this.seen[c]![i] as Level);
        const level = levelAt(this.driven, this.driversOf, this.phases, chip, i, was, isHeld);
        if (level === this.seen[c]![i]) return;
        this.see(c, i, level);
        if (this.driversOf.has(node)) this.overruled.add(node);
        changed.add(c);
      });
    }
    return changed;
  }

  /** Whether a Schmitt input is looked at for the first time where its node is not on the known board: what it saw there says nothing of how it came here. */
  private arrivesAnew(chip: number, input: number, node: number): boolean {
    const { from, keepMemory, fromNetwork } = this.options;
    if (!from || keepMemory || !this.network.chips[chip]!.logic.inputs[input]!.schmitt) return false;
    const key = chip * MOST_INPUTS + input;
    if (this.lookedAt.has(key)) return false;
    this.lookedAt.add(key);
    const [now, before] = [this.phases[0]!, from.phases[0]!];
    return node >= before.length || fromNetwork?.nodeIndex !== this.network.nodeIndex || Math.abs(across(now, node, -1) - across(before, node, -1)) > ARRIVED_VOLT; // prettier-ignore
  }

  /** The chips that may see anything else than on the known board: where something moved, where a driver does something else, and those that were told something
   *  else on the way. Undefined: any may. */
  private chipsToLook(): Iterable<number> | undefined {
    const { network, options, moved, driven, ownSeen } = this;
    const { from, fromNetwork, near } = options;
    if (!moved || !from || !fromNetwork || !near?.fresh || driven.includes(UNKNOWN) !== from.driven.includes(UNKNOWN)) return undefined;
    const { at, openInputs } = watchers(fromNetwork);
    // Where other nodes may float, inputs that need to be held have to look.
    if (openInputs.size > 0 && !holdsAlike(near.points[0]!, near.exchange.difference, this.drives[0]!)) return undefined;
    const chips = new Set<number>();
    const lookAt = (node: number): void => at.get(node)?.forEach((chip) => chips.add(chip));
    network.chips.forEach((chip, c) => {
      if (ownSeen[c] || chip !== fromNetwork.chips[c]) chips.add(c);
      for (const { node, driver } of chip.outputs) if (driven[driver] !== from.driven[driver]) lookAt(node);
    });
    moved.forEach(lookAt);
    return chips;
  }

  /** Runs changes through the chips, one delay at a time, until nothing moves; what moves for too long pulses. */
  private propagate(start: ReadonlySet<number>): void {
    let dirty = start;
    for (let delay = 0; delay < MOST_DELAYS && dirty.size > 0; delay += 1) {
      const moved = new Set<number>();
      const before = delay >= MOST_DELAYS / 2 ? this.driven.slice() : undefined;
      for (const chip of dirty) this.evaluate(chip, moved);
      if (before && moved.size > 0) this.lockThose(dirty, before);
      const next = new Set<number>();
      for (const node of moved) this.spread(node, next);
      dirty = next;
    }
  }

  private evaluate(c: number, moved: Set<number>): void {
    const { logic, outputs } = this.network.chips[c]!;
    if (!this.ownMemory[c]) this.memories[c] = copyMemory(this.memories[c]!);
    this.ownMemory[c] = true;
    const results = runProgram(logic.program, this.seen[c]!, this.memories[c]!);
    logic.outputs.forEach((output, i) => {
      const { node, driver } = outputs[i]!;
      if (this.locked.has(driver)) return;
      const { level, enable } = results[output.output]!;
      const wanted = this.powered[c]! && !logic.dead ? drivenLevel(output, level, enable) : OFF;
      if (wanted === this.driven[driver]) return;
      this.driven[driver] = wanted;
      moved.add(node);
    });
  }

  /** Tells a node's readers its new level where its drivers alone decide it; elsewhere the circuit will. */
  private spread(node: number, dirty: Set<number>): void {
    if (this.overruled.has(node)) return;
    const active = this.driversOf.get(node)!.map((driver) => this.driven[driver] as Driven).filter((level) => level !== OFF); // prettier-ignore
    if (active.length > 1) return;
    const level = active[0] ?? this.released(node);
    if (level === undefined) return;
    for (const [chip, input] of this.readersOf.get(node) ?? []) {
      const { stuck } = this.network.chips[chip]!.logic.inputs[input]!;
      if (stuck !== undefined || this.network.chips[chip]!.inputs[input]!.against !== undefined) continue;
      if (this.seen[chip]![input] === level) continue;
      this.see(chip, input, level);
      dirty.add(chip);
    }
  }

  /** The level a node will go to when nothing drives it any more: high where a resistor pulls it to a supply that is there. Only a forecast, which the circuit then
   *  confirms or corrects; undefined where only the circuit can tell. */
  private released(node: number): Level | undefined {
    return isPulledUp(this.network, node, this.phases) ? HIGH : undefined;
  }

  /** Outputs that keep changing pulse: those of these chips that are not as before, or all of theirs where that is none. The other gates of a package have no part in it. */
  private lockThose(chips: Iterable<number>, before: Uint8Array): void {
    const outputs = [...chips].flatMap((chip) => this.network.chips[chip]!.outputs.map(({ driver }) => driver));
    const changing = outputs.filter((driver) => this.driven[driver] !== before[driver]);
    for (const driver of changing.length > 0 ? changing : outputs) {
      if (this.driven[driver] === OFF) continue;
      this.locked.add(driver);
      this.driven[driver] = PULSE;
    }
  }
}

/** Whether nobody can say which level a node has: a chip drives it with a level that is not known, or the level comes from such a chip through other parts. */
export function isUnknown(network: Network, { phases, driven }: Settled, node: number): boolean {
  const [low, high] = phases;
  if (node < 0 || !low || !high || Math.abs(low[node]! - high[node]!) < UNCERTAIN_VOLT || !driven.includes(UNKNOWN)) return false;
  const own = (driversByNode(network).get(node) ?? []).map((driver) => driven[driver]!);
  return !own.includes(PULSE) || own.includes(UNKNOWN);
}

/** Whether every chip of a settled network would still see the same levels and have its supply, were the circuit at these points instead of its own. */
export function seesTheSame(network: Network, { driven, seen, drives }: Settled, points: readonly NearPoint[]): boolean {
  const isHeld = holdTest(network, drives[0]!);
  const driversOf = driversByNode(network);
  const phases = points.map(({ x }) => x);
  for (const c of mayNotice(network, points) ?? network.chips.keys()) {
    const chip = network.chips[c]!;
    if (!isPowered(chip, phases)) {
      if (chip.outputs.some(({ driver }) => driven[driver] !== OFF)) return false;
    } else if (chip.inputs.some((_, i) => levelAt(driven, driversOf, phases, chip, i, seen[c]![i] as Level, isHeld) !== seen[c]![i])) return false;
  }
  return true;
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

/** The chips that look at anything that has moved; undefined: any may. */
function mayNotice(network: Network, points: readonly NearPoint[]): ReadonlySet<number> | undefined {
  const { at } = watchers(network);
  const chips = new Set<number>();
  for (const { moved } of points) {
    if (!moved) return undefined;
    for (const node of moved) for (const chip of at.get(node) ?? []) chips.add(chip);
  }
  return chips;
}

/** A solution of one network as a start for another: nodes by name, a new node at the level of what a conductance joins it to. */
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
