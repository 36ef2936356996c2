import { preferredValues } from '../quantity';
import { secondsTo, storedJoule } from './discharge';

/** A resistor to hold across a capacitor. */
export interface Bleeder {
  /** Next value of the E12 series, ohm, of each of those in series. */
  readonly ohm: number;
  /** How many of them in series: one resistor stands only so many volts. */
  readonly inSeries: number;
  /**
   * Power of all of them in the first moment, and over the first time constant on average, watt.
   */
  readonly peakWatt: number;
  readonly meanWatt: number;
  /** Rating of each, watt. */
  readonly ratedWatt: number;
  /** Until the safe voltage is reached with it. */
  readonly seconds: number;
  /**
   * True where no resistor of the bench stands the time that was asked for, and it takes longer.
   */
  readonly lengthened: boolean;
}

/** Source: IEC 60063, E12. */
const E12 = preferredValues(12);

/**
 * Wire-ended resistors that a bench has, with the volts one of them stands. Common practice, no
 * published source.
 */
const RESISTORS = [
  { watt: 0.5, volt: 350 },
  { watt: 1, volt: 350 },
  { watt: 2, volt: 500 },
  { watt: 5, volt: 500 },
  { watt: 10, volt: 750 },
  { watt: 25, volt: 750 },
] as const;
/**
 * What a wire-wound resistor stands for a few seconds, as a multiple of its rating. Common
 * practice, no published source.
 */
const SHORT_OVERLOAD = 5;
/**
 * No larger resistance than this is taken, ohm: above it leaks and the meter itself count. From
 * memory of bench practice.
 */
const MOST_BLEEDER_OHM = 1e5;

/**
 * The resistor that brings a capacitor down to `safeVolt` within `seconds`, or in as little more as
 * a resistor of the bench stands. Undefined where it is safe already. Throws nothing: quantities
 * are checked by the caller.
 */
export function bleeder(
  startVolt: number,
  farad: number,
  safeVolt: number,
  seconds: number,
): Bleeder | undefined {
  const volt = Math.abs(startVolt);
  if (volt <= safeVolt) return undefined;
  const wanted = Math.min(MOST_BLEEDER_OHM, seconds / (farad * Math.log(volt / safeVolt)));
  const made = (total: number, watt: number, stands: number, lengthened: boolean): Bleeder => {
    const inSeries = Math.max(1, Math.ceil(volt / stands - 1e-9));
    const ohm = lengthened ? seriesAbove(total / inSeries) : seriesBelow(total / inSeries);
    return figures(volt, farad, safeVolt, ohm, inSeries, watt, lengthened);
  };
  const fast = RESISTORS.map(({ watt, volt: stands }) => made(wanted, watt, stands, false)).find(
    isStood,
  );
  if (fast) return fast;
  const { watt, volt: stands } = RESISTORS.at(-1)!;
  const most = watt * Math.max(1, Math.ceil(volt / stands - 1e-9));
  const least = Math.max(
    (0.5 * volt ** 2 * SHARE_IN_ONE) / most,
    volt ** 2 / (SHORT_OVERLOAD * most),
  );
  return made(least, watt, stands, true);
}

function isStood({ meanWatt, peakWatt, ratedWatt, inSeries }: Bleeder): boolean {
  return meanWatt <= ratedWatt * inSeries && peakWatt <= SHORT_OVERLOAD * ratedWatt * inSeries;
}

/** Of the energy, this goes within one time constant: 1 - e^-2. */
const SHARE_IN_ONE = 1 - Math.exp(-2);

function figures(
  volt: number,
  farad: number,
  safeVolt: number,
  ohm: number,
  inSeries: number,
  ratedWatt: number,
  lengthened: boolean,
): Bleeder {
  const all = ohm * inSeries;
  const meanWatt = (storedJoule(volt, farad) * SHARE_IN_ONE) / (all * farad);
  return {
    ohm,
    inSeries,
    peakWatt: volt ** 2 / all,
    meanWatt,
    ratedWatt,
    seconds: secondsTo(volt, safeVolt, all, farad),
    lengthened,
  };
}

function seriesBelow(ohm: number): number {
  const decade = 10 ** Math.floor(Math.log10(ohm) + 1e-12);
  const step = [...E12].reverse().find((value) => value * decade <= ohm * (1 + 1e-9)) ?? 1;
  return Number((step * decade).toPrecision(3));
}

function seriesAbove(ohm: number): number {
  const decade = 10 ** Math.floor(Math.log10(ohm) + 1e-12);
  const step = E12.find((value) => value * decade >= ohm * (1 - 1e-9)) ?? 10;
  return Number((step * decade).toPrecision(3));
}
