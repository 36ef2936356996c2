import {
  alignPicture,
  boardFrame,
  footprintOf,
  isInsidePackage,
  replaceableRef,
  usualPackage,
  type Affine,
  type Board,
  type Part,
  type Tie,
} from '@hanzai/core/board';
import type { Side } from './board-pictures';

type Place = readonly [number, number];

export interface Frame {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A part as it lies on the board, mm as seen from the top. */
export interface PlacedOnBoard {
  readonly ref: string;
  readonly part: Part;
  readonly at: Place;
  readonly pins: readonly (Place | null)[];
  /** Corner, width and height of what it covers. */
  readonly body: Frame;
  readonly round: boolean;
}

/** The parts of a side that have a place; elements of an array and the inside of a package once. */
export function partsOnSide({ parts }: Board, side: Side): readonly PlacedOnBoard[] {
  const seen = new Set<string>();
  return parts.flatMap((part): PlacedOnBoard[] => {
    const ref = isInsidePackage(part.ref) ? replaceableRef(part.ref) : part.ref;
    const own =
      /\.\d+$/.test(part.ref) && part.kind === 'connectorPin' ? part.ref : replaceableRef(ref);
    const at = part.positionMm ?? middle(part.pinPositionsMm ?? []);
    if (!at || (part.side ?? 'top') !== side || seen.has(own)) return [];
    seen.add(own);
    return [{ ref: own, part, at, pins: part.pinPositionsMm ?? [], ...bodyOf(part, at) }];
  });
}

function middle(places: readonly (Place | null)[]): Place | undefined {
  const known = places.flatMap((place) => (place ? [place] : []));
  if (known.length === 0) return undefined;
  const mean = (axis: 0 | 1): number =>
    known.reduce((sum, place) => sum + place[axis], 0) / known.length;
  return [mean(0), mean(1)];
}

/** What a part covers: about its pins where they are known, else as its kind usually does. */
function bodyOf(part: Part, [x, y]: Place): { readonly body: Frame; readonly round: boolean } {
  const round = part.kind === 'capacitor' && part.capacitanceFarad >= 1e-6;
  const known = (part.pinPositionsMm ?? []).flatMap((place) => (place ? [place] : []));
  if (round) {
    const r = 1.9 + 0.5 * Math.log10(part.capacitanceFarad / 1e-6 + 1);
    return { round, body: { x: x - r, y: y - r, width: 2 * r, height: 2 * r } };
  }
  if (known.length > 1) {
    const [xs, ys] = [known.map((p) => p[0]), known.map((p) => p[1])];
    const [left, top] = [Math.min(...xs), Math.min(...ys)];
    const pad = known.length === 2 ? 0.9 : 0.6;
    return {
      round,
      body: {
        x: left - pad,
        y: top - pad,
        width: Math.max(...xs) - left + 2 * pad,
        height: Math.max(...ys) - top + 2 * pad,
      },
    };
  }
  const shape = footprintOf(usualPackage(part), part.pins.length);
  const isChip = part.kind === 'chip' || part.kind === 'amplifier';
  // Drawn lying, so that its name fits into it.
  const [width, height] = isChip && shape ? [shape.body[1], shape.body[0]] : [3.6, 1.6];
  return { round, body: { x: x - width / 2, y: y - height / 2, width, height } };
}

/** Where pins of a net, or one pin, are on the board, mm; the middle of a part whose pins have no place. */
export function placesOfPoint(
  board: Board,
  pins: readonly { readonly part: Part; readonly index: number }[],
): readonly Place[] {
  const placed = new Set(board.parts);
  return pins.flatMap(({ part, index }): Place[] => {
    const at = placed.has(part) ? (part.pinPositionsMm?.[index] ?? part.positionMm) : undefined;
    return at ? [at] : [];
  });
}

/** How the bottom is seen: turned over about its upright middle. */
export function mirrored(frame: Frame, x: number): number {
  return 2 * frame.x + frame.width - x;
}

/**
 * The matrix that lays a picture, one unit wide and high, on the board as it is seen from a side;
 * undefined where its points do not tell.
 */
export function pictureMatrix(ties: readonly Tie[], frame: Frame, side: Side): string | undefined {
  const affine: Affine | undefined = alignPicture(ties);
  if (!affine) return undefined;
  const { a, b, c, d, e, f } = affine;
  return side === 'top'
    ? `matrix(${a} ${b} ${c} ${d} ${e} ${f})`
    : `matrix(${-a} ${b} ${-c} ${d} ${mirrored(frame, e)} ${f})`;
}

/** The corners that a picture is laid on the board by, in the order in which they are tapped. */
export function cornersOf(
  { outlineMm }: Board,
  side: Side,
): readonly { words: string; onBoard: Place }[] {
  if (!outlineMm) return [];
  const { width, height } = outlineMm;
  // Seen from below, left and right change places.
  const [left, right] = side === 'top' ? [0, width] : [width, 0];
  return [
    { words: 'its upper left corner', onBoard: [left, 0] },
    { words: 'its upper right corner', onBoard: [right, 0] },
    { words: 'its lower left corner', onBoard: [left, height] },
  ];
}

export { boardFrame };
