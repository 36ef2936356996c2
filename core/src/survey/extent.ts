import type { Part } from '../board';
import { lifeHours } from '../part';
import { failsWithin } from './age';
import type { CapacitorVerdict } from './capacitors';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** What the extent of a replacement is weighed with. Money in one currency, whatever it is. */
export interface ExtentFigures {
  /** Hours that the unit runs while it is under guarantee, and has run so far. */
  readonly guaranteeHours: number;
  readonly hoursSoFar: number;
  /** Inside the unit while it runs, °C. */
  readonly celsius: number;
  /** What the parts are rated for, where a part does not say it: hours at °C. */
  readonly ratedHours: number;
  readonly ratedCelsius: number;
  /** Price of opening the unit again under guarantee. */
  readonly reopenPrice: number;
  readonly partPrice: number;
  readonly minutesEach: number;
  readonly minutePrice: number;
  /** Chance that a pad lifts, and the price of mending one. */
  readonly padRisk: number;
  readonly padPrice: number;
}

/** A first set of figures, to be changed by the workshop. From memory of bench practice. */
export const USUAL_FIGURES: ExtentFigures = {
  guaranteeHours: 500,
  hoursSoFar: 6000,
  celsius: 45,
  ratedHours: 2000,
  ratedCelsius: 85,
  reopenPrice: 80,
  partPrice: 0.6,
  minutesEach: 5,
  minutePrice: 0.8,
  padRisk: 0.01,
  padPrice: 20,
};

/** One part on the scales. */
export interface PartWorth {
  readonly ref: string;
  /** Chance that it brings the unit back within the guarantee if it is left. */
  readonly returns: number;
  /** That chance times the price of reopening. */
  readonly atStake: number;
  /** Part, minutes, and the pads that may lift. */
  readonly price: number;
  /** The price of reopening above which it is worth replacing; infinite where nothing is at stake. */
  readonly breakEven: number;
  readonly isWorth: boolean;
}

/** One way of going about it. */
export interface ExtentPlan {
  readonly extent: 'bad' | 'kind' | 'worth' | 'all';
  readonly refs: readonly string[];
  readonly hours: number;
  readonly price: number;
  /** Pads that lift, on average. */
  readonly padsLifted: number;
  /** Chance that the unit comes back under guarantee for a capacitor. */
  readonly returns: number;
  /** Price with what a return costs on average. */
  readonly priceInAll: number;
}

/** Kinds that wear out. A dry one fails too, but not of age. */
const WET: readonly (Capacitor['dielectric'] | undefined)[] = ['electrolytic', 'bipolar'];
/** Chance an hour that one which does not wear out fails. From memory of bench practice. */
const DRY_PER_HOUR = 5e-8;

/** Whether a part has liquid in it: stated, or taken so by its size. */
export function isWet({ dielectric, capacitanceFarad }: Capacitor): boolean {
  return dielectric === undefined ? capacitanceFarad >= 1e-6 : WET.includes(dielectric);
}

/** Chance that a capacitor fails within the guarantee if it stays: bad already, or worn out then. */
export function chanceOfReturn(
  part: Capacitor,
  { verdict, probabilityBad }: Pick<CapacitorVerdict, 'verdict' | 'probabilityBad'>,
  figures: ExtentFigures,
): number {
  const { guaranteeHours, hoursSoFar, celsius } = figures;
  const rated = /(\d{2,3})\s*°?C\b/.exec(part.rating ?? '')?.[1];
  const life = lifeHours(
    figures.ratedHours,
    rated === undefined ? figures.ratedCelsius : Number(rated),
    celsius,
  );
  const wears = isWet(part)
    ? failsWithin(life, hoursSoFar, guaranteeHours)
    : 1 - Math.exp(-DRY_PER_HOUR * guaranteeHours);
  // One that is bad shows itself sooner or later: within the guarantee with the chance of a bad one.
  const isBad = verdict === 'bad' ? Math.max(probabilityBad, 0.9) : probabilityBad;
  return 1 - (1 - isBad) * (1 - wears);
}

/** Every capacitor on the scales, the worthiest first. */
export function worthOf(
  parts: readonly Capacitor[],
  verdicts: readonly CapacitorVerdict[],
  figures: ExtentFigures,
): readonly PartWorth[] {
  const price = priceEach(figures);
  return parts
    .map((part): PartWorth => {
      const verdict = verdicts.find(({ ref }) => ref === part.ref)!;
      const returns = chanceOfReturn(part, verdict, figures);
      const atStake = returns * figures.reopenPrice;
      const breakEven = returns > 0 ? price / returns : Infinity;
      return { ref: part.ref, returns, atStake, price, breakEven, isWorth: atStake > price };
    })
    .sort((a, b) => b.returns - a.returns);
}

function priceEach(figures: ExtentFigures): number {
  const { partPrice, minutesEach, minutePrice, padRisk, padPrice } = figures;
  return partPrice + minutesEach * minutePrice + 2 * padRisk * padPrice;
}

/**
 * The ways of going about it: the bad ones; those and their like; those that are worth it part by
 * part; all that wear out. Equal ones are left out.
 */
export function extentPlans(
  parts: readonly Capacitor[],
  verdicts: readonly CapacitorVerdict[],
  figures: ExtentFigures,
): readonly ExtentPlan[] {
  const worth = worthOf(parts, verdicts, figures);
  const bad = new Set(verdicts.flatMap(({ ref, verdict }) => (verdict === 'bad' ? [ref] : [])));
  const kinds = new Set(parts.filter(({ ref }) => bad.has(ref)).map(likeness));
  const wanted: Readonly<Record<ExtentPlan['extent'], (part: Capacitor) => boolean>> = {
    bad: ({ ref }) => bad.has(ref),
    kind: (part) => bad.has(part.ref) || kinds.has(likeness(part)),
    worth: ({ ref }) => bad.has(ref) || worth.some((one) => one.ref === ref && one.isWorth),
    all: (part) => bad.has(part.ref) || isWet(part),
  };
  const plans = (Object.keys(wanted) as ExtentPlan['extent'][]).map((extent): ExtentPlan => {
    const own = parts.filter(wanted[extent]);
    const refs = own.map(({ ref }) => ref);
    const price = refs.length * priceEach(figures);
    const stays = worth.filter(({ ref }) => !refs.includes(ref));
    const returns = 1 - stays.reduce((none, one) => none * (1 - one.returns), 1);
    return {
      extent,
      refs,
      hours: (refs.length * figures.minutesEach) / 60,
      price,
      padsLifted: 2 * refs.length * figures.padRisk,
      returns,
      priceInAll: price + returns * figures.reopenPrice,
    };
  });
  const seen = new Set<string>();
  return plans.filter(({ refs }) => {
    const key = refs.join();
    if (refs.length === 0 || seen.has(key)) return false;
    seen.add(key);
    return true;
  });
}

/** What like parts have in common: value, volts and kind. */
export function likeness({ capacitanceFarad, ratedVolt, dielectric }: Capacitor): string {
  return `${capacitanceFarad} ${ratedVolt ?? '?'} ${dielectric ?? '?'}`;
}
