import {
  GROUND,
  nameKey,
  namedSetup,
  replaceableRef,
  type BoardIndex,
  type Part,
  type PinPlace,
  type Setup,
} from '../board';
import type { Fault } from './fault';
import { isPlugged } from './plugged';
import { oncePer } from '../once-per';

/**
 * What feeds a transformer: the parts in series with its primary, out to where the mains comes in.
 * The circuit knows direct current only, and a secondary is a source in it: it is one as long as
 * nothing in this row is open, off the board or unplugged.
 */
interface Feed {
  readonly transformer: Part;
  readonly parts: ReadonlySet<Part>;
  /** The nets between them. */
  readonly nets: ReadonlySet<string>;
  /** The nets at its outer ends: where the mains comes in. */
  readonly ends: readonly [string, string];
}

/** Kinds of parts that carry a supply from one end to the other. */
const CARRIES: ReadonlySet<Part['kind']> = new Set([
  'fuse',
  'switch',
  'connectorPin',
  'link',
  'inductor',
]);
/** A resistor up to this much limits the inrush, and carries too, ohm. */
const MOST_INRUSH_OHM = 100;

const feedsOf = oncePer((index: BoardIndex): readonly Feed[] =>
  index.board.parts.filter(({ kind }) => kind === 'transformer').map((part) => feedOf(index, part)),
);

function feedOf(index: BoardIndex, transformer: Part): Feed {
  const parts = new Set<Part>();
  const nets = new Set<string>();
  const ends = PRIMARY.map((pin) => {
    let net = netOf(index, transformer.pins[pin]!);
    // Where two ways part, neither is needed by itself.
    for (let next = onlyWay(index, net, parts); next; next = onlyWay(index, net, parts)) {
      nets.add(net);
      parts.add(next.part);
      net = netOf(index, next.part.pins[1 - next.index]!);
    }
    return net;
  });
  return { transformer, parts, nets, ends: [ends[0]!, ends[1]!] };
}

/**
 * The row of parts in series with a transformer's primary: its parts, the nets between them, and
 * where it ends.
 */
export function primaryFeed(
  index: BoardIndex,
  transformer: Part,
): Pick<Feed, 'parts' | 'nets' | 'ends'> {
  return (
    feedsOf(index).find((feed) => feed.transformer === transformer) ?? feedOf(index, transformer)
  );
}

const PRIMARY = [0, 1] as const;

const netOf = (index: BoardIndex, written: string): string => index.netByKey.get(nameKey(written))!;

/** The one part that carries on from a net, at its pin there. */
function onlyWay(index: BoardIndex, net: string, met: ReadonlySet<Part>): PinPlace | undefined {
  if (net === GROUND) return undefined;
  const ways = index.pinsOfNet.get(net)!.filter(({ part }) => carries(part) && !met.has(part));
  return ways.length === 1 ? ways[0] : undefined;
}

function carries(part: Part): boolean {
  return (
    CARRIES.has(part.kind) || (part.kind === 'resistor' && part.resistanceOhm <= MOST_INRUSH_OHM)
  );
}

/** The transformers that a fault leaves without their mains. */
export function starvedBy(index: BoardIndex, fault: Fault): readonly Part[] {
  return feedsOf(index)
    .filter((feed) => opens(fault, index, feed))
    .map(({ transformer }) => transformer);
}

/**
 * Whether a transformer has its mains in this setup, with these parts off the board and these
 * faults.
 */
export function isFed(
  index: BoardIndex,
  transformer: Part,
  setup: Setup,
  absent: readonly string[],
  faults: readonly Fault[],
): boolean {
  const feed = feedsOf(index).find((one) => one.transformer === transformer);
  if (!feed) return true;
  const off = new Set(absent.map(nameKey));
  const thrown = namedSetup(index.board, setup)?.thrown?.map(nameKey) ?? [];
  const carriesNow = (part: Part): boolean => {
    if (part.kind === 'switch' && part.rest === 'closed' && thrown.includes(nameKey(part.ref)))
      return false;
    return isPlugged(index.board, part, setup) && !off.has(nameKey(replaceableRef(part.ref)));
  };
  return [...feed.parts].every(carriesNow) && !faults.some((fault) => opens(fault, index, feed));
}

function opens(fault: Fault, index: BoardIndex, { transformer, parts, nets }: Feed): boolean {
  const isIn = ({ part, index: pin }: PinPlace): boolean =>
    parts.has(part) || (part === transformer && pin <= PRIMARY[1]);
  if (fault.type === 'mode') return parts.has(fault.part) && fault.mode.name === 'open';
  if (fault.type === 'dry') return isIn(fault.pin);
  if (fault.type !== 'cut' || !nets.has(fault.net)) return false;
  // A cut opens it where what carries lies on both of its sides.
  const behind = fault.pins.filter(isIn).length;
  return behind > 0 && behind < index.pinsOfNet.get(fault.net)!.filter(isIn).length;
}
