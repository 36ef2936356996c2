import type { ElkNode, ElkPort } from 'elkjs/lib/elk-api.js';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import type { Drawn, DrawnPin } from './drawn';

/** Sizes of the drawing, px. */
export const SIZE = {
  bar: 8,
  /** Room above a bar for its name and what is pinned to it. */
  label: 30,
  column: 100,
  leg: 112,
  hat: 112,
  acrossWidth: 104,
  acrossHeight: 68,
  pinRow: 24,
  blockHead: 44,
  boxWidth: 128,
  stub: 30,
} as const;

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** Width of a net's name on the drawing, with room for the dots that say there is more, px. */
export function nameWidth(net: string): number {
  return net.length * 10.5 + 24;
}

export type Hung = Extract<Drawn, { form: 'leg' | 'hat' }>;
type Block = Extract<Drawn, { form: 'block' }>;

/** The size of a block and where its pins are. */
export function blockShape(block: Block): { width: number; height: number; spots: Place[] } {
  const sides = { west: 0, east: 0 };
  if (block.symbol === 'npn' || block.symbol === 'pnp') {
    const [width, height] = [92, 108];
    const up = block.symbol === 'npn' ? 'c' : 'e';
    const spots = block.pins.map(({ name }) =>
      name === 'b' ? { x: 0, y: 54 } : { x: width, y: name === up ? 20 : 88 },
    );
    return { width, height, spots };
  }
  const rows = Math.max(
    1,
    ...(['west', 'east'] as const).map(
      (side) => block.pins.filter((pin) => pin.side === side).length,
    ),
  );
  const head = block.symbol === 'box' ? SIZE.blockHead : 24;
  const width = block.symbol === 'box' ? boxWidth(block.pins) : 96;
  const foot = block.symbol === 'box' ? 8 : 10;
  const height = head + rows * SIZE.pinRow + foot + (block.left > 0 ? 18 : 0);
  const counts = {
    west: block.pins.filter(({ side }) => side === 'west').length,
    east: block.pins.filter(({ side }) => side === 'east').length,
  };
  const spots = block.pins.map(({ side }) => {
    const own = sides[side]++;
    // Fewer pins than rows stand in the middle: a gate's output between its inputs.
    const shift = ((rows - counts[side]) * SIZE.pinRow) / 2;
    return {
      x: side === 'west' ? 0 : width,
      y: head + shift + own * SIZE.pinRow + SIZE.pinRow / 2,
    };
  });
  return { width, height, spots };
}

function boxWidth(pins: readonly DrawnPin[]): number {
  const longest = (side: DrawnPin['side']): number =>
    Math.max(0, ...pins.filter((pin) => pin.side === side).map(({ name }) => name.length));
  return Math.max(SIZE.boxWidth, 40 + 9.5 * (longest('west') + longest('east')));
}

/** What a drawing is made of beside its symbols. */
export interface Sheet {
  readonly index: BoardIndex;
  readonly refs: ReadonlySet<string> | undefined;
  readonly marked: ReadonlySet<string>;
  readonly flagWidth: (net: string) => number;
  readonly depth: ReadonlyMap<string, number>;
}

type Between = Exclude<Drawn, Hung>;
const isBetween = (one: Drawn): one is Between => one.form === 'across' || one.form === 'block';

export function hungOn(
  drawn: readonly Drawn[],
  form: Hung['form'],
): ReadonlyMap<string, readonly Hung[]> {
  const byNet = new Map<string, Hung[]>();
  for (const one of drawn)
    if (one.form === form) byNet.set(one.net, [...(byNet.get(one.net) ?? []), one]);
  return byNet;
}

/** The nets that a symbol needs bars of: those that it hangs on or is joined to by a wire. */
function barsOf(one: Drawn): readonly string[] {
  if (one.form === 'across') return one.nets.filter((_, i) => !one.labelled[i]);
  if (one.form === 'block') return one.pins.flatMap(({ by, net }) => (by === 'wire' ? [net] : []));
  return [one.net];
}

/** Room before a bar's hats: for its name and its flag. */
export const nameRoom = (net: string, { flagWidth }: Sheet): number =>
  nameWidth(net) + flagWidth(net) + 8;

export function graphOf(drawn: readonly Drawn[], sheet: Sheet): ElkNode {
  const legs = hungOn(drawn, 'leg');
  const hats = hungOn(drawn, 'hat');
  // A net that is only named at pins needs no bar of its own.
  const nets = new Set(drawn.flatMap(barsOf));
  for (const net of sheet.marked) if (sheet.index.netByKey.has(nameKey(net))) nets.add(net);
  const barWidth = (net: string): number =>
    Math.max(
      nameRoom(net, sheet) + (hats.get(net)?.length ?? 0) * SIZE.column,
      (legs.get(net)?.length ?? 0) * SIZE.column + 6,
      56,
    );
  const children: ElkNode[] = [
    ...[...nets].map((net) => {
      const above = hats.has(net) ? SIZE.hat : SIZE.label;
      const y = above + SIZE.bar / 2;
      return {
        id: `n:${net}`,
        width: barWidth(net),
        height: above + SIZE.bar + (legs.has(net) ? SIZE.leg : 0),
        layoutOptions: { 'elk.portConstraints': 'FIXED_POS' },
        ports: [port(`n:${net}:in`, 0, y, 'WEST'), port(`n:${net}:out`, barWidth(net), y, 'EAST')],
      };
    }),
    ...drawn.filter(isBetween).map((one) => nodeOf(one, sheet)),
  ];
  return {
    id: 'drawing',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': '22',
      'elk.layered.spacing.edgeNodeBetweenLayers': '10',
      'elk.layered.spacing.edgeEdgeBetweenLayers': '9',
      'elk.spacing.nodeNode': '20',
      'elk.spacing.edgeNode': '12',
      'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
      'elk.padding': '[top=8,left=8,bottom=8,right=8]',
      'elk.separateConnectedComponents': 'true',
      'elk.spacing.componentComponent': '30',
      'elk.aspectRatio': '1.7',
    },
    children,
    edges: drawn.filter(isBetween).flatMap((one) => edgesOf(one, sheet.depth)),
  };
}

function port(id: string, x: number, y: number, side: string): ElkPort {
  return { id, x, y, width: 0, height: 0, layoutOptions: { 'elk.port.side': side } };
}

/** Signs at pins need room beside their block. */
export function margins(block: Block): { west: number; east: number } {
  // A transistor's signs stand above and below it, but names need room on the right.
  if (block.symbol === 'npn' || block.symbol === 'pnp') {
    const names = block.pins.filter(
      ({ by, name }) => by !== 'wire' && by !== 'ground' && name !== 'b',
    );
    const words = 8.6 * Math.max(block.ref.length, Math.min(8, block.value.length)) - 12;
    const east = Math.max(0, words, ...names.map(({ net }) => 9.5 * net.length - 20));
    return { west: margin(block, 'west'), east };
  }
  return { west: margin(block, 'west'), east: margin(block, 'east') };
}

function margin(block: Block, side: DrawnPin['side']): number {
  return Math.max(
    0,
    ...block.pins.map((pin) =>
      pin.side !== side || pin.by === 'wire'
        ? 0
        : pin.by === 'ground'
          ? SIZE.stub
          : SIZE.stub + 9.5 * pin.net.length,
    ),
  );
}

/** Room that a net's name at the end of a lead takes, px. */
export const labelWidth = (net: string): number => 14 + 9.5 * net.length;

/** Room for names at the left and right end of a part between two nets. */
export function acrossMargins(
  { nets, labelled }: Extract<Drawn, { form: 'across' }>,
  turned: boolean,
): { west: number; east: number } {
  const room = ([net, isLabelled]: readonly [string, boolean]): number =>
    isLabelled ? labelWidth(net) : 0;
  const ends = [room([nets[0], labelled[0]]), room([nets[1], labelled[1]])] as const;
  return turned ? { west: ends[1], east: ends[0] } : { west: ends[0], east: ends[1] };
}

function nodeOf(one: Between, { depth }: Sheet): ElkNode {
  const id = `p:${one.key}`;
  const layoutOptions = { 'elk.portConstraints': 'FIXED_POS' };
  if (one.form === 'across') {
    const turned = isTurned(one, depth);
    const { west, east } = acrossMargins(one, turned);
    const [width, height] = [west + SIZE.acrossWidth + east, SIZE.acrossHeight];
    // Port 0 is the first pin's: on the right where the part is turned.
    const ports = [0, 1].map((pin) =>
      (pin === 0) !== turned
        ? port(`${id}:${pin}`, 0, height / 2, 'WEST')
        : port(`${id}:${pin}`, width, height / 2, 'EAST'),
    );
    return { id, width, height, layoutOptions, ports };
  }
  const { width, height, spots } = blockShape(one);
  const { west, east } = margins(one);
  const ports = one.pins.flatMap((pin, i) =>
    pin.by === 'wire'
      ? [
          port(
            `${id}:${i}`,
            pin.side === 'west' ? 0 : west + width + east,
            spots[i]!.y,
            pin.side === 'west' ? 'WEST' : 'EAST',
          ),
        ]
      : [],
  );
  return { id, width: west + width + east, height, layoutOptions, ports };
}

/** From where supplies are to where they are not; a block from its west side to its east side. */
function edgesOf(one: Between, depth: ReadonlyMap<string, number>) {
  const id = `p:${one.key}`;
  const into = (net: string, i: number) => ({
    id: `${id}>${i}`,
    sources: [`n:${net}:out`],
    targets: [`${id}:${i}`],
  });
  const outOf = (net: string, i: number) => ({
    id: `${id}>${i}`,
    sources: [`${id}:${i}`],
    targets: [`n:${net}:in`],
  });
  if (one.form === 'across') {
    const left = isTurned(one, depth) ? 1 : 0;
    return one.nets.flatMap((net, i) =>
      one.labelled[i] ? [] : i === left ? [into(net, i)] : [outOf(net, i)],
    );
  }
  return one.pins.flatMap(({ net, side, by }, i) =>
    by !== 'wire' ? [] : side === 'west' ? [into(net, i)] : [outOf(net, i)],
  );
}

/** Whether a part between two nets has its second pin on the left. */
export function isTurned(
  { nets: [a, b] }: { readonly nets: readonly [string, string] },
  depth: ReadonlyMap<string, number>,
): boolean {
  return (depth.get(a) ?? 99) > (depth.get(b) ?? 99);
}

/** How many parts lie between a net and the nearest supply: the order from left to right. */
export function depthOfNets(index: BoardIndex): ReadonlyMap<string, number> {
  const netOf = (net: string): string => index.netByKey.get(nameKey(net))!;
  const depth = new Map<string, number>();
  let wave = index.board.parts
    .filter(({ kind }) => kind === 'voltageSource' || kind === 'transformer')
    .flatMap(({ pins }) => pins)
    .map(netOf)
    .filter((net) => net !== '0');
  for (let step = 0; wave.length > 0; step += 1) {
    const fresh = wave.filter((net) => !depth.has(net));
    fresh.forEach((net) => depth.set(net, step));
    wave = fresh.flatMap((net) =>
      (index.pinsOfNet.get(net) ?? []).flatMap(({ part }) =>
        part.pins.map(netOf).filter((other) => other !== '0'),
      ),
    );
  }
  return depth;
}
