import {
  partLine,
  readSheetLines,
  renameInSheet,
  ringLine,
  type SheetReading,
} from './formats/sheet';
import type { DeviceLibrary } from './library';
import { withPartLine } from './mend';
import { nameKey } from './nets';
import { isUnsaid, lettersOf, unsaidNet } from './part-words';
import { pairKey } from './next-touches';
import { isDesignator } from './scratch-board';
import type { Board, Part, RingTold } from './schema';

/** What a continuity test between two pins said, as it is typed: `u3.2 u5.4 beep`. */
export interface Ring {
  readonly a: string;
  readonly b: string;
  readonly joined: boolean;
}

export type RingResult =
  | { readonly ok: true; readonly text: string; readonly words: string }
  /** merge: the two nets that would have to be one, where that is what the beep says. */
  | {
      readonly ok: false;
      readonly words: string;
      readonly merge?: readonly [string, string];
      /** Nets that would beep alike, through a part of few ohms: which one it is has to be said. */
      readonly nets?: readonly string[];
    };

/** Reads `u3.2 u5.4 beep` or `… open`; undefined where it is neither. */
export function parseRing(text: string): Ring | undefined {
  const [a = '', b = '', said = '', ...more] = text.trim().split(/\s+/);
  const joined = /^(beep|beeps|b)$/i.test(said);
  if (more.length > 0 || b === '' || !(joined || /^(open|o|ol)$/i.test(said))) return undefined;
  return { a: a.toUpperCase(), b: b.toUpperCase(), joined };
}

interface Place {
  /** The net that it is on; undefined where nobody has said. */
  readonly net: string | undefined;
  /** The pin, where it is one: the part (undefined where it is not on the sheet yet) and place from 0. */
  readonly pin?: { readonly part: Part | undefined; readonly ref: string; readonly place: number };
}

/** A pin, or a net that is on the sheet; undefined where it is neither. */
function placeOf(written: string, board: Board): Place | undefined {
  const dot = written.lastIndexOf('.');
  const [ref, pin] = dot > 0 ? [written.slice(0, dot), written.slice(dot + 1)] : ['', ''];
  const part = board.parts.find((one) => nameKey(one.ref) === nameKey(ref));
  if (ref !== '' && (part || isDesignator(ref))) {
    const place = pinPlace(part, pin);
    if (place === undefined) return undefined;
    const net = part?.pins[place];
    return {
      net: net === undefined || isUnsaid(net) ? undefined : net,
      pin: { part, ref: part?.ref ?? ref, place },
    };
  }
  const net = [
    ...board.parts.flatMap(({ pins }) => pins),
    // A net that nothing is drawn on yet.
    ...[...(board.edges ?? []), ...(board.testPoints ?? [])].map((one) => one.net),
  ].find((one) => nameKey(one) === nameKey(written));
  return net === undefined && written !== '0' ? undefined : { net: net ?? '0' };
}

function pinPlace(part: Part | undefined, pin: string): number | undefined {
  if (/^\d{1,3}$/.test(pin)) {
    const place = Number(pin) - 1;
    const most = part && part.kind !== 'unspecified' ? part.pins.length : 400;
    return place >= 0 && place < most ? place : undefined;
  }
  const names: Readonly<Record<string, readonly string[]>> = {
    diode: ['A', 'K'],
    transistor: ['C', 'B', 'E'],
  };
  const own =
    part?.kind === 'chip'
      ? part.model.pins.map(({ name }) => name.toUpperCase())
      : names[part?.kind ?? ''];
  const found = own?.indexOf(pin.toUpperCase()) ?? -1;
  return found >= 0 ? found : undefined;
}

/**
 * A sheet with what a continuity test told put in: two pins that beep are on one net. What the sheet
 * says otherwise is named and not overwritten; a beep through a part of few ohms joins nothing. on: the
 * net that it is, where a fuse or a coil makes several beep alike and it was asked.
 */
export function ringInto(
  source: string,
  ring: Ring,
  library: DeviceLibrary,
  on?: string,
): RingResult {
  const reading = readSheetLines(source, library);
  const { board } = reading;
  const [a, b] = [placeOf(ring.a, board), placeOf(ring.b, board)];
  const lost = !a ? ring.a : !b ? ring.b : undefined;
  if (!a || !b)
    return {
      ok: false,
      words: `${lost} is no pin and no net of the sheet; expected a pin such as U3.2`,
    };
  if (nameKey(ring.a) === nameKey(ring.b))
    return { ok: false, words: 'one pin with itself says nothing' };
  const same = a.net !== undefined && b.net !== undefined && nameKey(a.net) === nameKey(b.net);
  if (!ring.joined)
    return same
      ? {
          ok: false,
          words: `the sheet has both on ${a.net}, and they do not beep: one of the two is wrong, or a joint is open`,
        }
      : { ok: true, text: source, words: `${ring.a} and ${ring.b} are apart` };
  if (same) return { ok: true, text: source, words: `both are on ${a.net} already` };
  if (a.net !== undefined && b.net !== undefined) {
    const between = lowOhms(board, a.net, b.net);
    if (between)
      return {
        ok: true,
        text: source,
        words: `it beeps through ${between}: ${a.net} and ${b.net} stay two nets`,
      };
    return {
      ok: false,
      words: `the sheet has ${a.net} and ${b.net} as two nets: one net, or a bridge`,
      merge: [a.net, b.net],
    };
  }
  const told = a.net ?? b.net;
  const alike = told === undefined ? [] : netsBeepingWith(board, told);
  if (on === undefined && alike.length > 0)
    return {
      ok: false,
      words: `${alike.map(({ net, through }) => `${net} beeps with ${told} through ${through}`).join(', ')}: which one is it on?`,
      nets: [told!, ...alike.map(({ net }) => net)],
    };
  const net = on ?? told ?? freeNet(board);
  let text = source;
  for (const { net: known, pin } of [a, b])
    if (known === undefined && pin)
      text = putOn(text, pin, net, readSheetLines(text, library), library);
  // Of a net that beeps through a part, the pin alone is on the one that was said.
  const pin = a.net === undefined ? ring.a : ring.b;
  const words =
    told !== undefined && nameKey(net) !== nameKey(told)
      ? `${pin} is on ${net}`
      : `${ring.a} and ${ring.b} are on ${net}`;
  return { ok: true, text, words };
}

/**
 * A sheet on which stands who rang two points, when, and what it said. One line a pair: a later word
 * takes the place of an earlier one.
 */
export function withRing(source: string, told: RingTold): string {
  const line = ringLine(told);
  const key = pairKey(told.a, told.b);
  const lines = source.split('\n');
  const at = lines.findIndex((text) => {
    const [word, a = '', b = ''] = text.trim().split(/\s+/);
    return word === 'ring' && pairKey(a, b) === key;
  });
  if (at >= 0) return lines.map((text, i) => (i === at ? line : text)).join('\n');
  return `${source.trimEnd()}\n${line}\n`;
}

/** What was rung and the sheet says otherwise, in words. */
export function ringContradictions(
  board: Board,
): readonly { readonly what: string; readonly remedy: string }[] {
  return (board.rings ?? []).flatMap((told) => {
    const [a, b] = [placeOf(told.a, board)?.net, placeOf(told.b, board)?.net];
    if (a === undefined || b === undefined) return [];
    const same = nameKey(a) === nameKey(b);
    if (same === told.joined || (told.joined && lowOhms(board, a, b))) return [];
    const who = [told.by, told.at?.slice(0, 10)].filter(Boolean).join(', ');
    const pair = `${told.a} and ${told.b}`;
    return [
      {
        what: told.joined
          ? `${pair} beeped${who && ` (${who})`}, and the sheet has them on ${a} and ${b}`
          : `${pair} did not beep${who && ` (${who})`}, and the sheet has both on ${a}`,
        remedy: told.joined
          ? 'one net, a bridge, or a part of few ohms between them that is not drawn'
          : 'two nets, or a joint or track that is open',
      },
    ];
  });
}

/** Two nets as one, under the first one's name. */
export function mergeNets(source: string, [keep, gone]: readonly [string, string]): string {
  return renameInSheet(source, gone, keep);
}

/** A continuity tester beeps through this much, ohm. */
const BEEPS_BELOW_OHM = 30;

function lowOhms(board: Board, a: string, b: string): string | undefined {
  const ends = [nameKey(a), nameKey(b)];
  return board.parts.find(
    (part) =>
      part.pins.length === 2 &&
      part.pins.every((net) => ends.includes(nameKey(net))) &&
      (['fuse', 'link', 'connectorPin', 'inductor'].includes(part.kind) ||
        (part.kind === 'switch' && part.rest === 'closed') ||
        (part.kind === 'winding' && part.dcResistanceOhm < BEEPS_BELOW_OHM) ||
        (part.kind === 'resistor' && part.resistanceOhm < BEEPS_BELOW_OHM)),
  )?.ref;
}

/** The nets that beep with one through a part of few ohms, with that part. */
function netsBeepingWith(
  board: Board,
  net: string,
): readonly { readonly net: string; readonly through: string }[] {
  const others = new Set(
    board.parts.flatMap(({ pins }) => pins).filter((one) => nameKey(one) !== nameKey(net)),
  );
  return [...others].flatMap((other) => {
    const through = isUnsaid(other) ? undefined : lowOhms(board, net, other);
    return through === undefined ? [] : [{ net: other, through }];
  });
}

function freeNet({ parts }: Board): string {
  const taken = new Set(parts.flatMap(({ pins }) => pins.map(nameKey)));
  let n = 1;
  while (taken.has(`n${n}`)) n += 1;
  return `N${n}`;
}

/** The text with one pin on a net; a part that is not there yet comes into being. */
function putOn(
  text: string,
  { part, ref, place }: NonNullable<Place['pin']>,
  net: string,
  { models, board }: SheetReading,
  library: DeviceLibrary,
): string {
  const now = board.parts.find((one) => nameKey(one.ref) === nameKey(ref)) ?? part;
  const count = Math.max(now?.pins.length ?? 1, place + 1);
  const pins = Array.from({ length: count }, (_, i) =>
    i === place ? net : (now?.pins[i] ?? unsaidNet(ref, i + 1)),
  );
  if (!now) return `${text.trimEnd()}\n${newLine(ref, pins, place, net)}\n`;
  // Its section stands above the line, not on it.
  const bare = { ...now, section: undefined, pins } as Part;
  return withPartLine(text, ref, partLine(bare, library, models));
}

/** A part of which one pin is known: two-pin kinds by their letters, others as a box. */
function newLine(ref: string, pins: readonly string[], place: number, net: string): string {
  const twoPins =
    ['R', 'C', 'L', 'F', 'S', 'SW', 'D', 'M', 'W'].includes(lettersOf(ref)) && pins.length <= 2;
  if (!twoPins) return `${ref} box ${place + 1}=${net}`;
  return place === 0 ? `${ref} ${net} ? ?` : `${ref} ? ${net} ?`;
}
