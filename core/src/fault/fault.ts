import {
  findPin,
  isInsidePackage,
  nameKey,
  replaceableRef,
  type BoardIndex,
  type Part,
  type PinPlace,
} from '../board';
import { isSource, modesOf, SEVERITY, type FaultMode, type SeverityRange } from '../device';
import { trackCuts } from './track-cuts';
import { oncePer } from '../once-per';

/** One fault on the board. */
export type Fault =
  | { readonly type: 'mode'; readonly name: string; readonly part: Part; readonly mode: FaultMode }
  | { readonly type: 'dry'; readonly name: string; readonly pin: PinPlace }
  /**
   * severity: where it is not that of a short. poweredOnly: it conducts with the power on alone, as
   * a chip or a zener that nobody drew.
   */
  | {
      readonly type: 'bridge';
      readonly name: string;
      readonly nets: readonly [string, string];
      readonly severity?: SeverityRange;
      readonly poweredOnly?: true;
    }
  /** A track cut between two pins that it runs between; pins: those that lose their net with it. */
  | {
      readonly type: 'cut';
      readonly name: string;
      readonly net: string;
      readonly pins: readonly PinPlace[];
    };

export type FaultResult =
  | { readonly ok: true; readonly fault: Fault }
  | { readonly ok: false; readonly what: string; readonly expected: string };

/** How bad the fault can be. */
export function severityOf(fault: Fault): SeverityRange {
  if (fault.type === 'mode') return fault.mode.severity;
  return fault.type === 'bridge' ? (fault.severity ?? SEVERITY.short) : SEVERITY.open;
}

/** Whether the fault is an open: how bad it is says only how much that leaks. */
export function isOpenFault(fault: Fault): boolean {
  return severityOf(fault) === SEVERITY.open;
}

/** False where the fault cannot show at DC. */
export function changesDc(fault: Fault): boolean {
  return fault.type !== 'mode' || fault.mode.changesDc;
}

/**
 * Reads a fault name: `C3:high-esr`, `L1.2:dry`, `VCC~OUT:bridge`, `U3.14~C7.1:cut`. Names compare
 * without regard to case.
 */
export function parseFault(index: BoardIndex, text: string): FaultResult {
  const colon = text.lastIndexOf(':');
  if (colon <= 0)
    return {
      ok: false,
      what: `cannot read the fault "${text}"`,
      expected: 'REF:mode, REF.PIN:dry, NETA~NETB:bridge or REF.PIN~REF.PIN:cut',
    };
  const [place, mode] = [
    text.slice(0, colon).trim(),
    text
      .slice(colon + 1)
      .trim()
      .toLowerCase(),
  ];
  if (mode === 'bridge') return parseBridge(index, text, place);
  if (mode === 'cut') return parseCut(index, text, place);
  if (mode === 'dry') {
    const pin = findPin(index, place);
    if (!pin)
      return {
        ok: false,
        what: `${text}: the board has no pin ${place}`,
        expected: 'REF.PIN:dry, for example L1.2:dry',
      };
    return { ok: true, fault: dryPin(pin) };
  }
  const part = index.partByKey.get(nameKey(place));
  const pin = part ? undefined : findPin(index, place);
  if (pin) return findMode(pin.part, pin.index, mode, text);
  if (!part)
    return {
      ok: false,
      what: `${text}: the board has no part ${place}`,
      expected: 'a designator of this board',
    };
  return findMode(part, undefined, mode, text);
}

/** Reads the name of a hypothesis: one fault, or several joined by ` + `. */
export function parseFaults(
  index: BoardIndex,
  text: string,
): { readonly ok: true; readonly faults: readonly Fault[] } | Extract<FaultResult, { ok: false }> {
  const faults: Fault[] = [];
  // A net may be called +5V: what joins two faults has a blank on both sides.
  for (const name of text.split(/\s\+\s/)) {
    const result = parseFault(index, name.trim());
    if (!result.ok) return result;
    faults.push(result.fault);
  }
  return { ok: true, faults };
}

function findMode(part: Part, pin: number | undefined, mode: string, text: string): FaultResult {
  const own = modesOf(part).filter((candidate) => candidate.pin === pin);
  const found = own.find((candidate) => candidate.name === mode);
  if (found) return { ok: true, fault: modeFault(part, found) };
  const where = pin === undefined ? part.ref : `${part.ref}.${pin + 1}`;
  const names = [...own.map((candidate) => candidate.name), ...(pin === undefined ? [] : ['dry'])];
  return {
    ok: false,
    what: `${text}: ${where} has no mode ${mode}`,
    expected: names.length > 0 ? `one of ${names.join(', ')}` : 'a part that can fail',
  };
}

function modeFault(part: Part, mode: FaultMode): Fault {
  return {
    type: 'mode',
    name: `${part.ref}${mode.pin === undefined ? '' : `.${mode.pin + 1}`}:${mode.name}`,
    part,
    mode,
  };
}

function parseBridge(index: BoardIndex, text: string, place: string): FaultResult {
  const nets = place.split('~').map((net) => index.netByKey.get(nameKey(net.trim())));
  if (nets.length !== 2 || nets.some((net) => net === undefined)) {
    return { ok: false, what: `${text}: not two nets of this board`, expected: 'NETA~NETB:bridge' };
  }
  const [a, b] = (nets as string[]).sort((p, q) =>
    p.toLowerCase() < q.toLowerCase() ? -1 : 1,
  ) as [string, string];
  return { ok: true, fault: { type: 'bridge', name: `${a}~${b}:bridge`, nets: [a, b] } };
}

function parseCut(index: BoardIndex, text: string, place: string): FaultResult {
  const unordered = (ends: string): string => ends.toLowerCase().split('~').sort().join('~');
  const fault = trackCuts(index).find(({ between }) => unordered(between) === unordered(place));
  if (fault) return { ok: true, fault: fault.fault };
  return {
    ok: false,
    what: `${text}: no track is known to run between ${place.replace('~', ' and ')}`,
    expected:
      'two pins next to each other on one net of a board with positions, with other pins behind both',
  };
}

function dryPin(pin: PinPlace): Fault {
  return { type: 'dry', name: `${pin.part.ref}.${pin.index + 1}:dry`, pin };
}

/**
 * Every single fault of the board's parts and their joints, in board order, then bridges between
 * nets that lie side by side, then cuts of tracks.
 */
export function singleFaults(index: BoardIndex): readonly Fault[] {
  return [
    ...partFaults(index),
    ...neighbourBridges(index),
    ...trackCuts(index).map(({ fault }) => fault),
  ];
}

function partFaults(index: BoardIndex): readonly Fault[] {
  return index.board.parts.flatMap((part): Fault[] => {
    if (isSource(part) || part.kind === 'unspecified') return [];
    const modes = modesOf(part).map((mode) => modeFault(part, mode));
    if (isInsidePackage(part.ref)) return modes;
    const joints = part.pins.map((net, i): Fault => dryPin({ part, index: i, net }));
    return [...modes, ...joints];
  });
}

/**
 * Pins nearer than this can be joined by a splash of solder, mm: one step of a dual in-line
 * package.
 */
const BRIDGE_REACH_MM = 2.6;

/**
 * Bridges that a splash of solder makes: pins side by side on a chip, and pins whose positions are
 * known to be near each other.
 */
function neighbourBridges(index: BoardIndex): readonly Fault[] {
  const found = new Map<string, Fault>();
  const add = (a: string, b: string): void => {
    const [p, q] = [index.netByKey.get(nameKey(a))!, index.netByKey.get(nameKey(b))!];
    if (p === q) return;
    const [first, second] = p.toLowerCase() < q.toLowerCase() ? [p, q] : [q, p];
    const name = `${first}~${second}:bridge`;
    if (!found.has(name)) found.set(name, { type: 'bridge', name, nets: [first, second] });
  };
  const placed: { x: number; y: number; net: string }[] = [];
  for (const part of index.board.parts) {
    part.pinPositionsMm?.forEach(
      (at, pin) => at && part.pins[pin] && placed.push({ x: at[0], y: at[1], net: part.pins[pin] }),
    );
    if (part.kind !== 'chip' || part.pinPositionsMm) continue;
    const side = part.pins.length / 2;
    for (let pin = 0; pin + 1 < part.pins.length; pin += 1)
      if (pin + 1 !== side) add(part.pins[pin]!, part.pins[pin + 1]!);
  }
  placed.sort((a, b) => a.x - b.x);
  placed.forEach((pin, i) => {
    for (let k = i + 1; k < placed.length && placed[k]!.x - pin.x <= BRIDGE_REACH_MM; k += 1) {
      if (Math.hypot(placed[k]!.x - pin.x, placed[k]!.y - pin.y) <= BRIDGE_REACH_MM)
        add(pin.net, placed[k]!.net);
    }
  });
  return [...found.values()];
}

/** The part that is replaced or resoldered for this fault; for a bridge or a cut, where it is. */
export function faultRef(fault: Fault): string {
  if (fault.type === 'bridge' || fault.type === 'cut')
    return fault.name.replace(/:(bridge|cut)$/, '');
  return replaceableRef(fault.type === 'mode' ? fault.part.ref : fault.pin.part.ref);
}

/** What may be the matter with a place that is no part. */
export type SiteKind = 'bridge' | 'cut';

/** The places of a board's bridges and cuts, as faultRef names them. */
const sitesOf = oncePer((index: BoardIndex): ReadonlyMap<string, SiteKind> => {
  const faults = [...neighbourBridges(index), ...trackCuts(index).map(({ fault }) => fault)];
  return new Map(faults.map((fault) => [nameKey(faultRef(fault)), fault.type as SiteKind]));
});

/**
 * What a name stands for where it is the place of a bridge or a cut and no part; undefined for
 * anything else.
 */
export function siteKind(index: BoardIndex, ref: string): SiteKind | undefined {
  return ref.includes('~') ? sitesOf(index).get(nameKey(ref)) : undefined;
}
