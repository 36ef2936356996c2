import { GROUND, isBusyNet, nameKey, pinsOn, type BoardIndex, type Part } from '../board';
import type { SingleHypothesis } from '../fault';

/**
 * Parts that may lie between an edge and what a load there could still show, chips never among
 * them.
 */
const MOST_BETWEEN = 2;

/**
 * These nets and what one or two plain parts join to them, rails left out: where a load on one of
 * them changes more than what a level is.
 */
function netsAround(index: BoardIndex, start: readonly string[]): ReadonlySet<string> {
  const sources = new Set(
    index.board.parts
      .filter(({ kind }) => kind === 'voltageSource')
      .flatMap(({ pins }) => pins.map(nameKey)),
  );
  const isRail = (net: string): boolean =>
    net === GROUND || sources.has(net) || isBusyNet(index, net);
  const near = new Set(start);
  let border = [...near];
  for (let hop = 0; hop < MOST_BETWEEN; hop += 1) {
    const next = border.flatMap((net) =>
      pinsOn(index, net).flatMap(({ part }) =>
        part.kind === 'chip' ? [] : part.pins.map(nameKey),
      ),
    );
    border = [...new Set(next)].filter((net) => !near.has(net) && !isRail(net));
    for (const net of border) near.add(net);
  }
  return near;
}

/**
 * Whether a fault is one of a plain part, joint or net near the edges: then what hangs there may
 * show a fault that the board as drawn hides, as it changes how firmly the net is held. A chip that
 * does on the board as drawn what a sound one does holds its pins as firmly.
 */
export function isNear(near: ReadonlySet<string>, { fault }: SingleHypothesis): boolean {
  if (fault.type === 'bridge') return fault.nets.some((net) => near.has(nameKey(net)));
  if (fault.type === 'cut') return near.has(nameKey(fault.net));
  const part = fault.type === 'dry' ? fault.pin.part : fault.part;
  return part.kind !== 'chip' && part.pins.some((net) => near.has(nameKey(net)));
}

/**
 * What loads on the edges of a sheet can see of a board: the nets near them, and every net of the
 * chips on those. Boards that are alike on them are alike to every load there.
 */
export interface EdgeRegion {
  readonly near: ReadonlySet<string>;
  /** Positions in board order, ascending. */
  readonly nets: readonly number[];
  readonly parts: ReadonlySet<Part>;
  readonly keys: ReadonlySet<string>;
}

/**
 * The region that matters to readings between these nets: where one of them lies near an edge only
 * the edges there, else all of them.
 */
export function edgeRegion(index: BoardIndex, read: readonly string[]): EdgeRegion {
  const edges = (index.board.edges ?? [])
    .map(({ net }) => nameKey(net))
    .filter((net) => index.netByKey.has(net));
  const own = new Set(read.map(nameKey).filter((net) => net !== GROUND));
  const beside = edges.filter((edge) => [...netsAround(index, [edge])].some((net) => own.has(net)));
  const near = netsAround(index, beside.length > 0 ? beside : edges);
  const parts = new Set([...near].flatMap((net) => pinsOn(index, net).map(({ part }) => part)));
  const keys = new Set([...near, ...[...parts].flatMap(({ pins }) => pins.map(nameKey))]);
  return {
    near,
    parts,
    keys,
    nets: index.nets.flatMap((net, i) => (keys.has(nameKey(net)) ? [i] : [])),
  };
}

/**
 * Whether a fault lies outside: all that a load at an edge can see of it is what it does to the
 * nets of the region.
 */
export function isOutside({ parts, keys }: EdgeRegion, { fault }: SingleHypothesis): boolean {
  if (fault.type === 'mode') return !parts.has(fault.part);
  if (fault.type === 'dry') return !parts.has(fault.pin.part);
  return fault.type === 'cut'
    ? !fault.pins.some(({ part }) => parts.has(part))
    : !fault.nets.some((net) => keys.has(nameKey(net)));
}
