import type { Dielectric } from '../board';

/**
 * Spread of ln ESR between healthy parts of a kind where the sheet states it. Source: the core's
 * outside interface, section "Conventions".
 */
export const ESR_SPREAD = 0.25;
/**
 * The same where it is only known from the size of the part: two fifths of a decade. From memory of
 * data sheets of several makes.
 */
export const UNSTATED_ESR_SPREAD = 0.9;

/**
 * Healthy ohms at 100 kHz and room temperature of general-purpose aluminium electrolytics of 16 to
 * 35 V, by farad. Order of size, from memory of common data sheets.
 */
// prettier-ignore
const ELECTROLYTIC_ESR: readonly (readonly [farad: number, ohm: number])[] = [
  [1e-6, 5], [4.7e-6, 2.5], [10e-6, 1.5], [22e-6, 0.9], [47e-6, 0.5], [100e-6, 0.3], [220e-6, 0.15], [470e-6, 0.09], [1000e-6, 0.05], [2200e-6, 0.03],
];

/**
 * The other kinds, as a share of an electrolytic of the same value or as ohms of their own. From
 * memory of common data sheets.
 */
const OF_ELECTROLYTIC: Partial<Record<Dielectric, number>> = {
  electrolytic: 1,
  bipolar: 1.5,
  tantalum: 0.6,
};
const OWN_OHM: Partial<Record<Dielectric, number>> = { polymer: 0.02, ceramic: 0.01, film: 0.02 };
/**
 * A capacitor of unstated kind is taken as a small film or ceramic below this, as an electrolytic
 * from here on, farad.
 */
const ELECTROLYTIC_FROM_FARAD = 1e-6;
const UNSTATED_SMALL_OHM = 0.1;

/**
 * A taller can of the same value has less: by volts over those of the table, to this power, within
 * these limits. From memory of common data sheets.
 */
const VOLTS = { usual: 25, power: 0.25, least: 0.7, most: 1.4 } as const;

/**
 * Ohms at 100 kHz of a healthy capacitor whose sheet does not state them: by value, volts and kind.
 * An order of size: every reading that rests on it says so.
 */
export function typicalEsrOhm(part: {
  readonly capacitanceFarad: number;
  readonly dielectric?: Dielectric | undefined;
  readonly ratedVolt?: number | undefined;
}): number {
  const { capacitanceFarad: farad, ratedVolt } = part;
  const kind = part.dielectric ?? (farad >= ELECTROLYTIC_FROM_FARAD ? 'electrolytic' : undefined);
  if (kind === undefined) return UNSTATED_SMALL_OHM;
  const own = OWN_OHM[kind];
  if (own !== undefined) return own;
  const byVolts =
    ratedVolt === undefined
      ? 1
      : Math.min(VOLTS.most, Math.max(VOLTS.least, (VOLTS.usual / ratedVolt) ** VOLTS.power));
  return byVolts * (OF_ELECTROLYTIC[kind] ?? 1) * byValue(farad);
}

/** Straight between the rows of the table on two logarithmic scales, and on beyond its ends. */
function byValue(farad: number): number {
  const last = ELECTROLYTIC_ESR.length - 1;
  const at = Math.min(
    last,
    Math.max(1, ELECTROLYTIC_ESR.findIndex(([value]) => value >= farad) || 1),
  );
  const upper = ELECTROLYTIC_ESR.some(([value]) => value >= farad) ? at : last;
  const [[c0, r0], [c1, r1]] = [ELECTROLYTIC_ESR[upper - 1]!, ELECTROLYTIC_ESR[upper]!];
  return r0 * (r1 / r0) ** (Math.log(farad / c0) / Math.log(c1 / c0));
}
