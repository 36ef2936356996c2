import type { FileIssue } from '../../issue';
import type { PinSaid } from '../../part-words';

/** A part as a netlist has it: words that may say what it is, and its pins in the order they came. */
export interface RawPart {
  readonly ref: string;
  value: string;
  device: string;
  footprint: string;
  readonly pins: PinSaid[];
}

/** What any netlist says, whatever its form. */
export interface RawNetlist {
  title: string;
  readonly parts: Map<string, RawPart>;
  /** What was passed over and why, one text each. */
  readonly skipped: string[];
}

export type RawResult =
  | { readonly ok: true; readonly netlist: RawNetlist }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

export function emptyNetlist(title: string): RawNetlist {
  return { title, parts: new Map(), skipped: [] };
}

/** A name as the board's schema takes it: no blanks, not longer than 80 characters. */
export const nameFrom = (text: string): string => text.trim().replace(/\s+/g, '_').slice(0, 80);

/** The part of this designator, made where it is named for the first time. */
export function partNamed({ parts }: RawNetlist, written: string): RawPart {
  const ref = nameFrom(written);
  const key = ref.toLowerCase();
  let part = parts.get(key);
  if (!part) parts.set(key, (part = { ref, value: '', device: '', footprint: '', pins: [] }));
  return part;
}

/**
 * Lays a pin on a net. A pin that is on another one already stays there, and the list says so: two
 * nets with a pin in common would be one.
 */
export function joinPin(netlist: RawNetlist, written: string, pin: PinSaid): void {
  const part = partNamed(netlist, written);
  const before = part.pins.find((known) => known.pin === pin.pin);
  if (!before) part.pins.push(pin);
  else if (before.net !== pin.net)
    netlist.skipped.push(
      `${part.ref}.${pin.pin} is on ${before.net} and on ${pin.net}: taken as on ${before.net}`,
    );
}
