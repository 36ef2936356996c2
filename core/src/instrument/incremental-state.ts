import type { BoardIndex, Part } from '../board';
import {
  afterSmallStep,
  exchangeElements,
  freshChips,
  drivenAfter,
  drivenThere,
  solveMixedSignal,
  SolvedStates,
  stepBetween,
  BaseLinearisation,
  type ConductanceChange,
  type NetlistChange,
  type FreshChips,
  type Network,
  type MixedSignalSolution,
} from '../circuit';
import type { Element } from '../device';
import {
  isOpenFault,
  partsChangedBy,
  siteElements,
  stateParts,
  type BoardState,
  type FaultState,
  type PartElements,
} from '../fault';
import { takeSnapshot, type AtRest, type VoltSnapshot } from './snapshot';
import { oncePer } from '../once-per';

/**
 * A net whose source a single conductance changes by more than this is kept though it stays where
 * it is: a meter takes another share of it, ohm.
 */
const SOURCE_OHM = 2e4;
/** Snapshots of changes that several faults come to, kept at a time. */
const MOST_KEPT = 20_000;

/** A faulty board found beside the one at rest. */
interface Solved {
  readonly faults: readonly FaultState[];
  readonly netlistChange: NetlistChange;
  readonly settled: MixedSignalSolution;
  readonly snapshot: VoltSnapshot;
}

/**
 * A board at rest and what stands beside it: the same board with a few faults, found where it
 * differs. Lives as long as the board's state.
 */
export class IncrementalState {
  /** The phases of the board at rest. */
  readonly points: readonly BaseLinearisation[];
  private readonly fresh: FreshChips | undefined;
  private readonly elementsOfPart = new Map<string, ReadonlySet<unknown>>();
  /**
   * By what they change, where that is conductances alone: a shorted capacitor and a bridge beside
   * it are one circuit.
   */
  private readonly known = new Map<string, VoltSnapshot | null>();
  /** Parts through which a symptom looks at a current. */
  private readonly lookedAt: ReadonlySet<string>;
  readonly sound: VoltSnapshot;
  private readonly held: Uint8Array;
  private readonly solved = new SolvedStates();
  /** What was solved last. */
  private latest: Solved | undefined;

  constructor(
    private readonly index: BoardIndex,
    private readonly state: BoardState,
    private readonly parts: readonly PartElements[],
    private readonly network: Network,
    private readonly settled: MixedSignalSolution,
  ) {
    this.lookedAt = new Set(
      (index.board.observables ?? []).flatMap(({ when }) =>
        when.flatMap((one) => (one.type === 'ampere' ? [one.ref] : [])),
      ),
    );
    this.points = settled.phases.map(
      (x, phase) => new BaseLinearisation(network, settled.drives[phase]!, x),
    );
    this.fresh = network.chips.length > 0 ? freshChips(network, settled) : undefined;
    this.held = drivenThere(this.points[0]!);
    this.sound = takeSnapshot(this.atRest(network, settled, this.held, []));
  }

  /**
   * What of the nets is not as on the board at rest once it has these faults; undefined where that
   * has to be found by itself.
   */
  snapshot(faults: readonly FaultState[]): VoltSnapshot | undefined {
    const touched = touchedParts(this.index, { ...this.state, faults }, this.parts);
    const netlistChange = changeParts(this.network, touched, faults);
    if (!netlistChange) return undefined;
    // Whose own current somebody looks at: a short across it and one beside it are one circuit, but
    // not one current.
    const looked = touched.after.some(({ part }) => this.lookedAt.has(part.ref));
    const key = looked ? undefined : keyOf(netlistChange, this.network);
    let known = key === undefined ? undefined : this.known.get(key);
    if (known === undefined) {
      known = this.find(faults, netlistChange, touched.after) ?? null;
      if (this.known.size >= MOST_KEPT) this.known.clear();
      if (key !== undefined) this.known.set(key, known);
    }
    return known ?? undefined;
  }

  private find(
    faults: readonly FaultState[],
    netlistChange: NetlistChange,
    changed: readonly PartElements[],
  ): VoltSnapshot | undefined {
    const { latest } = this;
    const like = latest && leaksOtherwise(latest.faults, faults) ? latest : undefined;
    const stepped = like && this.fromLatest(like, netlistChange);
    if (like && stepped === like.settled) return like.snapshot;
    if (stepped) return this.take(netlistChange, stepped, changed);
    const { points, fresh, solved, settled } = this;
    const result = solveMixedSignal(netlistChange.network, {
      from: settled,
      fromNetwork: this.network,
      near: { points, netlistChange, fresh, solved },
    });
    const snapshot = result.ok ? this.take(netlistChange, result, changed) : undefined;
    this.latest =
      snapshot && result.ok ? { faults, netlistChange, settled: result, snapshot } : undefined;
    return snapshot;
  }

  private fromLatest(
    { netlistChange, settled }: Solved,
    { difference }: NetlistChange,
  ): MixedSignalSolution | undefined {
    const step = stepBetween(netlistChange.difference, difference);
    return step && afterSmallStep(netlistChange, settled, step);
  }

  private take(
    { network, difference }: NetlistChange,
    found: MixedSignalSolution,
    changed: readonly PartElements[],
  ): VoltSnapshot {
    const { points, settled } = this;
    const held = drivenAfter(
      points[0]!,
      network,
      difference,
      found.drives[0]!,
      found.phases[0]!,
      found.moved,
    );
    const [only, ...others] = difference.conductances;
    const single =
      only && others.length === 0 && only.a < network.size && only.b < network.size
        ? only
        : undefined;
    const reloaded = single ? this.sourcesMovedBy(single) : [];
    return takeSnapshot(this.atRest(network, found, held, changed), {
      snapshot: this.sound,
      settled,
      held: this.held,
      reloaded,
    });
  }

  private atRest(
    network: Network,
    settled: MixedSignalSolution,
    held: Uint8Array,
    changed: readonly PartElements[],
  ): AtRest {
    return {
      index: this.index,
      network,
      settled,
      setup: this.state.setup,
      held,
      ownedBy: (ref) => this.ownedBy(ref, changed),
    };
  }

  /**
   * The nodes at which one conductance changes what a meter looks into by so much that it shows.
   */
  private sourcesMovedBy({ a, b, siemens }: ConductanceChange): readonly number[] {
    const point = this.points[0]!;
    const change = between(a, b, (node) => point.column(node));
    const output = between(a, b, (node) => point.adjoint(node, -1));
    const factor = siemens / (1 + siemens * (change(a) - change(b)));
    const moved: number[] = [];
    for (let node = 0; node < this.network.nodeCount; node += 1)
      if (Math.abs(factor * change(node) * output(node)) > SOURCE_OHM) moved.push(node);
    return moved;
  }

  private ownedBy(ref: string, changed: readonly PartElements[]): ReadonlySet<unknown> {
    const other = changed.find(({ part }) => part.ref === ref);
    if (other) return new Set(other.elements);
    let own = this.elementsOfPart.get(ref);
    if (!own)
      this.elementsOfPart.set(
        ref,
        (own = new Set(this.parts.find(({ part }) => part.ref === ref)?.elements)),
      );
    return own;
  }
}

/**
 * Whether two boards have the same single open, which leaks more in one: all else that it changes
 * is the same.
 */
function leaksOtherwise(
  [one, ...others]: readonly FaultState[],
  [now, ...rest]: readonly FaultState[],
): boolean {
  return (
    one !== undefined &&
    one.fault === now?.fault &&
    others.length + rest.length === 0 &&
    isOpenFault(one.fault)
  );
}

/** The difference of two unknowns' vectors, at any unknown; ground has nothing of either. */
function between(
  a: number,
  b: number,
  vector: (unknown: number) => Float64Array,
): (unknown: number) => number {
  const [one, other] = [a, b].map((unknown) => (unknown < 0 ? undefined : vector(unknown)));
  return (unknown) => (unknown < 0 ? 0 : (one?.[unknown] ?? 0) - (other?.[unknown] ?? 0));
}

/** The parts on which faults act, as they are without and with them. */
export interface TouchedParts {
  readonly before: readonly PartElements[];
  readonly after: readonly PartElements[];
}

const placesOf = oncePer(
  (parts: readonly PartElements[]): ReadonlyMap<Part, number> =>
    new Map(parts.map(({ part }, place) => [part, place])),
);

/** parts: of the same board in the same setup without these faults. */
export function touchedParts(
  index: BoardIndex,
  state: BoardState,
  parts: readonly PartElements[],
): TouchedParts {
  const places = placesOf(parts);
  const found = state.faults.flatMap(({ fault }) =>
    partsChangedBy(index, fault).flatMap((part) => places.get(part) ?? []),
  );
  const before = [...new Set(found)].sort((a, b) => a - b).map((place) => parts[place]!);
  return { before, after: stateParts(index, state, before) };
}

/** What faults come to in the circuit of the board without them. */
export function changeParts(
  network: Network,
  { before, after }: TouchedParts,
  faults: readonly FaultState[],
): NetlistChange | undefined {
  const elements = (parts: readonly PartElements[]): readonly Element[] =>
    parts.flatMap((part) => part.elements);
  return exchangeElements(network, elements(before), [...elements(after), ...siteElements(faults)]);
}

/** One text for all changes that are the same conductances; undefined for any other. */
function keyOf(
  { difference: { conductances, gone, come, branches, extra }, network: { chips } }: NetlistChange,
  base: Network,
): string | undefined {
  if (extra > 0 || branches.length > 0 || chips !== base.chips) return undefined;
  if (
    [gone, come].some(
      ({ junctions, transistors, characteristics }) =>
        junctions.length + transistors.length + characteristics.length > 0,
    )
  )
    return undefined;
  const sums = new Map<string, number>();
  for (const { a, b, siemens } of conductances) {
    const key = a < b ? `${a}~${b}` : `${b}~${a}`;
    sums.set(key, (sums.get(key) ?? 0) + siemens);
  }
  return [...sums]
    .map(([place, siemens]) => `${place}:${siemens}`)
    .sort()
    .join();
}
