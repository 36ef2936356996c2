/**
 * A current from a to b that depends on the volts of a few nodes. Every characteristic must be continuous and
 * never fall with the voltage from a to b. What a characteristic says comes on top of LEAK_SIEMENS between its
 * two nodes.
 */
export type Characteristic = DropCharacteristic | TtlCharacteristic | FreeCharacteristic;

/** A voltage drop behind a resistance: clamp diodes, output stages. Controls: a, b. */
export interface DropCharacteristic {
  readonly kind: 'drop';
  /** Volts from a to b at which current begins, and siemens from there on. */
  readonly dropVolt: number;
  readonly siemens: number;
  /** Standard deviation of the drop, volt. */
  readonly dropSpread: number;
  readonly limitAmpere: number;
  /** True where current may also flow back. */
  readonly twoWay: boolean;
}

/**
 * A bipolar logic input: the base resistor feeds current out of the pin while the pin is below the
 * float voltage. From supply (a) to pin (b). Controls: supply, pin, ground.
 */
export interface TtlCharacteristic {
  readonly kind: 'ttl';
  readonly baseOhm: number;
  readonly dropVolt: number;
  readonly floatVolt: number;
}

/**
 * Any other characteristic. v: volts of the controls. Writes into out: [0] amperes from a to b, [1] their
 * standard deviation from the spread between parts, [2 …] slopes to each control, siemens.
 */
export interface FreeCharacteristic {
  readonly kind: 'free';
  readonly at: (v: Float64Array, out: Float64Array) => void;
  /** As `characteristicSlack`; without it nothing can be told. */
  readonly slack?: (v: Float64Array) => number;
  /** As `characteristicStraight`; without it nothing can be told. */
  readonly straight?: (v: Float64Array) => readonly Straight[];
  /** The corner at which a current limit sets in, beyond which the characteristic is all but flat. */
  readonly limit?: LimitCorner;
}

/** A range of the difference of two controls (by place), volt. */
export interface Straight {
  readonly plus: number;
  readonly minus: number;
  readonly low: number;
  readonly high: number;
}

/**
 * How far a characteristic is driven, volt; beyond `cornerVolt` its current is limited. `drive` by less:
 * lowers it by so many volts through the characteristic's second control.
 */
export interface LimitCorner {
  readonly cornerVolt: number;
  readonly driven: (v: Float64Array) => number;
  readonly driveLess: (v: Float64Array, volt: number) => void;
}

/**
 * What a limited current still grows by for each volt beyond the corner, as a share of the limit:
 * next to nothing, but it keeps an unloaded node from going to infinity.
 */
export const LIMITED_SLOPE = 1e-3;

/**
 * What lies between the two nodes of every characteristic whether it conducts or not: keeps each node
 * solvable, as the junction conductance does. Siemens.
 */
export const LEAK_SIEMENS = 1e-12;

export function dropCharacteristic(given: {
  dropVolt: number;
  ohm: number;
  dropSpread: number;
  limitAmpere?: number | undefined;
  twoWay?: boolean | undefined;
}): DropCharacteristic {
  const { dropVolt, ohm, dropSpread, limitAmpere = Infinity, twoWay = false } = given;
  return { kind: 'drop', dropVolt, siemens: 1 / ohm, dropSpread, limitAmpere, twoWay };
}

/**
 * Ohms behind the float voltage of a TTL input: how sharply the base current turns from the pin to
 * the next stage.
 */
export const FLOAT_OHM = 500;
/** Input leakage above the float voltage, siemens: below a microampere at 5 V. */
export const HIGH_SIEMENS = 2e-7;
const FLOAT_SPREAD_VOLT = 0.06;
const BASE_SPREAD = 0.15;

/** Works out a characteristic. v: volts of its controls; out: as in FreeCharacteristic. */
export function evaluateCharacteristic(
  characteristic: Characteristic,
  v: Float64Array,
  out: Float64Array,
): void {
  if (characteristic.kind === 'drop') drop(characteristic, v, out);
  else if (characteristic.kind === 'ttl') ttl(characteristic, v, out);
  else characteristic.at(v, out);
}

function drop(
  { dropVolt, siemens, dropSpread, limitAmpere, twoWay }: DropCharacteristic,
  v: Float64Array,
  out: Float64Array,
): void {
  const over = v[0]! - v[1]! - dropVolt;
  let [ampere, slope, spread] = [over * siemens, siemens, dropSpread * siemens];
  if (over < 0 && !twoWay) [ampere, slope, spread] = [0, 0, 0];
  else if (Math.abs(ampere) > limitAmpere) {
    // The slope of the chord to zero current: the true one is flat, and a step along it would throw
    // an unloaded node far away.
    [ampere, slope, spread] = [
      Math.sign(ampere) * limitAmpere,
      limitAmpere / Math.abs(over),
      0.1 * limitAmpere,
    ];
  }
  out[0] = ampere;
  out[1] = spread;
  out[2] = slope;
  out[3] = -slope;
}

function ttl(
  { baseOhm, dropVolt, floatVolt }: TtlCharacteristic,
  v: Float64Array,
  out: Float64Array,
): void {
  const fed = (v[0]! - dropVolt - v[1]!) / baseOhm;
  const left = (floatVolt - (v[1]! - v[2]!)) / FLOAT_OHM;
  // Above the float voltage the input of a chip that is on leaks, whatever feeds the pin: without
  // that a net on a hundred megohms could rest at two levels.
  if (fed <= 0 && (left >= 0 || v[0]! - dropVolt - v[2]! <= floatVolt))
    return write(out, 0, 0, 0, 0, 0);
  if (fed < left) return write(out, fed, BASE_SPREAD * fed, 1 / baseOhm, -1 / baseOhm, 0);
  if (left >= 0)
    return write(out, left, FLOAT_SPREAD_VOLT / FLOAT_OHM, 0, -1 / FLOAT_OHM, 1 / FLOAT_OHM);
  return write(out, left * FLOAT_OHM * HIGH_SIEMENS, HIGH_SIEMENS, 0, -HIGH_SIEMENS, HIGH_SIEMENS);
}

/**
 * How far every control may move from v with the characteristic surely staying on its tangent, volt: up to the
 * nearest corner; 0 where that cannot be told.
 */
export function characteristicSlack(characteristic: Characteristic, v: Float64Array): number {
  if (characteristic.kind === 'ttl') {
    const fed = v[0]! - characteristic.dropVolt - v[1]!;
    const left = characteristic.floatVolt - (v[1]! - v[2]!);
    if (left < 0) return Math.min(-left, Math.abs(fed - left)) / 2;
    const meet =
      Math.abs(fed / characteristic.baseOhm - left / FLOAT_OHM) /
      (1 / characteristic.baseOhm + 1 / FLOAT_OHM);
    return Math.min(Math.abs(fed), left, meet) / 2;
  }
  if (characteristic.kind === 'free') return characteristic.slack?.(v) ?? 0;
  const over = v[0]! - v[1]! - characteristic.dropVolt;
  if (over < 0 && !characteristic.twoWay) return -over / 2;
  const toLimit = characteristic.limitAmpere / characteristic.siemens - Math.abs(over);
  return Math.max(0, characteristic.twoWay ? toLimit : Math.min(over, toLimit)) / 2;
}

/**
 * Ranges of differences of controls with which a characteristic surely is as straight as it is at v while all
 * of them are kept; none where nothing can be told.
 */
export function characteristicStraight(
  characteristic: Characteristic,
  v: Float64Array,
): readonly Straight[] {
  if (characteristic.kind === 'free') return characteristic.straight?.(v) ?? [];
  return characteristic.kind === 'drop' ? [dropStraight(characteristic, v)] : [];
}

function dropStraight(
  { dropVolt, siemens, limitAmpere, twoWay }: DropCharacteristic,
  v: Float64Array,
): Straight {
  const volt = v[0]! - v[1]!;
  const width = limitAmpere / siemens;
  const range = (low: number, high: number): Straight => ({ plus: 0, minus: 1, low, high });
  if (volt < dropVolt && !twoWay) return range(-Infinity, dropVolt);
  return Math.abs(volt - dropVolt) > width
    ? range(volt, volt)
    : range(twoWay ? dropVolt - width : dropVolt, dropVolt + width);
}

function write(
  out: Float64Array,
  ampere: number,
  spread: number,
  first: number,
  second: number,
  third: number,
): void {
  out[0] = ampere;
  out[1] = spread;
  out[2] = first;
  out[3] = second;
  out[4] = third;
}

/**
 * What a chip takes from its supply: nothing below two junctions, then as a resistor; a junction
 * the wrong way round. Controls: supply, ground.
 */
export function supplyCharacteristic(
  supplyAmpere: number,
  nominalVolt: number,
): FreeCharacteristic {
  const knee = Math.min(1.5, nominalVolt / 2);
  const siemens = supplyAmpere / (nominalVolt - knee);
  const reverse = { volt: 0.6, siemens: 0.2 };
  return {
    kind: 'free',
    slack: (v) => {
      const volt = v[0]! - v[1]!;
      return Math.min(Math.abs(volt - knee), Math.abs(volt + reverse.volt)) / 2;
    },
    at: (v, out) => {
      const volt = v[0]! - v[1]!;
      const slope = volt > knee ? siemens : volt < -reverse.volt ? reverse.siemens : 0;
      out[0] = slope * (volt - (volt > knee ? knee : -reverse.volt));
      out[1] = 0.2 * Math.abs(out[0]);
      out[2] = slope;
      out[3] = -slope;
    },
  };
}

/**
 * Below this supply a MOS stage hardly conducts, volt; its conductance rises from there with the
 * supply. From memory of common data sheets of the 4000 series.
 */
const MOS_KNEE_VOLT = 1.5;
/**
 * The least and most that its conductance is taken at, as a share of that at the supply it is given
 * for.
 */
const MOS_SHARE = { least: 0.1, most: 4 } as const;

/**
 * A MOS output stage: a resistance that falls as the supply rises. ohm: at `atVolt` of supply.
 * Controls: the two ends, then supply and ground.
 */
export function scaledCharacteristic(ohm: number, atVolt: number): FreeCharacteristic {
  const rise = 1 / (atVolt - MOS_KNEE_VOLT);
  return {
    kind: 'free',
    at: (v, out) => {
      const share = (v[2]! - v[3]! - MOS_KNEE_VOLT) * rise;
      const held = Math.min(MOS_SHARE.most, Math.max(MOS_SHARE.least, share));
      const siemens = held / ohm;
      const volt = v[0]! - v[1]!;
      const bent = share === held ? (volt * rise) / ohm : 0;
      out[0] = volt * siemens;
      out[1] = 0.25 * Math.abs(out[0]);
      out[2] = siemens;
      out[3] = -siemens;
      out[4] = bent;
      out[5] = -bent;
    },
  };
}
