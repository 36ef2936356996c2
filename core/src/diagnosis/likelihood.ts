import { normalBelow, normalDensity } from '../quantity';
import {
  combinedSpread,
  logicChances,
  meterOf,
  STANDARD_METER as METER,
  type MeterProfile,
  type Reading,
  type ReadingValue,
  type Response,
} from '../instrument';

type Kind = Reading['measurement']['kind'];

/**
 * Share of readings that are worthless: a slipped probe, a wrong pin, a wrong digit. From memory of
 * bench practice.
 */
export const BLUNDER = 0.004;

/**
 * Share of symptoms that are reported the wrong way round, and of pulses that a probe shows as a
 * level. From memory of bench practice.
 */
const WRONGLY_SEEN = 0.03;
const PULSES_MISSED = 0.02;

/**
 * Where pulsing lies on the scale of a probe, beyond every level, and the width of a yes or no on
 * its own: marks for telling outcomes apart.
 */
export const PULSING_AT = 10;
const SEEN_SIGMA = 0.27;

/**
 * What no model of a real board gets closer than: part of the value, and a floor in the reading's
 * unit. From memory of bench practice.
 */
const MODEL_ERROR = { share: 0.004, volt: 0.004, ohm: 0.05, ampere: 1e-5 } as const;

/**
 * Test leads that were not zeroed: up to about half an ohm, taken as 0.2 Ω either way. Common
 * practice, no published source.
 */
const LEADS_OHM = 0.2;

/**
 * The least uncertainty of a prediction, in the reading's unit, where it is not that of volts.
 * Zeroed tweezers leave an ESR reading a fifth of what plain leads would.
 */
const FLOOR: Partial<Record<Kind, number>> = {
  resistance: Math.hypot(MODEL_ERROR.ohm, LEADS_OHM),
  continuity: Math.hypot(MODEL_ERROR.ohm, LEADS_OHM),
  esr: 0.2 * MODEL_ERROR.ohm,
  current: MODEL_ERROR.ampere,
};

/** The same for an instrument: one whose leads were looked at leaves a quarter of them. */
function floorOf(kind: Kind, meter: MeterProfile | undefined): number {
  const usual = FLOOR[kind] ?? MODEL_ERROR.volt;
  const throughLeads = kind === 'resistance' || kind === 'continuity';
  return throughLeads && meter?.leadOhm !== undefined
    ? Math.hypot(MODEL_ERROR.ohm, LEADS_OHM / 4)
    : usual;
}

/** Where ohm scales pass from linear to logarithmic, ohm. */
const KNEE_OHM = { ohms: 0.5, esr: 0.02 } as const;
/**
 * The largest number an ohmmeter shows; an ESR meter has no limit, beyond this nobody reads one.
 * Unit: ohm.
 */
const MOST_OHM = { ohms: METER.ohmRanges.at(-1)![0], esr: 1e4 } as const;
/** Chance that a reading of which nothing is known is OL. */
const BLANK_OVERLOAD = 0.2;

/**
 * A reading or a prediction on the natural scale of its kind: volts and amperes as they are, ohms
 * as a logarithm.
 */
export interface Scaled {
  readonly y: number;
  readonly sigma: number;
  readonly overload: boolean;
  readonly pulsing?: boolean | undefined;
  /** What reads it; the standard meter where it is left out. */
  readonly meter?: MeterProfile | undefined;
  /** True where the level rests on what nobody knows: the reading then says nothing. */
  readonly unknown?: boolean | undefined;
  /**
   * The range in which an unknown answer lies all the same, on the natural scale; infinite: it may
   * be OL too.
   */
  readonly span?: readonly [number, number] | undefined;
}

const isOhms = (kind: Kind): boolean => kind === 'resistance' || kind === 'esr';
const kneeOf = (kind: Kind): number => (kind === 'esr' ? KNEE_OHM.esr : KNEE_OHM.ohms);

/**
 * Megohms in a circuit are leaks of junctions, flux and damp air, which differ from board to board
 * far more than resistors do: from here on so much spread for each factor of e. From memory of
 * bench practice. Unit: ohm.
 */
const LEAKS = { fromOhm: 1e6, spread: 0.3 } as const;

const leakSpread = (kind: Kind, ohm: number): number =>
  kind === 'resistance' && ohm > LEAKS.fromOhm ? LEAKS.spread * Math.log(ohm / LEAKS.fromOhm) : 0;

/**
 * Puts a response on the natural scale of its kind, with meter accuracy and model error in sigma.
 */
export function scaled(kind: Kind, response: Response): Scaled {
  const span =
    response.span &&
    ([scaledValue(kind, response.span[0]), scaledValue(kind, response.span[1])] as const);
  if (!Number.isFinite(response.value))
    return {
      y: Infinity,
      sigma: 0,
      overload: true,
      meter: response.meter,
      unknown: response.unknown,
      span,
    };
  if (kind === 'symptom') return { y: response.value, sigma: SEEN_SIGMA, overload: false };
  if (kind === 'logic' && response.pulsing)
    return { y: PULSING_AT, sigma: 0.1, overload: false, pulsing: true };
  const floor = floorOf(kind, response.meter);
  const sigma = Math.hypot(
    combinedSpread(kind, response),
    MODEL_ERROR.share * response.value,
    floor,
  );
  const y = scaledValue(kind, response.value);
  return {
    y,
    sigma: isOhms(kind) ? Math.hypot(sigma / Math.exp(y), leakSpread(kind, response.value)) : sigma,
    overload: false,
    meter: response.meter,
    pulsing: response.pulsing,
    unknown: response.unknown,
    span,
  };
}

/** A reading's value on the same scale; infinite for OL. Only for kinds that read a number. */
export function scaledValue(kind: Kind, value: number | 'OL'): number {
  if (value === 'OL') return Infinity;
  if (!isOhms(kind)) return value;
  return Math.log(Math.max(0, value) + kneeOf(kind));
}

/** The reading that lies at `y` of the natural scale, in the reading's unit; infinite for OL. */
export function unscaledValue(kind: Kind, y: number): number {
  return isOhms(kind) ? Math.max(0, Math.exp(y) - kneeOf(kind)) : y;
}

/**
 * Density (or chance) of a reading of which nothing is known: what "none of these" predicts, and
 * what a blunder looks like. voltSpan: width of the range of volts that can occur on this board.
 */
export function blank(kind: Kind, value: ReadingValue, voltSpan: number): number {
  if (kind === 'continuity' || kind === 'symptom') return 0.5;
  if (kind === 'logic') return 0.25;
  if (kind === 'voltage') return 1 / voltSpan;
  if (kind === 'current') return 0.5;
  if (value === 'OL') return BLANK_OVERLOAD;
  if (kind === 'diode') return (1 - BLANK_OVERLOAD) / METER.diodeOverloadVolt;
  return (1 - BLANK_OVERLOAD) / Math.log(MOST_OHM[kind === 'esr' ? 'esr' : 'ohms'] / kneeOf(kind));
}

/** Chance of continuity's beep for a path of this resistance. */
function beepChance(s: Scaled): number {
  const { continuityOhm } = meterOf(s);
  return s.overload ? 0 : normalBelow((continuityOhm - s.y) / Math.max(s.sigma, 1));
}

/** The largest number a kind can show before it says OL, on the natural scale. */
function overloadAt(kind: Kind, meter: MeterProfile): number {
  if (kind === 'resistance') return scaledValue(kind, meter.ohmRanges.at(-1)![0]);
  return kind === 'diode' ? meter.diodeOverloadVolt : Infinity;
}

/** A probe shows pulses where there are some; a single level where it missed them. */
function logicChance(value: '0' | '1' | 'Z' | 'P', s: Scaled): number {
  if (s.pulsing) return value === 'P' ? 1 - 3 * PULSES_MISSED : PULSES_MISSED;
  return value === 'P' ? 0 : logicChances(s.y, s.sigma, meterOf(s))[value];
}

/**
 * Density (or chance) of the reading where a sound instrument on a board that is as predicted was
 * used right.
 */
function honest(kind: Kind, value: ReadingValue, s: Scaled): number {
  if (kind === 'continuity') return value === 'beep' ? beepChance(s) : 1 - beepChance(s);
  if (kind === 'symptom')
    return WRONGLY_SEEN + (1 - 2 * WRONGLY_SEEN) * (value === 'yes' ? s.y : 1 - s.y);
  if (kind === 'logic') return logicChance(value as '0' | '1' | 'Z' | 'P', s);
  if (s.overload) return value === 'OL' ? 1 : 0;
  if (value === 'OL') {
    const limit = overloadAt(kind, meterOf(s));
    return limit === Infinity ? 0 : 1 - normalBelow((limit - s.y) / s.sigma);
  }
  return normalDensity((scaledValue(kind, value as number) - s.y) / s.sigma) / s.sigma;
}

/**
 * How often a level that nobody can foretell (a port that a program sets, a net that floats) is
 * read as low, and up to how many volts that is. From memory of bench practice.
 */
const RESTS_LOW = { share: 0.35, volt: 0.5 } as const;

/**
 * Density (or chance) of a reading that the board leaves open. A low level is where many of them
 * rest: one does not speak against a good part.
 */
function unforeseen(kind: Kind, value: ReadingValue, voltSpan: number): number {
  const any = blank(kind, value, voltSpan);
  if (kind !== 'voltage' || typeof value !== 'number') return any;
  return (
    (1 - RESTS_LOW.share) * any +
    (Math.abs(value) <= RESTS_LOW.volt ? RESTS_LOW.share / RESTS_LOW.volt : 0)
  );
}

/**
 * What lies this much beyond a span still belongs to it, on the natural scale: tolerance and meter.
 */
const SPAN_MARGIN = 0.15;
/** Chance of OL where a span ends there. */
const SPAN_OVERLOAD = 0.4;

/** Density (or chance) of a reading of which only a range is known. */
function withinSpan(
  kind: Kind,
  value: ReadingValue,
  [low, high]: readonly [number, number],
  meter: MeterProfile,
): number {
  const top = Number.isFinite(high) ? high : overloadAt(kind, meter);
  if (value === 'OL') return Number.isFinite(high) ? 0 : SPAN_OVERLOAD;
  const y = scaledValue(kind, value as number);
  const inside = y >= low - SPAN_MARGIN && y <= top + SPAN_MARGIN;
  return inside
    ? (Number.isFinite(high) ? 1 : 1 - SPAN_OVERLOAD) / (top - low + 2 * SPAN_MARGIN)
    : 0;
}

/**
 * A prediction of volts wider than this share of all that can occur says nothing: what the sheet
 * does not know has the say in it.
 */
const WIDE_SHARE = 0.3;

/** Log-likelihood of a reading for a prediction, with the floor that blunders give it. */
export function logLikelihood(
  kind: Kind,
  value: ReadingValue,
  s: Scaled,
  voltSpan: number,
): number {
  if (s.unknown && s.span)
    return Math.log(
      (1 - BLUNDER) * withinSpan(kind, value, s.span, meterOf(s)) +
        BLUNDER * blank(kind, value, voltSpan),
    );
  if (s.unknown || (kind === 'voltage' && s.sigma > WIDE_SHARE * voltSpan))
    return Math.log(unforeseen(kind, value, voltSpan));
  return Math.log((1 - BLUNDER) * honest(kind, value, s) + BLUNDER * blank(kind, value, voltSpan));
}
