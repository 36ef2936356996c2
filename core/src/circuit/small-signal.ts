import { GROUND, nameKey } from '../board';
import { LEAK_SIEMENS, nodesOf, type Element, type NodeName } from '../device';
import { diodeCurrent } from './junction';
import { PatternBuilder, SparseLu } from './sparse';
import { transistorAt } from './transistor';

/** Least impedance of an element at frequency, ohm: keeps a coil without value or loss solvable. */
const LEAST_OHM = 1e-9;

interface Admittance {
  readonly a: number;
  readonly b: number;
  /** Siemens, real and imaginary part. */
  readonly re: number;
  readonly im: number;
  /**
   * Standard deviations of what moves it: d(ln value) times its slope, each [re, im] in siemens.
   */
  readonly slopes: readonly (readonly [number, number])[];
}

/**
 * A network of admittances at one frequency with the junctions at zero bias: what an ESR meter sees
 * of a board that is off.
 */
export interface SmallSignalNetwork {
  readonly nodeIndex: ReadonlyMap<string, number>;
  readonly component: Int32Array;
  readonly admittances: readonly Admittance[];
  readonly lu: SparseLu;
  readonly size: number;
  /** Responses already solved, by pair of nodes; and impedances between them. */
  readonly responses: Map<number, Float64Array>;
  readonly impedances: Map<number, Impedance>;
}

/** An impedance in ohms with the standard deviation that part tolerance gives its real part. */
export interface Impedance {
  readonly re: number;
  readonly im: number;
  readonly reSpread: number;
}

/**
 * Builds and factors the complex system as a real one of twice the size, unknowns [re, im] side by
 * side. frequency: hertz.
 */
export function smallSignal(elements: readonly Element[], frequency: number): SmallSignalNetwork {
  const nodeIndex = new Map<string, number>();
  const number = (name: NodeName): number => {
    const key = nameKey(name);
    if (key === GROUND) return -1;
    if (!nodeIndex.has(key)) nodeIndex.set(key, nodeIndex.size);
    return nodeIndex.get(key)!;
  };
  for (const element of elements) nodesOf(element).forEach(number);
  const omega = 2 * Math.PI * frequency;
  const admittances = elements.flatMap((element) => admittancesOf(element, number, omega));
  const count = nodeIndex.size;
  const component = joinedBy(admittances, count);
  const builder = new PatternBuilder(2 * count);
  const stamps: [number, number][] = [];
  const put = (row: number, column: number, re: number, im: number): void => {
    if (row < 0 || column < 0) return;
    stamps.push(
      [builder.add(2 * row, 2 * column), re],
      [builder.add(2 * row + 1, 2 * column + 1), re],
    );
    stamps.push(
      [builder.add(2 * row, 2 * column + 1), -im],
      [builder.add(2 * row + 1, 2 * column), im],
    );
  };
  for (const { a, b, re, im } of admittances) {
    put(a, a, re, im);
    put(b, b, re, im);
    put(a, b, -re, -im);
    put(b, a, -re, -im);
  }
  const tied = new Set([0]);
  for (let node = 0; node < count; node += 1) {
    put(node, node, tied.has(component[node]!) ? 0 : 1, 0);
    tied.add(component[node]!);
  }
  const { pattern, place } = builder.finish();
  const values = new Float64Array(pattern.row.length);
  for (const [slot, value] of stamps) values[place[slot]!]! += value;
  const lu = new SparseLu(pattern);
  const singular = lu.factor(values);
  if (singular) throw new RangeError(`smallSignal: singular at unknown ${singular.column}`);
  return {
    nodeIndex,
    component,
    admittances,
    lu,
    size: 2 * count,
    responses: new Map(),
    impedances: new Map(),
  };
}

function admittancesOf(
  element: Element,
  number: (name: NodeName) => number,
  omega: number,
): Admittance[] {
  const [a, b, c] = nodesOf(element).map(number) as [number, number, number];
  switch (element.type) {
    case 'conductance':
      return [
        {
          a,
          b,
          re: element.siemens,
          im: 0,
          slopes: element.spread ? [[element.siemens * element.spread, 0]] : [],
        },
      ];
    case 'branch':
      return [series(a, b, Math.max(element.ohm, LEAST_OHM), 0, 0, 0)];
    case 'coil':
      return [
        series(a, b, Math.max(element.ohm, LEAST_OHM), omega * element.henry, element.spread, 0.05),
      ];
    case 'capacitance':
      return [
        series(a, b, element.ohm, -1 / (omega * element.farad), element.ohmSpread, element.spread),
      ];
    case 'junction': {
      const answer = new Float64Array(2);
      diodeCurrent(0, element.model, answer);
      return [{ a, b, re: answer[1]!, im: 0, slopes: [] }];
    }
    case 'transistor': {
      // What base to emitter and base to collector conduct at rest: slopes of the base's current.
      const slope = new Float64Array(9);
      transistorAt(element.model, 0, 0, 0, new Float64Array(2), slope);
      const [reverse, forward] = [-slope[3]!, -slope[5]!];
      return [
        { a: b, b: c, re: forward, im: 0, slopes: [] },
        { a: b, b: a, re: reverse, im: 0, slopes: [] },
      ];
    }
    case 'characteristic':
      return [{ a, b, re: LEAK_SIEMENS, im: 0, slopes: [] }];
    case 'current':
    case 'logic':
      return [];
  }
}

/** Admittance of r + jx with the slopes for ln r and ln x. */
function series(
  a: number,
  b: number,
  r: number,
  x: number,
  rSpread: number,
  xSpread: number,
): Admittance {
  const square = r * r + x * x;
  const [re, im] = [r / square, -x / square];
  // dY = -Y² dZ
  const [yy, yi] = [re * re - im * im, 2 * re * im];
  const slopes: [number, number][] = [];
  if (rSpread) slopes.push([-yy * r * rSpread, -yi * r * rSpread]);
  if (xSpread && x) slopes.push([yi * x * xSpread, -yy * x * xSpread]);
  return { a, b, re, im, slopes };
}

function joinedBy(admittances: readonly Admittance[], count: number): Int32Array {
  const parent = Int32Array.from({ length: count + 1 }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  for (const { a, b } of admittances) parent[root(b + 1)] = root(a + 1);
  const names = new Map([[root(0), 0]]);
  return Int32Array.from({ length: count }, (_, node) => {
    const r = root(node + 1);
    if (!names.has(r)) names.set(r, names.size);
    return names.get(r)!;
  });
}

/** Nodes of the two nets, or undefined where nothing joins them even at this frequency. */
function terminals(
  network: SmallSignalNetwork,
  at: NodeName,
  to: NodeName,
): readonly [number, number] | undefined {
  const [a, b] = [at, to].map((net) =>
    nameKey(net) === GROUND ? -1 : network.nodeIndex.get(nameKey(net)),
  ) as [number?, number?];
  if (a === undefined || b === undefined) return undefined;
  return (a < 0 ? 0 : network.component[a]) === (b < 0 ? 0 : network.component[b])
    ? [a, b]
    : undefined;
}

const pairKey = ({ size }: SmallSignalNetwork, a: number, b: number): number =>
  (a + 1) * (size + 1) + b + 1;

/** Volts of every node, [re, im] side by side, for one ampere into a and out of b. */
function drive(network: SmallSignalNetwork, a: number, b: number): Float64Array {
  const key = pairKey(network, a, b);
  const known = network.responses.get(key);
  if (known) return known;
  const x = new Float64Array(network.size);
  if (a >= 0) x[2 * a]! += 1;
  if (b >= 0) x[2 * b]! -= 1;
  network.lu.solve(x, x);
  network.responses.set(key, x);
  return x;
}

function volt(x: Float64Array, p: number, q: number): readonly [number, number] {
  return [
    (p < 0 ? 0 : x[2 * p]!) - (q < 0 ? 0 : x[2 * q]!),
    (p < 0 ? 0 : x[2 * p + 1]!) - (q < 0 ? 0 : x[2 * q + 1]!),
  ];
}

/** Elements between two nodes as they were and as they are now. */
interface ExchangedElements {
  readonly place: readonly [number, number];
  readonly before: readonly Admittance[];
  readonly after: readonly Admittance[];
}

/**
 * What tolerance does to the real part. The network is reciprocal, so a response is its own
 * adjoint: dZ = -v² dY. exchanged: what is not there any more counts for nothing at a point where
 * its volts are not what they were.
 */
function realSpread(
  network: SmallSignalNetwork,
  x: Float64Array,
  exchanged?: ExchangedElements,
): number {
  let variance = 0;
  const gone = [...(exchanged?.before ?? [])];
  const isGone = ({ a, b, re, im }: Admittance): boolean => {
    const [p, q] = exchanged!.place;
    if (!((a === p && b === q) || (a === q && b === p))) return false;
    const at = gone.findIndex(
      (one) =>
        Math.abs(one.re - re) + Math.abs(one.im - im) <= 1e-9 * (Math.abs(re) + Math.abs(im)),
    );
    return at >= 0 && gone.splice(at, 1).length > 0;
  };
  const placed = (exchanged?.after ?? []).map((admittance) => ({
    ...admittance,
    a: exchanged!.place[0],
    b: exchanged!.place[1],
  }));
  for (const admittance of [...network.admittances, ...placed]) {
    if (admittance.slopes.length === 0) continue;
    if (exchanged && gone.length > 0 && isGone(admittance)) continue;
    const [vr, vi] = volt(x, admittance.a, admittance.b);
    const [squareRe, squareIm] = [vr * vr - vi * vi, 2 * vr * vi];
    for (const [re, im] of admittance.slopes) variance += (squareRe * re - squareIm * im) ** 2;
  }
  return Math.sqrt(variance);
}

/** The impedance between two nets, or undefined where nothing joins them. */
export function impedance(
  network: SmallSignalNetwork,
  at: NodeName,
  to: NodeName,
): Impedance | undefined {
  const ends = terminals(network, at, to);
  return ends && between(network, ...ends);
}

function between(network: SmallSignalNetwork, a: number, b: number): Impedance {
  const key = pairKey(network, a, b);
  let known = network.impedances.get(key);
  if (known) return known;
  const x = drive(network, a, b);
  const [re, im] = volt(x, a, b);
  network.impedances.set(key, (known = { re, im, reSpread: realSpread(network, x) }));
  return known;
}

/**
 * The impedance after the elements between p and q have changed from `before` to `after`: exact,
 * without a new factorisation. Returns undefined where the nets are not joined. frequency: as the
 * network was built. unseenShare: where the real part moves by less than this share of itself the
 * unchanged impedance is returned.
 */
export function impedanceAfter(
  network: SmallSignalNetwork,
  at: NodeName,
  to: NodeName,
  change: {
    readonly a: NodeName;
    readonly b: NodeName;
    readonly before: readonly Element[];
    readonly after: readonly Element[];
  },
  frequency: number,
  unseenShare = 0,
): Impedance | undefined {
  const ends = terminals(network, at, to);
  if (!ends) return undefined;
  const place = terminals(network, change.a, change.b);
  const unchanged = between(network, ...ends);
  if (!place) return unchanged;
  const x = drive(network, ...ends);
  const coupling = volt(x, ...place);
  const admittances = (elements: readonly Element[]): readonly Admittance[] =>
    elements.flatMap((element) => admittancesOf(element, () => 0, 2 * Math.PI * frequency));
  const total = (list: readonly Admittance[]): readonly [number, number] =>
    list.reduce<[number, number]>((sum, y) => [sum[0] + y.re, sum[1] + y.im], [0, 0]);
  const [before, after] = [admittances(change.before), admittances(change.after)];
  const [afterRe, afterIm] = total(after);
  const [beforeRe, beforeIm] = total(before);
  const [yr, yi] = [afterRe - beforeRe, afterIm - beforeIm];
  const own = drive(network, ...place);
  const [zr, zi] = volt(own, ...place);
  // factor = Y v / (1 + Y z)
  const [nr, ni] = [yr * coupling[0] - yi * coupling[1], yr * coupling[1] + yi * coupling[0]];
  const [dr, di] = [1 + yr * zr - yi * zi, yr * zi + yi * zr];
  const size = dr * dr + di * di;
  const [fr, fi] = [(nr * dr + ni * di) / size, (ni * dr - nr * di) / size];
  if (Math.hypot(fr, fi) * Math.hypot(...coupling) <= unseenShare * Math.abs(unchanged.re))
    return unchanged;
  const updated = new Float64Array(network.size);
  for (let i = 0; i < updated.length; i += 2) {
    updated[i] = x[i]! - (fr * own[i]! - fi * own[i + 1]!);
    updated[i + 1] = x[i + 1]! - (fr * own[i + 1]! + fi * own[i]!);
  }
  const [newRe, newIm] = volt(updated, ...ends);
  return { re: newRe, im: newIm, reSpread: realSpread(network, updated, { place, before, after }) };
}
