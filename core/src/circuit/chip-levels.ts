import {
  copyMemory,
  emptyMemory,
  HIGH,
  PULSE,
  runProgram,
  UNKNOWN,
  type Level,
  type Memory,
} from '../logic';
import { isPulledUp } from './forecast';
import { drivenLevel, driversByNode, OFF, readersByNode, type Driven } from './levels';
import type { LogicStamp, Network } from './network';
import type { FreshChips, MixedSignalSolution } from './mixed-signal-solution';

/** Unit delays that one change may run through the chips. */
const MOST_DELAYS = 200;

/** Where the chips begin. */
export interface ChipsStart {
  /** A settled board whose levels they have. */
  readonly from?: MixedSignalSolution | undefined;
  /** Its chips, as the same objects where they are the same here. */
  readonly others?: readonly LogicStamp[] | undefined;
  /** What those hold as they come on. */
  readonly fresh?: FreshChips | undefined;
  /** Whether the board was not switched off between: then the registers keep what they hold. */
  readonly keepMemory?: boolean | undefined;
}

/**
 * What the chips of a board see, remember and drive while circuit and logic are brought together.
 * Lives as long as one search.
 */
export class ChipLevels {
  /** Level of each driver, in network order. */
  readonly driven: Uint8Array;
  /** Levels at the inputs, chip by chip: the known board's own lists where nothing is different. */
  readonly seen: Uint8Array[];
  readonly memories: Memory[];
  readonly powered: boolean[];
  /** Drivers that never come to rest: they pulse for good. */
  readonly locked = new Set<number>();
  /** Nodes whose real level is not what their only driver says. */
  readonly overruled = new Set<number>();
  readonly driversOf: ReadonlyMap<number, readonly number[]>;
  private readonly readersOf: ReturnType<typeof readersByNode>;
  private readonly ownSeen: boolean[];
  /** Chips whose memory is their own, not another board's. */
  private readonly ownMemory: boolean[];

  constructor(
    private readonly network: Network,
    { from, others, fresh, keepMemory }: ChipsStart,
  ) {
    const { chips, drivers } = network;
    const known = from && from.driven.length === drivers.length ? from : undefined;
    this.driven = known ? known.driven.slice() : new Uint8Array(drivers.length).fill(OFF);
    this.ownSeen = chips.map(() => !known);
    this.seen = known
      ? [...known.seen]
      : chips.map(({ inputs }) => new Uint8Array(inputs.length).fill(UNKNOWN));
    // A chip that is not as it was there comes on by itself.
    this.ownMemory = chips.map((chip, i) => !fresh || chip !== others?.[i]);
    this.memories = chips.map(({ logic }, i) => {
      if (fresh && !this.ownMemory[i]) return fresh.memories[i]!;
      return from && keepMemory ? copyMemory(from.memories[i]!) : emptyMemory(logic.program);
    });
    this.powered = fresh ? [...fresh.powered] : chips.map(() => true);
    this.driversOf = driversByNode(network);
    this.readersOf = readersByNode(network);
    chips.forEach((chip, c) => {
      if (chip !== others?.[c] || !known)
        chip.logic.inputs.forEach(
          ({ stuck }, input) => stuck !== undefined && this.see(c, input, stuck),
        );
    });
  }

  see(chip: number, input: number, level: Level): void {
    if (!this.ownSeen[chip]) this.seen[chip] = this.seen[chip]!.slice();
    this.ownSeen[chip] = true;
    this.seen[chip]![input] = level;
  }

  /** Whether a chip may have been told something else than on the known board. */
  wasTold(chip: number): boolean {
    return this.ownSeen[chip]!;
  }

  /** Levels of all drivers and inputs in one row. */
  row(): Uint8Array {
    const { driven, seen } = this;
    const row = new Uint8Array(seen.reduce((sum, { length }) => sum + length, driven.length));
    row.set(driven);
    let at = driven.length;
    for (const levels of seen) {
      row.set(levels, at);
      at += levels.length;
    }
    return row;
  }

  /**
   * Runs changes through these chips and on, one delay at a time, until nothing moves; what moves
   * for too long pulses. phases: the circuit's points now.
   */
  propagate(start: ReadonlySet<number>, phases: readonly Float64Array[]): void {
    let dirty = start;
    for (let delay = 0; delay < MOST_DELAYS && dirty.size > 0; delay += 1) {
      const moved = new Set<number>();
      const before = delay >= MOST_DELAYS / 2 ? this.driven.slice() : undefined;
      for (const chip of dirty) this.evaluate(chip, moved);
      if (before && moved.size > 0) this.lockThose(dirty, before);
      dirty = this.readersTold(moved, phases);
    }
  }

  /**
   * Switches the chips that have registers on at the levels that the board has come to: a board is
   * powered with its fault, so none may hold what an input's way there from the known board (or
   * from the dark) clocked in. Returns whether anything is different then.
   */
  comeOn(phases: readonly Float64Array[]): boolean {
    const moved = new Set<number>();
    this.network.chips.forEach(({ logic: { program } }, c) => {
      if (!this.ownMemory[c] || program.registers.length === 0) return;
      this.memories[c] = emptyMemory(program);
      this.evaluate(c, moved);
    });
    this.propagate(this.readersTold(moved, phases), phases);
    return moved.size > 0;
  }

  /**
   * Outputs that keep changing pulse: those of these chips that are not as before, or all of theirs
   * where that is none. The other gates of a package have no part in it.
   */
  lockThose(chips: Iterable<number>, before: Uint8Array): void {
    const outputs = [...chips].flatMap((chip) =>
      this.network.chips[chip]!.outputs.map(({ driver }) => driver),
    );
    const changing = outputs.filter((driver) => this.driven[driver] !== before[driver]);
    for (const driver of changing.length > 0 ? changing : outputs) {
      if (this.driven[driver] === OFF) continue;
      this.locked.add(driver);
      this.driven[driver] = PULSE;
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

  /**
   * Tells the readers of nodes their new levels where the drivers alone decide them; elsewhere the
   * circuit will. Returns the chips that see something new.
   */
  private readersTold(nodes: Iterable<number>, phases: readonly Float64Array[]): Set<number> {
    const told = new Set<number>();
    for (const node of nodes) {
      if (this.overruled.has(node)) continue;
      const active = this.driversOf
        .get(node)!
        .map((driver) => this.driven[driver] as Driven)
        .filter((level) => level !== OFF);
      if (active.length > 1) continue;
      // What nothing drives any more goes high where a resistor pulls it to a supply that is there:
      // a forecast, which the circuit then confirms or corrects.
      const level = active[0] ?? (isPulledUp(this.network, node, phases) ? HIGH : undefined);
      if (level === undefined) continue;
      for (const [chip, input] of this.readersOf.get(node) ?? []) {
        const { stuck } = this.network.chips[chip]!.logic.inputs[input]!;
        if (stuck !== undefined || this.network.chips[chip]!.inputs[input]!.against !== undefined)
          continue;
        if (this.seen[chip]![input] === level) continue;
        this.see(chip, input, level);
        told.add(chip);
      }
    }
    return told;
  }
}
