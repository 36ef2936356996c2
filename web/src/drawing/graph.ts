import type { ElkNode, ElkPort } from 'elkjs/lib/elk-api.js';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { busEntries, busName, type BusEntry } from './buses';
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
  stub: 36,
  /** From a pin to the thick line of its bus, the line's name above it. */
  busStub: 26,
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
  const width = block.symbol === 'box' ? boxWidth(block.pins) + (block.glyph ? GLYPH_ROOM : 0) : 96;
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

/** Between the names of a box's pins, for what it is, px. */
const GLYPH_ROOM = 48;

function boxWidth(pins: readonly DrawnPin[]): number {
  const longest = (side: DrawnPin['side']): number =>
    Math.max(0, ...pins.filter((pin) => pin.side === side).map(({ name }) => name.length));
  return Math.max(SIZE.boxWidth, 40 + 9.5 * (longest('west') + longest('east')));
}

/** What a drawing is made of beside its symbols. */
export interface Sheet {
  readonly index: BoardIndex;
  readonly marked: ReadonlySet<string>;
  /** What stands behind a net's name where it goes on outside the view: `…`, or `›3` for an area. */
  readonly onward: (net: string) => string;
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
  if (one.form === 'across') return one.nets.filter((_, i) => one.labels[i] === undefined);
  if (one.form === 'block') return one.pins.flatMap(({ by, net }) => (by === 'wire' ? [net] : []));
  return [one.net];
}

/** More parts than this hang in further rows, under bars of their own. */
const MOST_HUNG = 7;

/** What hangs on a net, row by row. */
export function rowsOf(hung: readonly Hung[] | undefined): readonly (readonly Hung[])[] {
  const rows: (readonly Hung[])[] = [];
  for (let i = 0; i < (hung?.length ?? 0); i += MOST_HUNG) rows.push(hung!.slice(i, i + MOST_HUNG));
  return rows.length > 0 ? rows : [[]];
}

/** A net's name, and where it goes on. */
export const nameOnward = (net: string, { onward }: Sheet): string => {
  const elsewhere = onward(net);
  return elsewhere === '' ? net : `${net} ${elsewhere}`;
};

/** Room before a bar's hats: for its name and its flag. */
export const nameRoom = (net: string, sheet: Sheet): number =>
  nameWidth(nameOnward(net, sheet)) + sheet.flagWidth(net) + 8;

/** The buses that more than one symbol is on: those are led from one to the other. */
export function wiredBuses(drawn: readonly Drawn[]): ReadonlyMap<string, readonly string[]> {
  const boxes = drawn.flatMap((one) => (one.form === 'block' ? [one] : []));
  const entries = boxes.flatMap(({ key, pins }) =>
    busEntries(pins).map((entry) => ({
      key,
      bus: entry.bus,
      pins: entry.pins.map((i) => pins[i]!),
    })),
  );
  const lines = new Map<string, readonly string[]>();
  for (const { bus } of entries) {
    const own = entries.filter((entry) => entry.bus === bus);
    if (new Set(own.map(({ key }) => key)).size < 2) continue;
    lines.set(bus, [...new Set(own.flatMap(({ pins }) => pins.map(({ net }) => net)))]);
  }
  return lines;
}

export function graphOf(drawn: readonly Drawn[], sheet: Sheet): ElkNode {
  const legs = hungOn(drawn, 'leg');
  const hats = hungOn(drawn, 'hat');
  // A net that is only named at pins needs no bar of its own.
  const nets = new Set(drawn.flatMap(barsOf));
  for (const net of sheet.marked) if (sheet.index.netByKey.has(nameKey(net))) nets.add(net);
  const buses = wiredBuses(drawn);
  const barWidth = (net: string): number =>
    Math.max(
      nameRoom(net, sheet) + (hats.get(net)?.length ?? 0) * SIZE.column,
      rowsOf(legs.get(net))[0]!.length * SIZE.column + 6,
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
    ...[...nets].flatMap((net) =>
      rowsOf(legs.get(net))
        .slice(1)
        .map((row, i) => ({
          id: `m:${i + 1}:${net}`,
          width: Math.max(nameRoom(net, sheet), row.length * SIZE.column + 6),
          height: SIZE.label + SIZE.bar + SIZE.leg,
        })),
    ),
    ...[...buses].map(([bus, nets]) => {
      const [width, y] = [nameWidth(busName(nets)), SIZE.label + SIZE.bar / 2];
      return {
        id: `b:${bus}`,
        width,
        height: SIZE.label + SIZE.bar,
        layoutOptions: { 'elk.portConstraints': 'FIXED_POS' },
        ports: [port(`b:${bus}:in`, 0, y, 'WEST'), port(`b:${bus}:out`, width, y, 'EAST')],
      };
    }),
    ...drawn.filter(isBetween).map((one) => nodeOf(one, sheet, buses)),
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
    edges: drawn.filter(isBetween).flatMap((one) => edgesOf(one, sheet.depth, buses)),
  };
}

function port(id: string, x: number, y: number, side: string): ElkPort {
  return { id, x, y, width: 0, height: 0, layoutOptions: { 'elk.port.side': side } };
}

type Buses = ReadonlyMap<string, readonly string[]>;

/** Signs at pins need room beside their block. */
export function margins(block: Block, buses: Buses): { west: number; east: number } {
  // A transistor's signs stand above and below it, but names need room on the right.
  if (block.symbol === 'npn' || block.symbol === 'pnp') {
    const names = block.pins.filter(
      ({ by, name }) => by !== 'wire' && by !== 'ground' && name !== 'b',
    );
    const words = 8.6 * Math.max(block.ref.length, Math.min(8, block.value.length)) - 12;
    const east = Math.max(0, words, ...names.map((pin) => 9.5 * pinName(pin).length - 20));
    return { west: margin(block, 'west', buses), east };
  }
  return { west: margin(block, 'west', buses), east: margin(block, 'east', buses) };
}

/** What stands at a pin that no wire leaves. */
export const pinName = ({ label, net }: DrawnPin): string => label ?? net;

/** From a box's side to the thick line of a bus. */
export const busStub = ({ pins }: Block, entry: BusEntry): number =>
  SIZE.busStub + (isOwnName(entry, pins) ? 0 : 9 * longest(entry.pins.map((i) => pins[i]!.net)));

/** Whether the lines of a bus are called as the pins that they enter: they need not be named twice. */
export const isOwnName = (entry: BusEntry, pins: readonly DrawnPin[]): boolean =>
  entry.pins.every((i) => nameKey(pins[i]!.name) === nameKey(pins[i]!.net));

const longest = (words: readonly string[]): number =>
  Math.max(...words.map(({ length }) => length));

function margin(block: Block, side: DrawnPin['side'], buses: Buses): number {
  const bundles = busEntries(block.pins)
    .filter((entry) => entry.side === side)
    .map((entry) => {
      const nets = entry.pins.map((i) => block.pins[i]!.net);
      return busStub(block, entry) + (buses.has(entry.bus) ? 6 : labelWidth(busName(nets)));
    });
  return Math.max(
    0,
    ...bundles,
    ...block.pins.map((pin) =>
      pin.side !== side || pin.by === 'wire' || pin.by === 'bus'
        ? 0
        : pin.by === 'ground'
          ? SIZE.stub
          : SIZE.stub + 9.5 * pinName(pin).length,
    ),
  );
}

/** Room that a net's name at the end of a lead takes, px. */
export const labelWidth = (net: string): number => 14 + 9.5 * net.length;

/** Room for names at the left and right end of a part between two nets. */
export function acrossMargins(
  { labels }: Extract<Drawn, { form: 'across' }>,
  turned: boolean,
): { west: number; east: number } {
  const room = (label: string | undefined): number => (label === undefined ? 0 : labelWidth(label));
  const ends = [room(labels[0]), room(labels[1])] as const;
  return turned ? { west: ends[1], east: ends[0] } : { west: ends[0], east: ends[1] };
}

function nodeOf(one: Between, { depth }: Sheet, buses: Buses): ElkNode {
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
  const { west, east } = margins(one, buses);
  const portAt = (place: string, side: DrawnPin['side'], y: number): ElkPort =>
    side === 'west'
      ? port(`${id}:${place}`, 0, y, 'WEST')
      : port(`${id}:${place}`, west + width + east, y, 'EAST');
  const ports = [
    ...one.pins.flatMap((pin, i) =>
      pin.by === 'wire' ? [portAt(String(i), pin.side, spots[i]!.y)] : [],
    ),
    ...wiredEntries(one, buses).map((entry) =>
      portAt(entryKey(entry), entry.side, entryHeight(entry, spots)),
    ),
  ];
  return { id, width: west + width + east, height, layoutOptions, ports };
}

const entryKey = ({ pins: [first] }: BusEntry): string => `bus${first}`;
const wiredEntries = ({ pins }: Block, buses: Buses): readonly BusEntry[] =>
  busEntries(pins).filter(({ bus }) => buses.has(bus));

/** Where a bus leaves its thick line: in the middle. */
export function entryHeight({ pins }: BusEntry, spots: readonly Place[]): number {
  return (spots[pins[0]!]!.y + spots[pins.at(-1)!]!.y) / 2;
}

/** From where supplies are to where they are not; a block from its west side to its east side. */
function edgesOf(one: Between, depth: ReadonlyMap<string, number>, buses: Buses) {
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
      one.labels[i] !== undefined ? [] : i === left ? [into(net, i)] : [outOf(net, i)],
    );
  }
  const bundled = wiredEntries(one, buses).map((entry) => {
    const [own, key] = [`${id}:${entryKey(entry)}`, `${id}>${entryKey(entry)}`];
    return entry.side === 'west'
      ? { id: key, sources: [`b:${entry.bus}:out`], targets: [own] }
      : { id: key, sources: [own], targets: [`b:${entry.bus}:in`] };
  });
  return [
    ...bundled,
    ...one.pins.flatMap(({ net, side, by }, i) =>
      by !== 'wire' ? [] : side === 'west' ? [into(net, i)] : [outOf(net, i)],
    ),
  ];
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
