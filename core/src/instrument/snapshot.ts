import type { BoardIndex, Setup } from '../board';
import { isUnknown, nodeOf, type Network, type MixedSignalSolution } from '../circuit';
import { UNKNOWN } from '../logic';
import { chanceSeen } from './observe';
import { oncePer } from '../once-per';

/** Volts of the nets of a board at rest, small enough to be kept for thousands of states. */
export interface VoltSnapshot {
  /**
   * Positions in board order of the nets that the lists are about, ascending: those that are not as
   * on the sound board. Undefined: every net, in order.
   */
  readonly nets: Uint16Array | undefined;
  /**
   * Volts, in both phases where the board has two. NaN: a net without a level of its own, of which
   * only the state itself can tell.
   */
  readonly low: Float32Array;
  readonly high: Float32Array | undefined;
  /** 1 for a net whose level rests on what nobody knows. */
  readonly unknown: Uint8Array;
  /** Chance of each of the board's observables, in its order; NaN for those of other setups. */
  readonly seen: Float32Array;
}

/**
 * A net that moved by less than this counts as unmoved, volt: below what single precision keeps of
 * the volts themselves.
 */
const SAME_VOLT = 2e-5;

/**
 * A board at rest to be looked at. held: which nodes something gives a level to. ownedBy: the
 * elements of a part, for observables that speak of its current.
 */
export interface AtRest {
  readonly index: BoardIndex;
  readonly network: Network;
  readonly settled: MixedSignalSolution;
  readonly setup: Setup;
  readonly held: Uint8Array;
  readonly ownedBy: (ref: string) => ReadonlySet<unknown>;
}

/**
 * The sound board to which a snapshot is taken as the difference. held: its nodes that have a
 * level. reloaded: nodes of which a meter takes another share now, so that only the state itself
 * can tell.
 */
export interface SoundBoard {
  readonly snapshot: VoltSnapshot;
  readonly settled: MixedSignalSolution;
  readonly held: Uint8Array;
  readonly reloaded: readonly number[];
}

/** What may have to be said of a net. */
const ASK = { nothing: 0, net: 1, reloaded: 2 } as const;

/**
 * Takes the snapshot of a board at rest: of every net, or of those that are not as on the sound
 * board.
 */
export function takeSnapshot(board: AtRest, sound?: SoundBoard): VoltSnapshot {
  const { index, network, settled, held } = board;
  const nodes = nodesOfNets(index, network);
  const [lows, highs] = [settled.phases[0]!, settled.phases[1]];
  const doubtful = highs !== undefined && settled.driven.includes(UNKNOWN);
  const ask = sound ? netsToAsk(board, nodes, sound) : undefined;
  const taken: number[] = [];
  const low: number[] = [];
  const high: number[] = [];
  const unknown: number[] = [];
  for (let net = 0; net < nodes.length; net += 1) {
    if (ask?.[net] === ASK.nothing) continue;
    const node = nodes[net]!;
    const floats = node >= 0 && (network.component[node] !== 0 || held[node] === 0);
    const first = floats ? NaN : node < 0 ? 0 : lows[node]!;
    const second = !highs || node < 0 ? first : highs[node]!;
    const doubt = doubtful && isUnknown(network, settled, node) ? 1 : 0;
    const reloaded = ask?.[net] === ASK.reloaded;
    const drifts =
      floats &&
      sound !== undefined &&
      Math.abs(lows[node]! - sound.settled.phases[0]![node]!) > SAME_VOLT;
    if (sound && !reloaded && !drifts && isSame(sound, net, first, second, doubt)) continue;
    taken.push(net);
    low.push(reloaded ? NaN : first);
    if (highs) high.push(second);
    unknown.push(doubt);
  }
  return {
    nets: sound ? Uint16Array.from(taken) : undefined,
    low: Float32Array.from(low),
    high: highs && high.some((volt, i) => volt !== low[i]) ? Float32Array.from(high) : undefined,
    unknown: Uint8Array.from(unknown),
    seen: observablesOf(board),
  };
}

/** The nets of which anything may be other than on the sound board. */
function netsToAsk({ settled, held }: AtRest, nodes: Int32Array, sound: SoundBoard): Uint8Array {
  const { moved, driven } = settled;
  const all =
    moved === undefined ||
    ((driven.includes(UNKNOWN) || sound.settled.driven.includes(UNKNOWN)) &&
      !driven.every((level, i) => level === sound.settled.driven[i]));
  const ask = new Uint8Array(nodes.length).fill(all ? ASK.net : ASK.nothing);
  const nets = netsOfNodes(nodes);
  const put = (node: number, what: number): void =>
    void (nets[node]! >= 0 && (ask[nets[node]!] = what));
  if (!all) for (const unknown of moved) if (unknown < nets.length) put(unknown, ASK.net);
  if (held !== sound.held)
    for (let node = 0; node < nets.length; node += 1)
      if (held[node] !== sound.held[node]) put(node, ASK.net);
  for (const node of sound.reloaded) put(node, ASK.reloaded);
  return ask;
}

/** The net on every node, -1 where a node is none; kept with the nodes of the nets. */
const netsOfNodes = oncePer((nodes: Int32Array) => {
  const nets = new Int32Array(nodes.reduce((most, node) => Math.max(most, node), -1) + 1).fill(-1);
  nodes.forEach((node, net) => node >= 0 && (nets[node] = net));
  return nets;
});

function isSame(
  { snapshot: { low, high, unknown } }: SoundBoard,
  net: number,
  first: number,
  second: number,
  doubt: number,
): boolean {
  const same = (volt: number, sound: number): boolean =>
    Number.isNaN(volt) ? Number.isNaN(sound) : Math.abs(volt - sound) <= SAME_VOLT;
  return doubt === unknown[net] && same(first, low[net]!) && same(second, (high ?? low)[net]!);
}

function observablesOf({ index, network, settled, setup, ownedBy }: AtRest): Float32Array {
  return Float32Array.from(index.board.observables ?? [], (observable) =>
    (observable.setup ?? 'on') === setup
      ? chanceSeen(index, observable, network, settled.phases, ownedBy)
      : NaN,
  );
}

const NODES = new WeakMap<Network['nodeIndex'], Int32Array>();

/** The node of every net, in board order. */
function nodesOfNets(index: BoardIndex, network: Network): Int32Array {
  let nodes = NODES.get(network.nodeIndex);
  if (!nodes)
    NODES.set(
      network.nodeIndex,
      (nodes = Int32Array.from(index.nets, (net) => nodeOf(network, net)!)),
    );
  return nodes;
}

/** Volts closer than this are one state, volt: no chip and no load tells them apart. */
const SAME_STATE_VOLT = 0.02;

/**
 * One text for all snapshots that show the same on these nets (positions in board order,
 * ascending), levels and what is not known included. A net that a snapshot leaves out is as on the
 * sound board.
 */
export function stateOn(
  { nets, low, high, unknown }: VoltSnapshot,
  asked: readonly number[],
): string {
  const at = nets ? new Map([...nets].map((net, i) => [net, i])) : undefined;
  const step = (volt: number): string =>
    Number.isNaN(volt) ? 'Z' : String(Math.round(volt / SAME_STATE_VOLT));
  return asked
    .flatMap((net) => {
      const i = at ? at.get(net) : net;
      return i === undefined
        ? []
        : [`${net}:${unknown[i] ? 'X' : `${step(low[i]!)},${step((high ?? low)[i]!)}`}`];
    })
    .join(' ');
}
