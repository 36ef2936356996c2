import type { Part } from '../board';
import type { Element } from './element';
import type { DeviceKind, FaultMode } from './kind';
import { supplyCharacteristic, type FreeCharacteristic, type Straight } from './characteristic';

type Amplifier = Extract<Part, { kind: 'amplifier' }>;

/**
 * Ohms of a small operational amplifier's output stage, and the spread of its offset referred to
 * the input, volt. From memory of common data sheets.
 */
const OUTPUT_OHM = 50;
const OFFSET_SPREAD_VOLT = 2e-3;
/**
 * Below this supply an amplifier does nothing; it comes to life over so much more. From memory of
 * common data sheets.
 */
const LEAST_SUPPLY_VOLT = 2;
const WAKING_VOLT = 1;
/**
 * Output swing over which an amplifier is taken as linear in the search for an operating point,
 * volt.
 */
const LINEAR_SWING_VOLT = 0.5;
/** Least half of the swing between the rails, volt. */
const LEAST_HALF_VOLT = 1e-3;
/** Share of the gain that is left at the rails. */
const RAIL_SLOPE = 1e-6;

/**
 * Current from the output stage into the output node. The stage aims at gain times the input
 * difference about mid-supply, within its rails. Controls: plus, minus, out, positive supply,
 * negative supply.
 */
function amplifierCharacteristic(
  gain: number,
  headroomHigh: number,
  headroomLow: number,
  limit: number,
  outputOhm: number,
): FreeCharacteristic {
  const at: FreeCharacteristic['at'] = (v, out) => {
    const high = v[3]! - headroomHigh;
    // With too little supply for both headrooms the rails fall together, at the upper one.
    const apart = v[4]! + headroomLow < high;
    const low = apart ? v[4]! + headroomLow : high;
    const half = Math.max((high - low) / 2, LEAST_HALF_VOLT);
    const middle = (high + low) / 2;
    const drive = (gain * (v[0]! - v[1]!)) / half;
    // Straight between the rails and nearly flat at them: inside, one Newton step is exact.
    const bent = Math.max(-1, Math.min(1, drive));
    const inside = Math.abs(drive) < 1;
    const slopeIn = inside ? gain : gain * RAIL_SLOPE;
    const aim = middle + half * (bent + RAIL_SLOPE * (drive - bent));
    const supply = v[3]! - v[4]! - LEAST_SUPPLY_VOLT;
    const alive = Math.max(0, Math.min(1, supply / WAKING_VOLT));
    if (alive === 0) return void out.fill(0);
    let ampere = (aim - v[2]!) / outputOhm;
    let siemens = 1 / outputOhm;
    if (Math.abs(ampere) > limit) {
      // The slope of the chord to zero current: the true one is flat, and a step along it would
      // throw an unloaded output far beyond its supplies.
      ampere = Math.sign(ampere) * limit;
      siemens = limit / Math.abs(aim - v[2]!);
    }
    // Inside, the supplies move mid-supply; at a rail its distance from there counts too.
    const atRail = inside || half === LEAST_HALF_VOLT ? 0 : bent * (1 - RAIL_SLOPE);
    const toHigh = apart ? 0.5 + 0.5 * atRail : 1;
    const toLow = apart ? 0.5 - 0.5 * atRail : 0;
    const waking = supply < WAKING_VOLT ? ampere / WAKING_VOLT : 0;
    siemens *= alive;
    out[0] = ampere * alive;
    out[1] = Math.min(OFFSET_SPREAD_VOLT * slopeIn, half) * siemens;
    out[2] = slopeIn * siemens;
    out[3] = -slopeIn * siemens;
    out[4] = -siemens;
    out[5] = siemens * toHigh + waking;
    out[6] = siemens * toLow - waking;
  };
  /** Between the rails or at one, with the output stage within its limit. */
  const straight = (v: Float64Array): readonly Straight[] => {
    const supply = v[3]! - v[4]!;
    const half = (supply - headroomHigh - headroomLow) / 2;
    const wanted = gain * (v[0]! - v[1]!);
    const within = Math.max(-half, Math.min(half, wanted));
    const aim = v[4]! + headroomLow + half + within + RAIL_SLOPE * (wanted - within);
    const supplyRoom = Math.min(
      supply - LEAST_SUPPLY_VOLT - WAKING_VOLT,
      2 * (half - LEAST_HALF_VOLT),
    );
    // How far what the stage aims at is from its corners: the input counts with its gain, the
    // supply at most in full, the output in full.
    const room =
      Math.min(Math.abs(half - Math.abs(wanted)), limit * outputOhm - Math.abs(aim - v[2]!)) / 3;
    if (supplyRoom <= 0 || room <= 0) return [];
    return [
      around(v, 0, 1, room / gain),
      around(v, 2, 4, room),
      around(v, 3, 4, Math.min(room, supplyRoom)),
    ];
  };
  return { kind: 'free', at, straight };
}

function around(v: Float64Array, plus: number, minus: number, way: number): Straight {
  const volt = v[plus]! - v[minus]!;
  return { plus, minus, low: volt - way, high: volt + way };
}

export const amplifier: DeviceKind<'amplifier'> = {
  kind: 'amplifier',
  openPin: () => 'open',
  elements: (part) => {
    const { model } = part;
    const at = (pin: number): string => part.pins[pin - 1]!;
    const [positive, negative] = [at(model.positiveSupply), at(model.negativeSupply)];
    const load: Element = {
      type: 'characteristic',
      a: positive,
      b: negative,
      controls: [positive, negative],
      characteristic: supplyCharacteristic(model.supplyAmpere, 12),
      holds: false,
    };
    return [load, ...model.units.map((_, unit) => unitElement(part, unit))];
  },
  modes: (part) =>
    part.model.units.flatMap((unit, i): FaultMode[] =>
      [rail(part, i, 'stuck-1'), rail(part, i, 'stuck-0'), deadUnit(part, i)].map((mode) => ({
        ...mode,
        pin: unit.out - 1,
      })),
    ),
};

function unitElement(part: Amplifier, unit: number): Element {
  const { model } = part;
  const { plus, minus, out } = model.units[unit]!;
  const at = (pin: number): string => part.pins[pin - 1]!;
  return {
    type: 'characteristic',
    a: at(model.negativeSupply),
    b: at(out),
    holds: true,
    pin: out - 1,
    controls: [at(plus), at(minus), at(out), at(model.positiveSupply), at(model.negativeSupply)],
    linearVolt: LINEAR_SWING_VOLT / model.gain,
    characteristic: amplifierCharacteristic(
      model.gain,
      model.headroomHighVolt,
      model.headroomLowVolt,
      model.limitAmpere,
      model.outputOhm ?? OUTPUT_OHM,
    ),
  };
}

/** The output stage has failed towards a supply. */
function rail(part: Amplifier, unit: number, name: 'stuck-0' | 'stuck-1'): FaultMode {
  const pin = part.model.units[unit]!.out - 1;
  const pull = name === 'stuck-1' ? 1 : -1;
  const stuck = ({ at }: FreeCharacteristic): FreeCharacteristic => {
    const held = new Float64Array(5);
    return {
      kind: 'free',
      at: (v, out) => {
        held.set(v.subarray(0, held.length));
        held[0] = pull;
        held[1] = 0;
        at(held, out);
        out[2] = out[3] = 0;
      },
    };
  };
  const change = (element: Element): Element => {
    if (
      element.type !== 'characteristic' ||
      element.pin !== pin ||
      element.characteristic.kind !== 'free'
    )
      return element;
    const { a, b, controls, holds } = element;
    return {
      type: 'characteristic',
      a,
      b,
      controls,
      holds,
      pin,
      characteristic: stuck(element.characteristic),
    };
  };
  return { name, severity: { low: 1, high: 1 }, changesDc: true, change: (all) => all.map(change) };
}

function deadUnit(part: Amplifier, unit: number): FaultMode {
  const pin = part.model.units[unit]!.out - 1;
  return {
    name: 'open',
    effect: 'open',
    severity: { low: 1, high: 1 },
    changesDc: true,
    change: (all) =>
      all.filter((element) => element.type !== 'characteristic' || element.pin !== pin),
  };
}
