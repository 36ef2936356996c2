import Graph from 'graphology';
import louvain from 'graphology-communities-louvain';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { drawnRef, netsOf, type Drawn } from './drawn';
import { drawnParts } from './drawn-parts';

/** A page of a sheet: what belongs together and is legible at once. */
export interface Area {
  /** The sections it is made of, or its largest parts. */
  readonly name: string;
  /** Keys of its symbols. */
  readonly keys: ReadonlySet<string>;
  readonly nets: ReadonlySet<string>;
}

/** What a frame of 1280 x 800 shows at a legible size, in symbols of two pins. */
const MOST = 25;
/** An area smaller than this is put to the one that it has most to do with. */
const LEAST = 13;

/**
 * The areas of a sheet, in the order of its lines: its sections where it names them, and else groups
 * of symbols that have more nets with each other than with the rest (modularity, Blondel and others
 * 2008), none larger than a frame can show. The same sheet always has the same areas.
 */
export function areasOf(index: BoardIndex, packages = false): readonly Area[] {
  const symbols = drawnParts(index, undefined, new Set(), packages);
  const size = new Map(symbols.map((one) => [one, sizeOf(one)]));
  const total = (group: readonly Drawn[]): number =>
    group.reduce((sum, one) => sum + size.get(one)!, 0);
  const sectionOf = new Map(
    index.board.parts.map((part) => [nameKey(drawnRef(part.ref)), part.section ?? '']),
  );
  const bySection = new Map<string, Drawn[]>();
  for (const one of symbols) {
    const section = sectionOf.get(nameKey(one.ref)) ?? '';
    bySection.set(section, [...(bySection.get(section) ?? []), one]);
  }
  if (total(symbols) <= MOST) return symbols.length > 0 ? [areaOf(symbols, [...bySection])] : [];
  const pieces = [...bySection.values()].flatMap((group) => split(group, total));
  const place = new Map(symbols.map((one, i) => [one, i]));
  return merge(pieces, total)
    .map((group) => [...group].sort((a, b) => place.get(a)! - place.get(b)!))
    .sort((a, b) => place.get(a[0]!)! - place.get(b[0]!)!)
    .map((group) =>
      areaOf(
        group,
        [...bySection].filter(([, members]) => members.some((one) => group.includes(one))),
      ),
    );
}

/** Numbers of the other areas, from 1, in which a net goes on. */
export function otherAreas(areas: readonly Area[], here: number, net: string): readonly number[] {
  return areas.flatMap(({ nets }, i) => (i !== here && nets.has(net) ? [i + 1] : []));
}

/** Boxes count by their height: they come to stand above each other. */
function sizeOf(one: Drawn): number {
  if (one.form !== 'block') return 1;
  if (one.symbol !== 'box') return 1.6;
  const west = one.pins.filter(({ side }) => side === 'west').length;
  return Math.max(1.5, 0.85 * Math.max(west, one.pins.length - west));
}

function areaOf(
  group: readonly Drawn[],
  sections: readonly (readonly [string, readonly Drawn[]])[],
): Area {
  const named = sections.map(([name]) => name).filter((name) => name !== '');
  const largest = [...group].sort((a, b) => sizeOf(b) - sizeOf(a)).map(({ ref }) => ref);
  const refs = [...new Set(largest)].slice(0, 3);
  return {
    name: named.length > 0 ? named.join(', ') : refs.join(', '),
    keys: new Set(group.map(({ key }) => key)),
    nets: new Set(group.flatMap(netsOf)),
  };
}

type Total = (group: readonly Drawn[]) => number;

/** Cuts a group into communities, and those again, until each fits a frame. */
function split(group: readonly Drawn[], total: Total): readonly (readonly Drawn[])[] {
  if (total(group) <= MOST || group.length < 2) return [group];
  for (const resolution of [1, 1.6, 2.5]) {
    const communities = communitiesOf(group, resolution);
    if (communities.length > 1) return communities.flatMap((one) => split(one, total));
  }
  const half = Math.ceil(group.length / 2);
  return [group.slice(0, half), group.slice(half)].flatMap((one) => split(one, total));
}

function communitiesOf(group: readonly Drawn[], resolution: number): readonly Drawn[][] {
  const graph = new Graph({ type: 'undirected' });
  group.forEach((_, i) => graph.addNode(i));
  for (const members of byNet(group).values())
    for (let a = 0; a < members.length; a += 1)
      for (let b = a + 1; b < members.length; b += 1)
        graph.updateEdge(members[a], members[b], ({ weight = 0 }) => ({
          weight: (weight as number) + 1 / (members.length - 1),
        }));
  const communityOf = louvain(graph, { randomWalk: false, resolution });
  const communities = new Map<number, Drawn[]>();
  group.forEach((one, i) => {
    const community = communityOf[i]!;
    communities.set(community, [...(communities.get(community) ?? []), one]);
  });
  return [...communities.values()];
}

/** The places, in a group, of the symbols on each net. */
function byNet(group: readonly Drawn[]): ReadonlyMap<string, readonly number[]> {
  const members = new Map<string, number[]>();
  group.forEach((one, i) => {
    for (const net of netsOf(one)) members.set(net, [...(members.get(net) ?? []), i]);
  });
  return members;
}

/** Puts small groups to the one that shares most nets with them and still has room. */
function merge(pieces: readonly (readonly Drawn[])[], total: Total): readonly (readonly Drawn[])[] {
  const left = pieces.map((group) => ({
    group: [...group],
    size: total(group),
    nets: new Set(group.flatMap(netsOf)),
  }));
  type Piece = (typeof left)[number];
  const settled = new Set<Piece>();
  for (;;) {
    const [small] = left
      .filter((piece) => piece.size < LEAST && !settled.has(piece))
      .sort((a, b) => a.size - b.size);
    if (!small) return left.map(({ group }) => group);
    const shared = ({ nets }: Piece): number =>
      [...nets].filter((net) => small.nets.has(net)).length / Math.sqrt(nets.size);
    const [best] = left
      .filter((piece) => piece !== small && piece.size + small.size <= MOST)
      .map((piece) => ({ piece, links: shared(piece) }))
      .sort((a, b) => b.links - a.links || a.piece.size - b.piece.size)
      .map(({ piece }) => piece);
    if (!best) {
      settled.add(small);
      continue;
    }
    best.group.push(...small.group);
    best.size += small.size;
    small.nets.forEach((net) => best.nets.add(net));
    left.splice(left.indexOf(small), 1);
  }
}
