import ELK, { type ElkNode } from 'elkjs/lib/elk-api.js';
import elkWorkerUrl from 'elkjs/lib/elk-worker.min.js?url';
import type { BoardIndex } from '@hanzai/core/board';
import { drawnRef, type Drawn } from './drawn';
import { drawnParts } from './drawn-parts';
import {
  acrossMargins,
  blockShape,
  depthOfNets,
  graphOf,
  hungOn,
  isTurned,
  margins,
  nameRoom,
  SIZE,
  type Hung,
  type Place,
  type Sheet,
} from './graph';

export type PlacedPart = Drawn &
  Place & {
    readonly width: number;
    readonly height: number;
    /** Where its pins are, from its own corner; of blocks only. */
    readonly spots: readonly Place[];
    /** How far its wires have to be led on, past signs and names beside it, px. */
    readonly lead: { readonly west: number; readonly east: number };
  };

export interface PlacedNet extends Place {
  readonly net: string;
  readonly width: number;
  /** True where parts of the board hang on this net that the view leaves out. */
  readonly more: boolean;
}

export interface DrawingLayout {
  readonly width: number;
  readonly height: number;
  readonly nets: readonly PlacedNet[];
  readonly parts: readonly PlacedPart[];
  readonly wires: readonly { readonly points: readonly Place[] }[];
}

/** Gives each node of a graph its place, and each edge its way. */
export type Arrange = (graph: ElkNode) => Promise<ElkNode>;

let elk: InstanceType<typeof ELK> | undefined;

const inWorker: Arrange = (graph) => {
  elk ??= new ELK({ workerFactory: () => new Worker(elkWorkerUrl) });
  return elk.layout(graph);
};

/**
 * Lays a board out as a drawing: nets as bars, what goes to ground hanging from them, what goes to a
 * supply standing on them, the rest between them, from the supplies on the left to the right. Runs
 * in a worker. refs: drawnRefs to draw; undefined draws all. marked: nets that are drawn whatever
 * else hangs on them. flagWidth: room that the flag pinned on a net needs, px.
 */
export async function layoutDrawing(
  index: BoardIndex,
  refs: ReadonlySet<string> | undefined,
  marked: ReadonlySet<string>,
  flagWidth: (net: string) => number,
  arrange: Arrange = inWorker,
): Promise<DrawingLayout> {
  const drawn = drawnParts(index, refs, marked);
  const sheet: Sheet = { index, refs, marked, flagWidth, depth: depthOfNets(index) };
  const first = await arrange(graphOf(drawn, sheet));
  const cut = cutWires(first, refs ? STRIP.part : STRIP.whole);
  if (cut.size === 0) return place(first, drawn, sheet);
  const labelled = drawn.map((one) => withLabels(one, cut));
  return place(await arrange(graphOf(labelled, sheet)), labelled, sheet);
}

/** A strip of a whole sheet, or of a part of it, is as wide as this, px: what goes on is drawn below. */
const STRIP = { whole: 960, part: 640 } as const;
/** A wire that rises or falls farther than this is not followed by the eye, px. */
const FARTHEST = 420;

/**
 * The wires that are replaced by names at their pins: those between strips, and those that are too
 * long to follow.
 */
function cutWires(graph: ElkNode, width: number): ReadonlySet<string> {
  const strip = new Map((graph.children ?? []).map(({ id, x = 0 }) => [id, Math.floor(x / width)]));
  const nodeOf = (port: string): string => port.slice(0, port.lastIndexOf(':'));
  return new Set(
    (graph.edges ?? []).flatMap(({ id, sources: [from], targets: [to], sections = [] }) => {
      const crosses = strip.get(nodeOf(from!)) !== strip.get(nodeOf(to!));
      const points = sections.flatMap(({ startPoint, bendPoints = [], endPoint }) => [
        startPoint,
        ...bendPoints,
        endPoint,
      ]);
      const ys = points.map(({ y }) => y);
      return crosses || Math.max(...ys) - Math.min(...ys) > FARTHEST ? [id!] : [];
    }),
  );
}

/** A symbol with names in place of the wires that are cut. */
function withLabels(one: Drawn, cut: ReadonlySet<string>): Drawn {
  const isCut = (i: number): boolean => cut.has(`p:${one.key}>${i}`);
  if (one.form === 'across') return { ...one, labelled: [isCut(0), isCut(1)] };
  if (one.form !== 'block') return one;
  return {
    ...one,
    pins: one.pins.map((pin, i) => (pin.by === 'wire' && isCut(i) ? { ...pin, by: 'label' } : pin)),
  };
}

const NO_LEAD = { west: 0, east: 0 } as const;

function place(graph: ElkNode, drawn: readonly Drawn[], sheet: Sheet): DrawingLayout {
  const { index, refs, depth } = sheet;
  const legs = hungOn(drawn, 'leg');
  const hats = hungOn(drawn, 'hat');
  const byKey = new Map(drawn.map((one) => [one.key, one]));
  const nets: PlacedNet[] = [];
  const parts: PlacedPart[] = [];
  const hang = (one: Hung, x: number, y: number): void =>
    void parts.push({
      ...one,
      x,
      y,
      width: SIZE.column,
      height: SIZE.leg,
      spots: [],
      lead: NO_LEAD,
    });
  for (const { id, x = 0, y = 0, width = 0, height = 0 } of graph.children ?? []) {
    const name = id.slice(2);
    if (id.startsWith('n:')) {
      const bar = y + (hats.has(name) ? SIZE.hat : SIZE.label);
      const more =
        refs !== undefined &&
        (index.pinsOfNet.get(name) ?? []).some(({ part }) => !refs.has(drawnRef(part.ref)));
      nets.push({ net: name, x, y: bar, width, more });
      (legs.get(name) ?? []).forEach((one, i) => hang(one, x + i * SIZE.column, bar + SIZE.bar));
      (hats.get(name) ?? []).forEach((one, i) =>
        hang(one, x + nameRoom(name, sheet) + i * SIZE.column, bar - SIZE.hat),
      );
      continue;
    }
    const one = byKey.get(name)!;
    if (one.form === 'across') {
      const turned = isTurned(one, depth);
      const { west } = acrossMargins(one, turned);
      const width = SIZE.acrossWidth;
      parts.push({ ...one, turned, x: x + west, y, width, height, spots: [], lead: NO_LEAD });
    } else if (one.form === 'block') {
      const lead = margins(one);
      parts.push({ ...one, x: x + lead.west, y, ...blockShape(one), lead });
    }
  }
  const wires = (graph.edges ?? []).flatMap((edge) =>
    (edge.sections ?? []).map((section) => ({
      points: [section.startPoint, ...(section.bendPoints ?? []), section.endPoint],
    })),
  );
  return { width: graph.width ?? 0, height: graph.height ?? 0, nets, parts, wires };
}
