type Place = readonly [number, number];

/** A place on a picture (0 to 1 from left and top) and where that is on the board, mm. */
export interface Tie {
  readonly onPicture: Place;
  readonly onBoard: Place;
}

/** x' = a x + c y + e, y' = b x + d y + f: as an SVG matrix has it. */
export interface Affine {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

/** Three points closer to one line than this share of their spread say nothing across it. */
const LEAST_SPREAD = 0.02;

/**
 * From picture to board by three ties or more: least squares where there are more than three.
 * Undefined with fewer, or where they lie on one line. A picture of the bottom side comes out
 * mirrored by itself.
 */
export function alignPicture(ties: readonly Tie[]): Affine | undefined {
  if (ties.length < 3) return undefined;
  const mean = (of: (tie: Tie) => number): number =>
    ties.reduce((sum, tie) => sum + of(tie), 0) / ties.length;
  const [mx, my] = [mean((t) => t.onPicture[0]), mean((t) => t.onPicture[1])];
  const sum = (of: (x: number, y: number, tie: Tie) => number): number =>
    ties.reduce((total, tie) => total + of(tie.onPicture[0] - mx, tie.onPicture[1] - my, tie), 0);
  const [xx, xy, yy] = [sum((x) => x * x), sum((x, y) => x * y), sum((_, y) => y * y)];
  const determinant = xx * yy - xy * xy;
  if (!(determinant > LEAST_SPREAD ** 2 * (xx + yy) ** 2)) return undefined;
  const solve = (axis: 0 | 1): readonly [number, number, number] => {
    const m = mean((t) => t.onBoard[axis]);
    const px = sum((x, _, t) => x * (t.onBoard[axis] - m));
    const py = sum((_, y, t) => y * (t.onBoard[axis] - m));
    const byX = (px * yy - py * xy) / determinant;
    const byY = (py * xx - px * xy) / determinant;
    return [byX, byY, m - byX * mx - byY * my];
  };
  const [a, c, e] = solve(0);
  const [b, d, f] = solve(1);
  return Math.abs(a * d - b * c) > 1e-9 ? { a, b, c, d, e, f } : undefined;
}

export function applyAffine(
  { a, b, c, d, e, f }: Affine,
  [x, y]: Place,
): readonly [number, number] {
  return [a * x + c * y + e, b * x + d * y + f];
}

/** The way back: from board to picture. */
export function invertAffine({ a, b, c, d, e, f }: Affine): Affine {
  const k = 1 / (a * d - b * c);
  return {
    a: d * k,
    b: -b * k,
    c: -c * k,
    d: a * k,
    e: (c * f - d * e) * k,
    f: (b * e - a * f) * k,
  };
}

/** How far the worst tie is off its place, mm; 0 for three. */
export function worstTie(affine: Affine, ties: readonly Tie[]): number {
  return Math.max(
    0,
    ...ties.map(({ onPicture, onBoard }) => {
      const [x, y] = applyAffine(affine, onPicture);
      return Math.hypot(x - onBoard[0], y - onBoard[1]);
    }),
  );
}
