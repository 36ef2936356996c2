import { GROUND, nameKey, type BoardIndex, type Part, type Setup } from '../board';
import { modesOf, supplyRails } from '../device';
import { isPlugged, type Fault, type FaultState } from '../fault';
import { BenchState, type Measurement } from '../instrument';
import { oncePer } from '../once-per';

type Source = Extract<Part, { kind: 'voltageSource' }>;

/** Sources below this are no supplies but what stands in for another board, volt. */
const LEAST_SUPPLY_VOLT = 2;
/**
 * A limited supply is set to this multiple of what the good board draws, and to so much more at
 * least, ampere. Common practice, no published source.
 */
const LIMIT = { factor: 1.5, least: 0.05 } as const;
/** Below this a short is a short, above it the reading is of something else, ohm. */
const SHORT_OHM = { low: 0.05, high: 60 } as const;
const HALVINGS = 14;
/** How far the straight way may be off before it is not believed, as a share. */
const EXACT = 0.01;
/** How far a reading may lie from what the circuit makes of it, as a share. */
const NEAR = 0.1;

/** What one supply of the board has to give when it first comes on. */
export interface SupplyDraw {
  readonly ref: string;
  readonly net: string;
  readonly volt: number;
  /** What the good board draws, ampere; undefined where the circuit does not tell. */
  readonly ampere: number | undefined;
  /** Where to set the limit of a bench supply, ampere. */
  readonly limitAmpere: number | undefined;
}

/** The setup in which power comes on first: without its loads where it has any that can be unplugged. */
export function firstPowerSetup(index: BoardIndex): Setup {
  return index.board.parts.some((part) => !isPlugged(index.board, part, 'unloaded'))
    ? 'unloaded'
    : 'on';
}

const isSupply = (part: Part): part is Source =>
  part.kind === 'voltageSource' && Math.abs(part.volt) >= LEAST_SUPPLY_VOLT;

const drawOf = (index: BoardIndex, source: Part): Measurement => {
  const [at, to] = source.pins.map((written, pin) => {
    const net = index.netByKey.get(nameKey(written))!;
    return { net, pin: { part: source, index: pin, net } };
  });
  return { setup: firstPowerSetup(index), kind: 'current', at: at!, to: to! };
};

/** What a supply gives with these faults, ampere; undefined where the board cannot be solved. */
function ampereOf(
  index: BoardIndex,
  source: Part,
  faults: readonly FaultState[],
  absent: readonly string[],
): number | undefined {
  const m = drawOf(index, source);
  const response = new BenchState(index, { setup: m.setup, faults, absent }).respond(m);
  return 'value' in response && typeof response.value === 'number'
    ? Math.abs(response.value)
    : undefined;
}

/** By board, and by the parts that are off it. */
const drawsOf = oncePer((_: BoardIndex) => new Map<string, readonly SupplyDraw[]>());

/** What each supply has to give when power first comes on, by the good board. absent: parts left off. */
export function firstDraws(
  index: BoardIndex,
  absent: readonly string[] = [],
): readonly SupplyDraw[] {
  const key = [...absent].sort().join();
  const known = drawsOf(index);
  let draws = known.get(key);
  if (!draws) known.set(key, (draws = workOut(index, absent)));
  return draws;
}

function workOut(index: BoardIndex, absent: readonly string[]): readonly SupplyDraw[] {
  return index.board.parts.filter(isSupply).map((source) => {
    const ampere = ampereOf(index, source, [], absent);
    const net = source.pins.find((one) => nameKey(one) !== GROUND) ?? source.pins[0]!;
    return {
      ref: source.ref,
      net: index.netByKey.get(nameKey(net))!,
      volt: source.volt,
      ampere,
      limitAmpere:
        ampere === undefined ? undefined : Math.max(LIMIT.factor * ampere, ampere + LIMIT.least),
    };
  });
}

/** A short of a rail to ground that would draw what the supply shows, and what may be it. */
export interface FittingShort {
  readonly net: string;
  /** The ohms from the rail to ground that draw it. */
  readonly ohm: number;
  /** Parts from this rail to ground that can be short, in board order. */
  readonly refs: readonly string[];
}

/**
 * The ohms of a short that draw a current. On a board of straight lines the current is a quotient of
 * two of them over the conductance of the short: none, a weak and a hard one tell the whole curve.
 * Where diodes bend it the ohms between are halved until they draw it. Source: bilinear theorem of
 * linear circuits, as in the severities.
 */
function ohmsThatDraw(
  ampere: number,
  { none, least, most }: { none: number; least: number; most: number },
  draws: (ohm: number) => number | undefined,
): number {
  // I(g) = (none + b g) / (1 + c g), through the weak and the hard short.
  const [g1, g2] = [1 / SHORT_OHM.high, 1 / SHORT_OHM.low];
  const [d1, d2] = [(least - none) / g1, (most - none) / g2];
  const c = (d1 - d2) / (most - least);
  const g = (ampere - none) / (d1 + c * least - c * ampere);
  const straight = 1 / g;
  if (straight > 0 && Number.isFinite(straight)) {
    const drawn = draws(straight);
    if (drawn !== undefined && Math.abs(drawn / ampere - 1) < EXACT) return straight;
  }
  let [low, high] = [Math.log(SHORT_OHM.low), Math.log(SHORT_OHM.high)];
  for (let i = 0; i < HALVINGS; i += 1) {
    const middle = (low + high) / 2;
    if ((draws(Math.exp(middle)) ?? 0) > ampere) low = middle;
    else high = middle;
  }
  return Math.exp((low + high) / 2);
}

/**
 * Which short fits a supply that gives more than it should: for each rail the ohms to ground that
 * would draw just that. Rails at which no short from 0.05 to 60 ohm does are left out.
 * @param ampere what the supply shows, before its limit takes hold
 */
export function fittingShorts(
  index: BoardIndex,
  ref: string,
  ampere: number,
  absent: readonly string[] = [],
): readonly FittingShort[] {
  const source = index.partByKey.get(nameKey(ref));
  if (!source || !isSupply(source) || !(ampere > 0)) return [];
  const off = new Set(absent.map(nameKey));
  return supplyRails(index).flatMap((net): FittingShort[] => {
    if (nameKey(net) === GROUND) return [];
    const [a, b] = [net, GROUND].sort() as [string, string];
    const bridge: Fault = { type: 'bridge', name: `${a}~${b}:bridge`, nets: [a, b] };
    const draws = (severity: number | undefined): number | undefined =>
      ampereOf(index, source, severity === undefined ? [] : [{ fault: bridge, severity }], absent);
    const [most, least] = [draws(SHORT_OHM.low), draws(SHORT_OHM.high)];
    if (most === undefined || least === undefined) return [];
    // A rail that this supply does not feed draws the same whatever its ohms.
    if (most < ampere * (1 - NEAR) || least > ampere * (1 + NEAR) || most < least * (1 + NEAR))
      return [];
    const ohm = ohmsThatDraw(ampere, { none: draws(undefined) ?? 0, least, most }, draws);
    const refs = index.board.parts.filter((part) => {
      const keys = part.pins.map(nameKey);
      return (
        keys.includes(nameKey(net)) &&
        keys.includes(GROUND) &&
        !off.has(nameKey(part.ref)) &&
        modesOf(part).some(({ name }) => name.startsWith('short'))
      );
    });
    return [{ net, ohm, refs: refs.map((part) => part.ref) }];
  });
}
