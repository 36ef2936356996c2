import ELK, { type ElkNode } from 'elkjs/lib/elk-api.js';
import elkWorkerUrl from 'elkjs/lib/elk-worker.min.js?url';
import type { BoardIndex } from '@hanzai/core/board';
import { drawnRef, netsOf, type Drawn, type DrawnPin } from './drawn';
import { drawnParts } from './drawn-parts';
import { busEntries, busName, withBuses } from './buses';
import {
  acrossMargins,
  blockShape,
  depthOfNets,
  graphOf,
  hungOn,
  isTurned,
  margins,
  nameOnward,
  nameRoom,
  rowsOf,
  SIZE,
  wiredBuses,
  type Hung,
  type Place,
  type Sheet,
} from './graph';
import { packComponents, type PackedWire } from './pack';

export type PlacedPart = Drawn &
  Place & {
    readonly width: number;
    readonly height: number;
    /** Where its pins are, from its own corner; of blocks only. */
    readonly spots: readonly Place[];
    /**
     * How far its wires have to be led on, past signs and names beside it, px; and its buses that are
     * named there and lead nowhere.
     */
    readonly lead: {
      readonly west: number;
      readonly east: number;
      readonly named: readonly string[];
    };
  };

export interface PlacedNet extends Place {
  readonly net: string;
  /** 0, or the number of a further row of parts that hang on the same net. */
  readonly row: number;
  readonly width: number;
  /** Where it goes on outside the view, as it stands behind its name; empty where it does not. */
  readonly onward: string;
}

/** The thick line that the entries of a bus meet at. */
export interface PlacedBus extends Place {
  readonly name: string;
  readonly width: number;
}

export interface DrawingLayout {
  readonly width: number;
  readonly height: number;
  readonly nets: readonly PlacedNet[];
  readonly buses: readonly PlacedBus[];
  readonly parts: readonly PlacedPart[];
  readonly wires: readonly PackedWire[];
}

/** Gives each node of a graph its place, and each edge its way. */
export type Arrange = (graph: ElkNode) => Promise<ElkNode>;

let elk: InstanceType<typeof ELK> | undefined;

const inWorker: Arrange = (graph) => {
  elk ??= new ELK({ workerFactory: () => new Worker(elkWorkerUrl) });
  return elk.layout(graph);
};

/** What is drawn of a board. */
export interface Wanted {
  /** drawnRefs to draw; undefined draws all. */
  readonly refs?: ReadonlySet<string> | undefined;
  /** Keys of the symbols of an area; undefined draws all. */
  readonly keys?: ReadonlySet<string> | undefined;
  /** Nets that are drawn as bars whatever else hangs on them. */
  readonly marked: ReadonlySet<string>;
  /** Gates are drawn by package. */
  readonly packages?: boolean;
  /** The areas, from 1, in which a net goes on; of a view by areas. */
  readonly goesOn?: (net: string) => readonly number[];
  /** Room that the flag pinned on a net needs, px. */
  readonly flagWidth: (net: string) => number;
}

/**
 * Lays a board out as a drawing: nets as bars, what goes to ground hanging from them, what goes to a
 * supply standing on them, the rest between them, from the supplies on the left to the right. Runs
 * in a worker.
 */
export async function layoutDrawing(
  index: BoardIndex,
  { refs, keys, marked, packages = false, goesOn, flagWidth }: Wanted,
  arrange: Arrange = inWorker,
): Promise<DrawingLayout> {
  const all = drawnParts(index, refs, marked, packages);
  const inView = keys ? all.filter(({ key }) => keys.has(key)) : all;
  const sheet: Sheet = {
    index,
    marked,
    onward: goesOn ? (net) => signpost(goesOn(net)) : (net) => restOf(index, refs, net),
    flagWidth,
    depth: depthOfNets(index),
  };
  const bundled = withBuses(inView, marked);
  const drawn = keys ? withLoneNames(bundled, sheet) : bundled;
  const first = await arrange(graphOf(drawn, sheet));
  const cut = cutWires(first, refs ? STRIP.part : STRIP.whole);
  if (cut.size === 0) return place(first, drawn, sheet);
  const labelled = drawn.map((one) => withLabels(one, cut, sheet));
  return place(await arrange(graphOf(labelled, sheet)), labelled, sheet);
}

/** More areas than this are not counted up behind a name. */
const MOST_SIGNPOSTS = 2;
const signpost = (areas: readonly number[]): string =>
  areas.length === 0
    ? ''
    : `›${areas.slice(0, MOST_SIGNPOSTS).join('›')}${areas.length > MOST_SIGNPOSTS ? '…' : ''}`;

/** `…` where parts of the board hang on a net that the view leaves out. */
function restOf(index: BoardIndex, refs: ReadonlySet<string> | undefined, net: string): string {
  const isOut =
    refs !== undefined &&
    (index.pinsOfNet.get(net) ?? []).some(({ part }) => !refs.has(drawnRef(part.ref)));
  return isOut ? '…' : '';
}

/** A net that one end alone is on in this area is named there and needs no bar. */
function withLoneNames(drawn: readonly Drawn[], sheet: Sheet): readonly Drawn[] {
  const uses = new Map<string, number>();
  for (const one of drawn) {
    const ends =
      one.form === 'block'
        ? one.pins.flatMap(({ by, net }) => (by === 'wire' ? [net] : []))
        : netsOf(one);
    for (const net of ends) uses.set(net, (uses.get(net) ?? 0) + 1);
  }
  return drawn.map((one) =>
    labelledWhere(one, sheet, (net) => uses.get(net) === 1 && !sheet.marked.has(net)),
  );
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
function withLabels(one: Drawn, cut: ReadonlySet<string>, sheet: Sheet): Drawn {
  return labelledWhere(one, sheet, (_, i) => cut.has(`p:${one.key}>${i}`));
}

/** A symbol with the names of nets at those of its wired ends that ask for it. */
function labelledWhere(
  one: Drawn,
  sheet: Sheet,
  isNamed: (net: string, end: number) => boolean,
): Drawn {
  if (one.form === 'across') {
    const label = (i: 0 | 1): string | undefined =>
      one.labels[i] ?? (isNamed(one.nets[i], i) ? nameOnward(one.nets[i], sheet) : undefined);
    return { ...one, labels: [label(0), label(1)] };
  }
  if (one.form !== 'block') return one;
  const pins = one.pins.map((pin, i): DrawnPin =>
    pin.by === 'wire' && isNamed(pin.net, i)
      ? { ...pin, by: 'label', label: nameOnward(pin.net, sheet) }
      : pin,
  );
  return { ...one, pins };
}

const NO_LEAD = { west: 0, east: 0, named: [] } as const;

function place(graph: ElkNode, drawn: readonly Drawn[], sheet: Sheet): DrawingLayout {
  const { depth } = sheet;
  const legs = hungOn(drawn, 'leg');
  const hats = hungOn(drawn, 'hat');
  const busLines = wiredBuses(drawn);
  const byKey = new Map(drawn.map((one) => [one.key, one]));
  const nets: PlacedNet[] = [];
  const buses: PlacedBus[] = [];
  const parts: PlacedPart[] = [];
  const hang = (one: Hung, x: number, y: number): void => {
    const [width, height] = [SIZE.column, SIZE.leg];
    parts.push({ ...one, x, y, width, height, spots: [], lead: NO_LEAD });
  };
  const hangRow = (row: readonly Hung[], x: number, bar: number): void =>
    row.forEach((one, i) => hang(one, x + i * SIZE.column, bar + SIZE.bar));
  const packed = packComponents(graph);
  for (const { id, x, y, width, height } of packed.nodes) {
    const name = id.slice(2);
    if (id.startsWith('n:')) {
      const bar = y + (hats.has(name) ? SIZE.hat : SIZE.label);
      nets.push({ net: name, row: 0, x, y: bar, width, onward: sheet.onward(name) });
      hangRow(rowsOf(legs.get(name))[0]!, x, bar);
      (hats.get(name) ?? []).forEach((one, i) =>
        hang(one, x + nameRoom(name, sheet) + i * SIZE.column, bar - SIZE.hat),
      );
      continue;
    }
    if (id.startsWith('m:')) {
      const [, number, net] = /^m:(\d+):(.*)$/.exec(id)!;
      const [row, bar] = [Number(number), y + SIZE.label];
      nets.push({ net: net!, row, x, y: bar, width, onward: sheet.onward(net!) });
      hangRow(rowsOf(legs.get(net!))[row]!, x, bar);
      continue;
    }
    if (id.startsWith('b:')) {
      buses.push({ name: busName(busLines.get(name)!), x, y: y + SIZE.label, width });
      continue;
    }
    const one = byKey.get(name)!;
    if (one.form === 'across') {
      const turned = isTurned(one, depth);
      const { west } = acrossMargins(one, turned);
      const width = SIZE.acrossWidth;
      parts.push({ ...one, turned, x: x + west, y, width, height, spots: [], lead: NO_LEAD });
    } else if (one.form === 'block') {
      const named = busEntries(one.pins).flatMap(({ bus }) => (busLines.has(bus) ? [] : [bus]));
      const lead = { ...margins(one, busLines), named };
      parts.push({ ...one, x: x + lead.west, y, ...blockShape(one), lead });
    }
  }
  return { width: packed.width, height: packed.height, nets, buses, parts, wires: packed.wires };
}
