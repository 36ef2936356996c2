import type { Board, Part } from './schema';

type Place = readonly [number, number];

/** Where the pins of a package are from its middle, mm, seen from above; y grows downwards. */
export interface Footprint {
  readonly pins: readonly Place[];
  /** Width and height of its body, mm. */
  readonly body: readonly [number, number];
}

/** Which way a package lies: quarter turns clockwise, seen from its own side. */
export type Turn = 0 | 1 | 2 | 3;

interface Family {
  readonly words: RegExp;
  /** Undefined where it has no such number of pins. size: the figure in its name, mm or pins. */
  readonly of: (pins: number, size: number | undefined) => Footprint | undefined;
}

/**
 * Two rows: pin 1 at the upper left, down the left side and up the right one, the notch up. That is
 * counterclockwise from pin 1, seen from above (JEDEC MS-001, MS-011, MS-012, from memory).
 */
function twoRows(pins: number, pitch: number, across: number, body: number): Footprint | undefined {
  if (pins < 4 || pins % 2 === 1) return undefined;
  const rows = pins / 2;
  const top = (-(rows - 1) * pitch) / 2;
  const left = Array.from({ length: rows }, (_, i): Place => [-across / 2, top + i * pitch]);
  const right = left.map(([x, y]): Place => [-x, y]).reverse();
  return { pins: [...left, ...right], body: [body, rows * pitch] };
}

/** Pins in one line, pin 1 at the left. */
function inLine(pins: number, pitch: number, body: number): Footprint {
  const left = (-(pins - 1) * pitch) / 2;
  return {
    pins: Array.from({ length: pins }, (_, i): Place => [left + i * pitch, 0]),
    body: [pins * pitch, body],
  };
}

const twoEnds = (apart: number, width: number, height: number): Footprint => ({
  pins: [
    [-apart / 2, 0],
    [apart / 2, 0],
  ],
  body: [width, height],
});

/** Dual in line packages from so many pins on are mostly 0.6 inch wide. */
const WIDE_FROM_PINS = 24;

// Pitches and rows from memory of the published outlines: MS-001 (0.3 inch), MS-011 (0.6 inch),
// MS-012 (small outline), TO-92, TO-220; chip sizes by their name in hundredths of an inch.
const FAMILIES: readonly Family[] = [
  {
    words: /^(?:SK)?(?:C|P)?DI[PL]/i,
    of: (pins) =>
      twoRows(
        pins,
        2.54,
        pins >= WIDE_FROM_PINS ? 15.24 : 7.62,
        pins >= WIDE_FROM_PINS ? 13.7 : 6.4,
      ),
  },
  { words: /^(?:SO|SOIC|SOP)/i, of: (pins) => twoRows(pins, 1.27, 5.4, 3.9) },
  { words: /^(?:SIP|SIL)/i, of: (pins) => inLine(pins, 2.54, 2.8) },
  { words: /^TO-?92/i, of: (pins) => (pins === 3 ? inLine(3, 1.27, 3.7) : undefined) },
  { words: /^TO-?(?:220|126|202)/i, of: (pins) => inLine(pins, 2.54, 4.5) },
  {
    words: /^radial/i,
    of: (pins, size = 5) =>
      pins === 2 ? twoEnds(size, Math.max(5, 2 * size), Math.max(5, 2 * size)) : undefined,
  },
  {
    words: /^axial/i,
    of: (pins, size = 10.16) => (pins === 2 ? twoEnds(size, 0.62 * size, 2.5) : undefined),
  },
  {
    words: /^(0402|0603|0805|1206|1210|1812|2010|2512)$/,
    of: (pins, size) => {
      const [long, short] = [Math.floor(size! / 100), size! % 100].map((n) => n * 0.254) as [
        number,
        number,
      ];
      return pins === 2 ? twoEnds(0.85 * long, long, short) : undefined;
    },
  },
];

/**
 * The footprint that a package is called by: `DIP14`, `SO-16`, `SIP9`, `TO-92`, `radial 5` (mm
 * between the leads), `axial 10`, `0805`. pins: how many the part has. Undefined where the name says
 * nothing, or has other pins.
 */
export function footprintOf(name: string, pins: number): Footprint | undefined {
  const family = FAMILIES.find(({ words }) => words.test(name.trim()));
  if (!family) return undefined;
  const figure = /(\d+(?:\.\d+)?)\s*(?:mm)?$/i.exec(name.replace(/^TO-?\d+/i, '').trim())?.[1];
  const size = figure === undefined ? undefined : Number(figure);
  const counted = /^(?:SK)?(?:C|P)?DI[PL]|^SO|^SI[PL]/i.test(name.trim());
  if (counted && size !== undefined && size !== pins) return undefined;
  return family.of(pins, size);
}

/** What package a part most likely has, by what it is. */
export function usualPackage(part: Part): string {
  const pins = part.pins.length;
  switch (part.kind) {
    case 'chip':
    case 'amplifier':
      return `DIP${pins}`;
    case 'transistor':
      return 'TO-92';
    case 'regulator':
      return 'TO-220';
    case 'capacitor':
      return part.capacitanceFarad >= 0.5e-6 ? 'radial 5' : 'radial 2.5';
    case 'resistor':
    case 'diode':
    case 'inductor':
    case 'fuse':
    case 'link':
      return 'axial 10';
    default:
      return pins === 2 ? 'radial 5' : `SIP${pins}`;
  }
}

/**
 * Where the pins of a package come to lie on the board, mm. at: its middle. side: seen from above the
 * board whatever the side; on the bottom the package is mirrored, so that pin 1 and its row change
 * places left and right.
 */
export function pinPlaces(
  footprint: Footprint,
  [x, y]: Place,
  turn: Turn,
  side: 'top' | 'bottom',
): readonly (readonly [number, number])[] {
  return footprint.pins.map((pin) => {
    const [dx, dy] = turned(side === 'bottom' ? [-pin[0], pin[1]] : pin, turn);
    return [round(x + dx), round(y + dy)] as const;
  });
}

/** Clockwise on a page whose y grows downwards. */
function turned([x, y]: Place, turn: Turn): Place {
  switch (turn) {
    case 0:
      return [x, y];
    case 1:
      return [-y, x];
    case 2:
      return [-x, -y];
    default:
      return [y, -x];
  }
}

const round = (mm: number): number => Math.round(mm * 100) / 100 || 0;

/** What lies about the outermost parts of a board whose outline nobody has said, mm. */
const RIM_MM = 4;

/** The rectangle that a board is drawn in, mm; undefined where neither outline nor places are known. */
export function boardFrame({
  outlineMm,
  parts,
}: Board):
  | { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
  | undefined {
  if (outlineMm) return { x: 0, y: 0, ...outlineMm };
  const places = parts.flatMap((part) => [
    ...(part.positionMm ? [part.positionMm] : []),
    ...(part.pinPositionsMm ?? []).flatMap((place) => (place ? [place] : [])),
  ]);
  if (places.length === 0) return undefined;
  const span = (axis: 0 | 1): readonly [number, number] => {
    const values = places.map((place) => place[axis]);
    const [least, most] = [Math.min(...values), Math.max(...values)];
    return [least - RIM_MM, most - least + 2 * RIM_MM];
  };
  const [[x, width], [y, height]] = [span(0), span(1)];
  return { x, y, width, height };
}
