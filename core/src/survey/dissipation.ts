import type { Part } from '../board';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** The frequency at which the dissipation of electrolytics is stated, Hz. Source: IEC 60384-4. */
export const DISSIPATION_HERTZ = 100;

/**
 * ESR of a capacitor with this dissipation factor, ohm. Source: definition of the tangent of loss
 * angle, IEC 60384-1: tan δ = 2 π f C R.
 */
export function esrOfDissipation(tan: number, farad: number, hertz: number): number {
  return tan / (2 * Math.PI * hertz * farad);
}

/** Dissipation factor of a capacitor with this ESR. Source: as above. */
export function dissipationOfEsr(ohm: number, farad: number, hertz: number): number {
  return ohm * 2 * Math.PI * hertz * farad;
}

/**
 * The largest dissipation factor of a general-purpose aluminium electrolytic with liquid electrolyte
 * by rated volts, up to and with them, at 100 Hz and 20 °C. From memory of IEC 60384-4 and the data
 * sheets that follow it.
 */
// prettier-ignore
const LARGEST: readonly (readonly [volt: number, tan: number])[] = [
  [4, 0.5], [6.3, 0.28], [10, 0.24], [16, 0.2], [25, 0.16], [40, 0.14], [63, 0.12], [100, 0.1], [Infinity, 0.2],
];
/** For every 1000 µF beyond the first there is so much more. From memory, as above. */
const MORE_PER_MILLIFARAD = 0.02;
/** Of volts nobody knows, the most lenient of the usual classes is taken. */
const UNKNOWN_VOLT = 10;

/** The largest dissipation factor that a sound electrolytic of this size may have at 100 Hz. */
export function largestDissipation(farad: number, ratedVolt = UNKNOWN_VOLT): number {
  const tan = LARGEST.find(([volt]) => ratedVolt <= volt)![1];
  return tan + MORE_PER_MILLIFARAD * Math.max(0, Math.floor(farad / 1e-3 - 1e-9));
}

/**
 * Ohms beyond which an aluminium electrolytic is out of its standard at 100 Hz: at 100 kHz it has
 * less. Undefined for other kinds, and where the kind is not known below a microfarad.
 */
export function esrLimit(part: Capacitor): number | undefined {
  const { dielectric, capacitanceFarad: farad, ratedVolt } = part;
  const isWet =
    dielectric === 'electrolytic' ||
    dielectric === 'bipolar' ||
    (dielectric === undefined && farad >= 1e-6);
  if (!isWet) return undefined;
  return esrOfDissipation(largestDissipation(farad, ratedVolt), farad, DISSIPATION_HERTZ);
}
