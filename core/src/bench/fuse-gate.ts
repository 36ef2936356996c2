import {
  GROUND,
  nameKey,
  parseFuse,
  pinsOn,
  type BoardIndex,
  type Part,
  type Point,
} from '../board';
import { isSource } from '../device';
import type { Predictor } from '../diagnosis';
import { primaryFeed } from '../fault';
import { measurementKey, pointText, readout, type Measurement, type Reading } from '../instrument';
import { formatQuantity } from '../quantity';
import { AS_COPPER } from './copper';
import { plugEnds } from './mains';
import { soundVolt } from './sound-board';

/**
 * The net on the side of a fuse that the supply does not reach when the fuse is out. Undefined
 * where both or neither are reached.
 */
export function fuseLoadSide(index: BoardIndex, fuse: Part): string | undefined {
  const reached = new Set<string>();
  const waiting = index.board.parts
    .flatMap((part) =>
      isSource(part) ? part.pins : part.kind === 'transformer' ? part.pins.slice(2) : [],
    )
    .map(nameKey)
    .filter((net) => net !== GROUND);
  while (waiting.length > 0) {
    const net = waiting.pop()!;
    if (reached.has(net)) continue;
    reached.add(net);
    for (const { part } of pinsOn(index, net)) {
      if (part === fuse || !AS_COPPER.includes(part.kind)) continue;
      waiting.push(...part.pins.map(nameKey).filter((other) => other !== GROUND));
    }
  }
  const far = fuse.pins.filter((net) => !reached.has(nameKey(net)));
  return far.length === 1 ? index.netByKey.get(nameKey(far[0]!)) : undefined;
}

/**
 * What to measure, power off, before a fuse goes in: the ohms of what it feeds. On the mains that
 * is the primary, for isolated ground says nothing there; ahead of a rectifier also what lies
 * behind it, which an ohmmeter's small voltage does not see through the diodes.
 */
export function fuseChecks(index: BoardIndex, fuse: Part): readonly Measurement[] {
  if (fuse.kind !== 'fuse') return [];
  const ohms = (at: string, to: string): Measurement => ({
    setup: 'off',
    kind: 'resistance',
    at: { net: at },
    to: { net: to },
  });
  const primary = index.board.parts.find(
    (part) => part.kind === 'transformer' && primaryFeed(index, part).parts.has(fuse),
  );
  if (primary) {
    const [first, second] = plugEnds(index, primary);
    const ofFirst = isOnFirstSide(index, primary, fuse);
    const [load, other] = ofFirst ? [primary.pins[0]!, second] : [primary.pins[1]!, first];
    return [ohms(index.netByKey.get(nameKey(load))!, other)];
  }
  const side = fuseLoadSide(index, fuse);
  const sides =
    side === undefined ? fuse.pins.map((net) => index.netByKey.get(nameKey(net))!) : [side];
  const behind = sides.flatMap((net) =>
    (index.pinsOfNet.get(net) ?? []).flatMap(({ part, index: pin }) =>
      part.kind === 'diode' ? [index.netByKey.get(nameKey(part.pins[1 - pin]!))!] : [],
    ),
  );
  return [...new Set([...sides, ...behind])]
    .filter((net) => net !== GROUND)
    .map((net) => ohms(net, GROUND));
}

/** Whether a fuse stands in the row that begins at the first pin of a primary. */
function isOnFirstSide(index: BoardIndex, transformer: Part, fuse: Part): boolean {
  const met = new Set<Part>([transformer]);
  const waiting = [nameKey(transformer.pins[0]!)];
  const feed = primaryFeed(index, transformer).parts;
  while (waiting.length > 0) {
    const net = waiting.pop()!;
    for (const { part } of pinsOn(index, net)) {
      if (part === fuse) return true;
      if (met.has(part) || !feed.has(part)) continue;
      met.add(part);
      waiting.push(...part.pins.map(nameKey).filter((other) => other !== net));
    }
  }
  return false;
}

/**
 * What keeps a fuse out: something that has not been read, or that was read and explains why the
 * last one blew.
 */
export interface FuseObjection {
  readonly measure: { readonly at: string; readonly to: string };
  readonly words: string;
  /** True where it has been read, and is too low. */
  readonly low: boolean;
}

/**
 * Whether a fuse may go in. Readings: of the board as it is now. A reading below the good board's
 * band keeps it out where the supply would drive more through it than the fuse stands, or where its
 * current is not known. Undefined where nothing speaks against it.
 */
export function fuseGate(
  index: BoardIndex,
  fuse: Part,
  readings: readonly Reading[],
  predictor: Predictor,
): FuseObjection | undefined {
  for (const m of fuseChecks(index, fuse)) {
    const measure = { at: pointText(m.at), to: pointText(m.to) };
    const points = `${measure.at} to ${measure.to === '' ? 'ground' : measure.to}`;
    const reading = readings.findLast((one) => isSameOhms(one.measurement, m));
    if (!reading)
      return {
        measure,
        low: false,
        words: `before ${fuse.ref} goes in, read the ohms from ${points}, power off: a fuse blows for a reason`,
      };
    const why = tooLow(index, fuse, m, reading, predictor);
    if (why) return { measure, low: true, words: `${points} reads ${why}` };
  }
  return undefined;
}

/** Ohms between the same two nets, whichever pin was touched and whichever lead went where. */
function isSameOhms(one: Measurement, asked: Measurement): boolean {
  if (one.kind !== 'resistance') return false;
  const ends = (m: Measurement): string =>
    [m.at, m.to]
      .map(({ net }: Point) => nameKey(net))
      .sort()
      .join(' ');
  return ends(one) === ends(asked) || measurementKey(one) === measurementKey(asked);
}

function tooLow(
  index: BoardIndex,
  fuse: Part,
  m: Measurement,
  { value, absent = [] }: Reading,
  predictor: Predictor,
): string | undefined {
  if (typeof value !== 'number') return undefined;
  const expected = readout('resistance', predictor.healthy(m, absent));
  const least = typeof expected.low === 'number' ? expected.low : Infinity;
  if (value >= least) return undefined;
  const belongs = `where ${expected.display} belongs`;
  const reads = `${formatQuantity(value, 'ohm', 3)} ${belongs}`;
  const volt = supplyVolt(index, fuse);
  const rated = parseFuse(fuse.rating ?? '').ampere;
  // On the mains the winding's own ohms say little of its current: below the band is reason enough.
  if (volt === undefined)
    return `${reads}: this is why it blew. Find what is short before another goes in`;
  const ampere = volt / Math.max(value, 1e-3);
  if (rated !== undefined && ampere <= rated) return undefined;
  const drives = `${formatQuantity(volt, 'V', 2)} would drive ${formatQuantity(ampere, 'A', 2)} through it`;
  return `${reads}: ${drives}${rated === undefined ? '' : `, ${fuse.rating} stands ${formatQuantity(rated, 'A', 2)}`}. This is why it blew: find what is short before another goes in`;
}

/**
 * Volts that the supply puts on the fuse with the power on; undefined on the mains and where the
 * circuit does not tell.
 */
function supplyVolt(index: BoardIndex, fuse: Part): number | undefined {
  if (
    index.board.parts.some(
      (part) => part.kind === 'transformer' && primaryFeed(index, part).parts.has(fuse),
    )
  )
    return undefined;
  const at = fuse.pins.flatMap((net) => soundVolt(index, net) ?? []);
  return at.length === 0 ? undefined : Math.max(...at.map(Math.abs));
}
