import type { ElkNode } from 'elkjs/lib/elk-api.js';
import potpack from 'potpack';
import type { Place } from './graph';

interface PlacedNode extends Place {
  readonly id: string;
  readonly width: number;
  readonly height: number;
}

export interface PackedWire {
  readonly points: readonly Place[];
  readonly isBus: boolean;
}

export interface Packed {
  readonly width: number;
  readonly height: number;
  readonly nodes: readonly PlacedNode[];
  readonly wires: readonly PackedWire[];
}

/** Width to height of a frame. */
const ASPECT = 1.6;
const GAP = 26;
const EDGE = 8;

/**
 * What hangs together in a laid-out graph, moved close to what else there is: the largest first, small
 * pieces into the gaps. In each piece nothing moves.
 */
export function packComponents(graph: ElkNode): Packed {
  const nodes = (graph.children ?? []).map(({ id, x = 0, y = 0, width = 0, height = 0 }) => ({
    id,
    x,
    y,
    width,
    height,
  }));
  const wires = (graph.edges ?? []).flatMap(({ sources: [from], targets: [to], sections = [] }) =>
    sections.map(({ startPoint, bendPoints = [], endPoint }) => ({
      points: [startPoint, ...bendPoints, endPoint],
      isBus: isBus(from!) || isBus(to!),
      nodes: [nodeOf(from!), nodeOf(to!)] as const,
    })),
  );
  const pieceOf = piecesOf(
    nodes.map(({ id }) => id),
    wires.map((wire) => wire.nodes),
  );
  const boxes = new Map<string, { left: number; top: number; right: number; bottom: number }>();
  const cover = (piece: string, left: number, top: number, right: number, bottom: number): void => {
    const box = boxes.get(piece) ?? { left, top, right, bottom };
    boxes.set(piece, {
      left: Math.min(box.left, left),
      top: Math.min(box.top, top),
      right: Math.max(box.right, right),
      bottom: Math.max(box.bottom, bottom),
    });
  };
  for (const { id, x, y, width, height } of nodes)
    cover(pieceOf.get(id)!, x, y, x + width, y + height);
  for (const { nodes: ends, points } of wires)
    for (const { x, y } of points) cover(pieceOf.get(ends[0])!, x, y, x, y);

  const packing = [...boxes].map(([piece, { left, top, right, bottom }]) => ({
    piece,
    left,
    top,
    w: (right - left + GAP) / ASPECT,
    h: bottom - top + GAP,
    x: 0,
    y: 0,
  }));
  const { w, h } = potpack(packing);
  const shift = new Map(
    packing.map(({ piece, left, top, x, y }) => [
      piece,
      { x: EDGE + x * ASPECT - left, y: EDGE + y - top },
    ]),
  );
  const moved = ({ x, y }: Place, node: string): Place => {
    const by = shift.get(pieceOf.get(node)!)!;
    return { x: x + by.x, y: y + by.y };
  };
  return {
    width: w * ASPECT - GAP + 2 * EDGE,
    height: h - GAP + 2 * EDGE,
    nodes: nodes.map((node) => ({ ...node, ...moved(node, node.id) })),
    wires: wires.map(({ points, isBus, nodes: [from] }) => ({
      isBus,
      points: points.map((point) => moved(point, from)),
    })),
  };
}

const isBus = (port: string): boolean => port.startsWith('b:');
/** The node of a port: what stands before its last colon. */
const nodeOf = (port: string): string => port.slice(0, port.lastIndexOf(':'));

/** Which nodes hang together, each under the name of one of them. */
function piecesOf(
  ids: readonly string[],
  joins: readonly (readonly [string, string])[],
): ReadonlyMap<string, string> {
  const parent = new Map(ids.map((id) => [id, id]));
  const rootOf = (id: string): string => {
    let root = id;
    while (parent.get(root) !== root) root = parent.get(root)!;
    return root;
  };
  for (const [a, b] of joins) parent.set(rootOf(a), rootOf(b));
  return new Map(ids.map((id) => [id, rootOf(id)]));
}
