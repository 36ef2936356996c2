import ELK, { type ElkNode } from 'elkjs/lib/elk-api.js';
import elkWorkerUrl from 'elkjs/lib/elk-worker.min.js?url';
import {
  GROUND,
  isInsidePackage,
  nameKey,
  replaceableRef,
  type BoardIndex,
  type Part,
} from '@hanzai/core/board';

/** Sizes of the drawing, px. */
export const MAP = {
  barThickness: 8,
  legWidth: 74,
  legHeight: 84,
  barLabel: 30,
  partWidth: 84,
  partHeight: 58,
} as const;

/**
 * One replaceable part as the map draws it. `nets` are those other than ground; `grounded` says
 * that one of its pins is on ground.
 */
interface MapPart {
  readonly ref: string;
  readonly parts: readonly Part[];
  readonly nets: readonly string[];
  readonly grounded: boolean;
  /** How many more nets the part has that the view leaves out. */
  readonly left: number;
}

export interface PlacedPart extends MapPart {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** leg: hangs from a net's bar to ground. bridge: stands between nets. */
  readonly form: 'leg' | 'bridge';
}

export interface PlacedNet {
  readonly net: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  /** True where parts of the board hang on this net that the view leaves out. */
  readonly more: boolean;
}

export interface MapLayout {
  readonly width: number;
  readonly height: number;
  readonly nets: readonly PlacedNet[];
  readonly parts: readonly PlacedPart[];
  readonly wires: readonly {
    readonly points: readonly { readonly x: number; readonly y: number }[];
  }[];
}

/**
 * Under which name an element is drawn: elements of an array and pins of a connector stand on their
 * own, the inside of a package is one box.
 */
export function drawnRef(ref: string): string {
  return isInsidePackage(ref) ? replaceableRef(ref) : ref;
}

/** Width of a net's name on the drawing, with room for the dots that say there is more, px. */
export function nameWidth(net: string): number {
  return net.length * 10.5 + 24;
}

let elk: InstanceType<typeof ELK> | undefined;

/**
 * Lays the parts out: nets as bars, parts to ground hanging from them, the rest between them, from
 * the supplies on the left to the right. Runs in a worker. refs: the replaceable parts to draw;
 * undefined draws all. marked: nets that are drawn whatever else hangs on them. flagWidth: room
 * that the flag pinned on a net needs, px.
 */
export async function layoutMap(
  index: BoardIndex,
  refs: ReadonlySet<string> | undefined,
  marked: ReadonlySet<string>,
  flagWidth: (net: string) => number,
): Promise<MapLayout> {
  const all = collectParts(index);
  const chosen = all.filter(({ ref }) => !refs || refs.has(ref));
  const shown = refs ? chosen.map((part) => withoutIdleNets(part, chosen, marked)) : chosen;
  const depth = depthOfNets(index);
  const legs = new Map<string, MapPart[]>();
  const bridges: MapPart[] = [];
  const nets = new Set<string>();
  for (const part of shown) {
    part.nets.forEach((net) => nets.add(net));
    if (part.nets.length === 1) legs.set(part.nets[0]!, [...(legs.get(part.nets[0]!) ?? []), part]);
    else if (part.nets.length > 1) bridges.push(part);
  }
  const barWidth = (net: string): number =>
    Math.max(
      nameWidth(net) + flagWidth(net) + 12,
      (legs.get(net)?.length ?? 0) * MAP.legWidth + 6,
      56,
    );
  const barHeight = (net: string): number =>
    MAP.barLabel + MAP.barThickness + (legs.has(net) ? MAP.legHeight : 0);
  const children: ElkNode[] = [
    ...[...nets].map((net) => ({
      id: `n:${net}`,
      width: barWidth(net),
      height: barHeight(net),
      layoutOptions: { 'elk.portConstraints': 'FIXED_POS' },
      ports: [
        port(`n:${net}:in`, 0, MAP.barLabel + MAP.barThickness / 2, 'WEST'),
        port(`n:${net}:out`, barWidth(net), MAP.barLabel + MAP.barThickness / 2, 'EAST'),
      ],
    })),
    ...bridges.map((part) => ({
      id: `p:${part.ref}`,
      width: MAP.partWidth,
      height: MAP.partHeight,
    })),
  ];
  const edges = bridges.flatMap((part) => {
    const order = [...part.nets].sort((a, b) => (depth.get(a) ?? 99) - (depth.get(b) ?? 99));
    const split =
      (depth.get(order[0]!) ?? 99) === (depth.get(order.at(-1)!) ?? 99)
        ? 1
        : order.findIndex((net) => (depth.get(net) ?? 99) > (depth.get(order[0]!) ?? 99));
    return order.map((net, i) =>
      i < Math.max(1, split)
        ? { id: `${part.ref}>${i}`, sources: [`n:${net}:out`], targets: [`p:${part.ref}`] }
        : { id: `${part.ref}>${i}`, sources: [`p:${part.ref}`], targets: [`n:${net}:in`] },
    );
  });
  elk ??= new ELK({ workerFactory: () => new Worker(elkWorkerUrl) });
  const graph = await elk.layout({
    id: 'map',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': '16',
      'elk.layered.spacing.edgeNodeBetweenLayers': '8',
      'elk.spacing.nodeNode': '16',
      'elk.layered.wrapping.strategy': 'MULTI_EDGE',
      'elk.layered.wrapping.additionalEdgeSpacing': '14',
      'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
      'elk.layered.nodePlacement.bk.fixedAlignment': 'BALANCED',
      'elk.padding': '[top=8,left=8,bottom=8,right=8]',
      'elk.separateConnectedComponents': 'true',
      'elk.aspectRatio': '1.6',
    },
    children,
    edges,
  });
  return place(graph, legs, bridges, all, refs);
}

/**
 * A part with more nets than this, such as a chip, is drawn with those alone that another part
 * shown or a mark is on.
 */
const MANY_NETS = 5;

function withoutIdleNets(
  part: MapPart,
  shown: readonly MapPart[],
  marked: ReadonlySet<string>,
): MapPart {
  if (part.nets.length <= MANY_NETS) return part;
  const busy = part.nets.filter(
    (net) => marked.has(net) || shown.some((other) => other !== part && other.nets.includes(net)),
  );
  const nets = busy.length > 0 ? busy : part.nets.slice(0, MANY_NETS);
  return { ...part, nets, left: part.nets.length - nets.length };
}

function port(id: string, x: number, y: number, side: string) {
  return { id, x, y, width: 0, height: 0, layoutOptions: { 'elk.port.side': side } };
}

function collectParts(index: BoardIndex): readonly MapPart[] {
  const seen = new Map<string, Part[]>();
  for (const part of index.board.parts) {
    const key = drawnRef(part.ref);
    seen.set(key, [...(seen.get(key) ?? []), part]);
  }
  return [...seen].map(([ref, parts]) => {
    const nets = [
      ...new Set(
        parts
          .flatMap((part) => part.pins)
          .filter((net) => !/\.\D/.test(net))
          .map((net) => index.netByKey.get(nameKey(net))!),
      ),
    ];
    // A pin that is joined to nothing is no part of the way.
    const joined = nets.filter(
      (net) => net !== GROUND && (index.pinsOfNet.get(net)?.length ?? 0) > 1,
    );
    return { ref, parts, nets: joined, grounded: nets.includes(GROUND), left: 0 };
  });
}

/** How many parts lie between a net and the nearest supply: the order from left to right. */
function depthOfNets(index: BoardIndex): ReadonlyMap<string, number> {
  const depth = new Map<string, number>();
  let wave = index.board.parts
    .filter((part) => part.kind === 'voltageSource')
    .flatMap((part) => part.pins)
    .map((net) => index.netByKey.get(nameKey(net))!)
    .filter((net) => net !== GROUND);
  for (let step = 0; wave.length > 0; step += 1) {
    const fresh = wave.filter((net) => !depth.has(net));
    fresh.forEach((net) => depth.set(net, step));
    wave = fresh.flatMap((net) =>
      (index.pinsOfNet.get(net) ?? []).flatMap(({ part }) =>
        part.pins
          .map((other) => index.netByKey.get(nameKey(other))!)
          .filter((other) => other !== GROUND),
      ),
    );
  }
  return depth;
}

function place(
  graph: ElkNode,
  legs: ReadonlyMap<string, MapPart[]>,
  bridges: readonly MapPart[],
  all: readonly MapPart[],
  refs: ReadonlySet<string> | undefined,
): MapLayout {
  const nets: PlacedNet[] = [];
  const parts: PlacedPart[] = [];
  for (const node of graph.children ?? []) {
    const { x = 0, y = 0, width = 0, height = 0 } = node;
    const name = node.id.slice(2);
    if (node.id.startsWith('p:'))
      parts.push({
        ...bridges.find(({ ref }) => ref === name)!,
        x,
        y,
        width,
        height,
        form: 'bridge',
      });
    else {
      nets.push({
        net: name,
        x,
        y: y + MAP.barLabel,
        width,
        more:
          refs !== undefined && all.some((part) => !refs.has(part.ref) && part.nets.includes(name)),
      });
      (legs.get(name) ?? []).forEach((part, i) =>
        parts.push({
          ...part,
          x: x + 4 + i * MAP.legWidth,
          y: y + MAP.barLabel + MAP.barThickness,
          width: MAP.legWidth - 8,
          height: MAP.legHeight,
          form: 'leg',
        }),
      );
    }
  }
  const wires = (graph.edges ?? []).flatMap((edge) =>
    (edge.sections ?? []).map((section) => ({
      points: [section.startPoint, ...(section.bendPoints ?? []), section.endPoint],
    })),
  );
  return { width: graph.width ?? 0, height: graph.height ?? 0, nets, parts, wires };
}
