import { powerOf, type BoardIndex, type Point } from '../board';
import {
  buildNetwork,
  contentions,
  drivenNodes,
  isUnknown,
  nodeOf,
  solveMixedSignal,
  type Contention,
  type Network,
  type NoOperatingPoint,
  type MixedSignalSolution,
} from '../circuit';
import type { Element } from '../device';
import {
  nodeBehind,
  siteElements,
  stateParts,
  type BoardState,
  type FaultState,
  type PartElements,
} from '../fault';
import { IncrementalState, changeParts, touchedParts } from './incremental-state';
import { areJoined } from './ohmmeter';
import { meanVolt } from './powered-meter';
import { takeSnapshot, type VoltSnapshot } from './snapshot';

/**
 * A board in one state as a circuit: its network, its solution, and what stands beside it. Keeps
 * what it solved.
 */
export class SolvedState {
  readonly network: Network;
  private readonly startFrom: MixedSignalSolution | undefined;
  private readonly startNetwork: Network | undefined;
  private settled?: MixedSignalSolution | NoOperatingPoint;
  private ownIncremental?: IncrementalState;
  private ownParts: readonly PartElements[] | undefined;
  private ownSiteElements: readonly Element[] | undefined;
  /** The parts of a sound board in the same setup, whose elements serve wherever no fault is. */
  private readonly likeParts: readonly PartElements[] | undefined;

  /**
   * like: a state to begin from, solved where it can be; keepMemory: the chips remember what they
   * did in it.
   */
  constructor(
    readonly index: BoardIndex,
    readonly state: BoardState,
    like: SolvedState | undefined,
    private readonly keepMemory: boolean,
  ) {
    if (
      like &&
      like.index === index &&
      like.state.setup === state.setup &&
      like.state.faults.length === 0 &&
      like.state.absent.join() === state.absent.join()
    )
      this.likeParts = like.parts;
    this.network =
      (like && this.derivedFrom(like)) ?? buildNetwork(this.elements, index.nets, like?.network);
    this.startFrom =
      like?.settled?.ok === true && sameChips(like.network, this.network)
        ? like.settled
        : undefined;
    this.startNetwork = like?.network;
  }

  /** The solution where it was worked out already; undefined where not, or where there is none. */
  get known(): MixedSignalSolution | undefined {
    return this.settled?.ok ? this.settled : undefined;
  }

  /** What stands beside this state, where it was asked for already. */
  get knownIncremental(): IncrementalState | undefined {
    return this.ownIncremental;
  }

  /** The circuit of this state, part by part. */
  get parts(): readonly PartElements[] {
    return (this.ownParts ??= stateParts(this.index, this.state, this.likeParts));
  }

  /** What bridges and cuts add; the same objects each time. */
  private get siteElements(): readonly Element[] {
    return (this.ownSiteElements ??= siteElements(this.state.faults));
  }

  get elements(): readonly Element[] {
    return [...this.parts.flatMap(({ elements }) => elements), ...this.siteElements];
  }

  /**
   * The network of a state that is another one with a few faults more; undefined where it needs a
   * structure of its own.
   */
  private derivedFrom(like: SolvedState): Network | undefined {
    const { faults } = this.state;
    if (!this.likeParts || faults.length === 0) return undefined;
    const netlistChange = changeParts(
      like.network,
      touchedParts(this.index, this.state, this.likeParts),
      faults,
    );
    return netlistChange?.whole ? netlistChange.network : undefined;
  }

  /** What stands beside this state; undefined where it has no solution. */
  get incremental(): IncrementalState | undefined {
    const settled = this.solve();
    if (!settled.ok) return undefined;
    return (this.ownIncremental ??= new IncrementalState(
      this.index,
      this.state,
      this.parts,
      this.network,
      settled,
    ));
  }

  /**
   * The board at rest, circuit and logic together, or why it has no solution. Off, everything is at
   * zero.
   */
  solve(): MixedSignalSolution | NoOperatingPoint {
    if (this.settled) return this.settled;
    if (powerOf(this.state.setup) === 'off') return (this.settled = atZero(this.network));
    const result = solveMixedSignal(this.network, {
      from: this.startFrom,
      fromNetwork: this.startNetwork,
      keepMemory: this.keepMemory,
    });
    this.network.lu.owner = undefined;
    return (this.settled = result);
  }

  /**
   * Volts of every net to net 0; null where nothing gives a net its level, or where nobody knows
   * which level a chip gives it.
   */
  netVolts(): Record<string, number | null> | NoOperatingPoint {
    const settled = this.solve();
    if (!settled.ok) return settled;
    const held =
      this.network.chips.length > 0 ? drivenNodes(this.network, settled.drives[0]!) : undefined;
    return Object.fromEntries(
      this.index.nets.map((net): [string, number | null] => {
        const node = nodeOf(this.network, net)!;
        if (node < 0) return [net, 0];
        if (
          this.network.component[node] !== 0 ||
          held?.[node] === 0 ||
          isUnknown(this.network, settled, node)
        )
          return [net, null];
        return [net, meanVolt(settled, node, -1)];
      }),
    );
  }

  /**
   * Volts of every net, small enough to be kept for thousands of states; undefined where there is
   * no solution.
   */
  snapshot(): VoltSnapshot | undefined {
    if (this.ownIncremental) return this.ownIncremental.sound;
    const settled = this.solve();
    if (!settled.ok) return undefined;
    const { index, network, state } = this;
    const held = drivenNodes(network, settled.drives[0]!, settled.phases[0]);
    return takeSnapshot({
      index,
      network,
      settled,
      setup: state.setup,
      held,
      ownedBy: (ref) => this.ownedBy(ref),
    });
  }

  /**
   * What of the nets is not as here once the board has these faults too; undefined where that needs
   * a state of its own.
   */
  snapshotWith(faults: readonly FaultState[]): VoltSnapshot | undefined {
    return this.incremental?.snapshot(faults);
  }

  /**
   * What is odd about the logic of the board at rest: outputs against each other, and outputs that
   * never come to rest.
   */
  troubles(): {
    readonly contentions: readonly Contention[];
    readonly oscillating: readonly string[];
  } {
    const settled = this.solve();
    if (!settled.ok) return { contentions: [], oscillating: [] };
    return {
      contentions: contentions(this.network, settled),
      oscillating: [...settled.oscillating].map((driver) => this.network.drivers[driver]!),
    };
  }

  /** The elements of a part, by which the circuit knows it. */
  ownedBy(ref: string): ReadonlySet<unknown> {
    return new Set(this.parts.find(({ part }) => part.ref === ref)?.elements);
  }

  /**
   * The node a probe touches: on a dry pin the part's side of the joint, on a pin behind a cut that
   * side.
   */
  nodeName(point: Point): string {
    return (point.pin && nodeBehind(point.pin, this.state.faults)) ?? point.net;
  }

  nodeAt(point: Point): number {
    return nodeOf(this.network, this.nodeName(point)) ?? nodeOf(this.network, point.net) ?? -1;
  }

  joined(a: number, b: number): boolean {
    return areJoined(this.network, a, b);
  }
}

/** A board that is off: nothing has a voltage and no chip drives. */
function atZero(network: Network): MixedSignalSolution {
  const drives = new Uint8Array(network.drivers.length);
  return {
    ok: true,
    phases: [new Float64Array(network.size)],
    drives: [drives],
    driven: drives,
    seen: [],
    memories: [],
    oscillating: new Set(),
  };
}

function sameChips(a: Network, b: Network): boolean {
  return a.drivers.length === b.drivers.length && a.chips.length === b.chips.length;
}
