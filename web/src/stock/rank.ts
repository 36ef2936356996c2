import {
  judgeFit,
  readSpec,
  verdictOf,
  type FitnessRemark,
  type FitVerdict,
  type PartSpec,
  type Place,
} from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import { freeOf, type Lot } from './stock';

/** A lot with what speaks for and against it in one place. */
export interface RankedLot {
  readonly lot: Lot;
  readonly verdict: FitVerdict;
  readonly remarks: readonly FitnessRemark[];
  /** Years since it was bought; undefined where nobody knows. */
  readonly years: number | undefined;
}

/** Electrolytics older than this are formed again before they go in. Common practice. */
export const FORM_AFTER_YEARS = 5;
/** Above this a bare terminal can hurt. Source: IEC 62368-1, energy class ES1, from memory. */
const TOUCH_VOLT = 60;
const YEAR_MILLISECONDS = 365.25 * 86_400_000;
const ORDER: readonly FitVerdict[] = ['fits', 'conditions', 'no'];

export function yearsOf({ boughtOn }: Pick<Lot, 'boughtOn'>, now: number): number | undefined {
  return boughtOn === null
    ? undefined
    : Math.max(0, (now - Date.parse(boughtOn)) / YEAR_MILLISECONDS);
}

/** What is there for a place: what fits first, in it what is there, the fewest doubts, the cheapest. */
export function rankLots(
  was: PartSpec,
  lots: readonly Lot[],
  place: Place,
  now: number,
): readonly RankedLot[] {
  const warnings = (remarks: readonly FitnessRemark[]): number =>
    remarks.filter(({ level }) => level === 'warn').length;
  return lots
    .map((lot): RankedLot => {
      const offered = readSpec(lot.text, LIBRARY);
      const years = yearsOf(lot, now);
      const remarks = [...judgeFit(was, offered, place)];
      if (
        offered.kind === 'capacitor' &&
        offered.dielectric === 'electrolytic' &&
        (years ?? 0) > FORM_AFTER_YEARS
      )
        remarks.push({
          level: 'warn',
          code: 'leakage',
          text: `bought ${Math.floor(years!)} years ago: form it first, slowly, from a supply limited to a few milliampere, and read its leakage${(offered.volt ?? 0) > TOUCH_VOLT ? '; above 60 V only if you are qualified' : ''}`,
        });
      if (lot.donor !== '')
        remarks.push({
          level: 'warn',
          code: 'not-judged',
          text: `out of ${lot.donor}: test it before it goes on`,
        });
      return { lot, verdict: verdictOf(remarks), remarks, years };
    })
    .filter(
      ({ verdict, remarks }) =>
        verdict !== 'no' || !remarks.some(({ code }) => code === 'another-kind'),
    )
    .sort(
      (a, b) =>
        ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict) ||
        Number(freeOf(b.lot) > 0) - Number(freeOf(a.lot) > 0) ||
        warnings(a.remarks) - warnings(b.remarks) ||
        (a.lot.price ?? Infinity) - (b.lot.price ?? Infinity) ||
        a.lot.text.localeCompare(b.lot.text),
    );
}
