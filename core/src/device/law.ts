/** A current that depends on the volts of a few nodes. v: volts of the control nodes. Writes into out: [0] amperes from a to b, [1] their standard deviation
 *  from the spread between parts, [2 …] slopes to each control, siemens. Must be continuous and never fall with the voltage from a to b. */
export type Law = (v: Float64Array, out: Float64Array) => void;

/** What a law conducts where it does not: keeps every node solvable, as the junction conductance does. Siemens. */
export const LEAK_SIEMENS = 1e-12;
/** Slope beyond a current limit, siemens: keeps the search for an operating point moving. */
const LIMIT_SLOPE = 1e-4;

export interface OneWay {
  /** Volts from a to b at which current begins, and ohms from there on. */
  readonly dropVolt: number;
  readonly ohm: number;
  /** Standard deviation of the drop, volt. */
  readonly dropSpread: number;
  readonly limitAmpere?: number | undefined;
  /** True where current may also flow back. */
  readonly twoWay?: boolean | undefined;
}

/** A voltage drop behind a resistance between two nodes: clamp diodes, output stages. Controls: a, b. */
export function dropLaw({ dropVolt, ohm, dropSpread, limitAmpere = Infinity, twoWay = false }: OneWay): Law {
  const siemens = 1 / ohm;
  return (v, out) => {
    const over = v[0]! - v[1]! - dropVolt;
    let [ampere, slope, spread] = [over * siemens, siemens, dropSpread * siemens];
    if (over < 0 && !twoWay) [ampere, slope, spread] = [LEAK_SIEMENS * (v[0]! - v[1]! - dropVolt), LEAK_SIEMENS, 0];
    else if (Math.abs(ampere) > limitAmpere) {
      const limit = Math.sign(ampere) * limitAmpere;
      [ampere, slope, spread] = [limit + (over - limit * ohm) * LIMIT_SLOPE, LIMIT_SLOPE, 0.1 * limitAmpere];
    }
    out[0] = ampere;
    out[1] = spread;
    out[2] = slope;
    out[3] = -slope;
  };
}

export interface TtlInput {
  readonly baseOhm: number;
  readonly dropVolt: number;
  readonly floatVolt: number;
}

/** Ohms behind the float voltage of a TTL input: how sharply the base current turns from the pin to the next stage. */
const FLOAT_OHM = 500;
/** Input leakage above the float voltage, siemens: below a microampere at 5 V. */
const HIGH_SIEMENS = 2e-7;
const FLOAT_SPREAD_VOLT = 0.06;
const BASE_SPREAD = 0.15;

/** A bipolar logic input: the base resistor feeds current out of the pin while the pin is below the float voltage. From supply (a) to pin (b).
 *  Controls: supply, pin, ground. */
export function ttlInputLaw({ baseOhm, dropVolt, floatVolt }: TtlInput): Law {
  return (v, out) => {
    const fed = (v[0]! - dropVolt - v[1]!) / baseOhm;
    const left = (floatVolt - (v[1]! - v[2]!)) / FLOAT_OHM;
    if (fed <= 0) return write(out, LEAK_SIEMENS * (v[0]! - dropVolt - v[1]!), 0, LEAK_SIEMENS, -LEAK_SIEMENS, 0);
    if (fed < left) return write(out, fed, BASE_SPREAD * fed, 1 / baseOhm, -1 / baseOhm, 0);
    if (left >= 0) return write(out, left, FLOAT_SPREAD_VOLT / FLOAT_OHM, 0, -1 / FLOAT_OHM, 1 / FLOAT_OHM);
    return write(out, left * FLOAT_OHM * HIGH_SIEMENS, HIGH_SIEMENS, 0, -HIGH_SIEMENS, HIGH_SIEMENS);
  };
}

function write(out: Float64Array, ampere: number, spread: number, first: number, second: number, third: number): void {
  out[0] = ampere;
  out[1] = spread;
  out[2] = first;
  out[3] = second;
  out[4] = third;
}

/** What a chip takes from its supply: nothing below two junctions, then as a resistor; a junction the wrong way round. Controls: supply, ground. */
export function supplyLaw(supplyAmpere: number, nominalVolt: number): Law {
  const knee = Math.min(1.5, nominalVolt / 2);
  const siemens = supplyAmpere / (nominalVolt - knee);
  const reverse = { volt: 0.6, siemens: 0.2 };
  return (v, out) => {
    const volt = v[0]! - v[1]!;
    const slope = volt > knee ? siemens : volt < -reverse.volt ? reverse.siemens : LEAK_SIEMENS;
    const offset = volt > knee ? knee : volt < -reverse.volt ? -reverse.volt : 0;
    out[0] = slope * (volt - offset);
    out[1] = 0.2 * Math.abs(out[0]);
    out[2] = slope;
    out[3] = -slope;
  };
}
