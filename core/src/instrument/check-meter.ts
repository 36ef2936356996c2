import { accuracyLimit, ohmRange, type MeterProfile } from './meter';

/** One known resistor and what the meter shows of it, ohm. */
export interface KnownResistor {
  readonly trueOhm: number;
  /** How well it is known, as a share: a tenth of a percent resistor is 0.001. */
  readonly tolerance: number;
  readonly readOhm: number;
}

/** What a check against known resistors says of a meter. */
export interface MeterCheck {
  /** What its leads add, ohm, and by what it reads too much, as a share. */
  readonly leadOhm: number;
  readonly gainError: number;
  /** The readings that are beyond what the meter's data allow, leads taken off. */
  readonly beyond: readonly KnownResistor[];
  /** The share that its accuracy would have to be for all of them to lie within. */
  readonly shareNeeded: number;
}

/**
 * Fits leads and gain of an ohmmeter to known resistors: read = leads + (1 + gain error) · true, by
 * least squares weighted with the meter's own limit and the resistors'. Undefined with fewer than
 * two different ones. Source: Gauss, weighted least squares of a straight line.
 */
export function checkMeter(
  meter: MeterProfile,
  known: readonly KnownResistor[],
): MeterCheck | undefined {
  const usable = known.filter(
    ({ trueOhm, readOhm }) =>
      trueOhm > 0 && readOhm >= 0 && Number.isFinite(readOhm) && Number.isFinite(trueOhm),
  );
  if (new Set(usable.map(({ trueOhm }) => trueOhm)).size < 2) return undefined;
  const limitOf = ({ readOhm, trueOhm, tolerance }: KnownResistor): number =>
    accuracyLimit('resistance', readOhm, fullScaleOf(meter, readOhm), meter) + tolerance * trueOhm;
  let [s, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
  for (const one of usable) {
    const weight = 1 / Math.max(1e-9, limitOf(one)) ** 2;
    s += weight;
    sx += weight * one.trueOhm;
    sy += weight * one.readOhm;
    sxx += weight * one.trueOhm ** 2;
    sxy += weight * one.trueOhm * one.readOhm;
  }
  const slope = (s * sxy - sx * sy) / (s * sxx - sx * sx);
  // Leads add, they never take away.
  const leadOhm = Math.max(0, (sy - slope * sx) / s);
  const beyond = usable.filter(
    (one) => Math.abs(one.readOhm - leadOhm - one.trueOhm) > limitOf(one),
  );
  const shareNeeded = Math.max(
    0,
    ...usable.map((one) => {
      const counts = (meter.ohms.counts * fullScaleOf(meter, one.readOhm)) / meter.counts;
      const off = Math.abs(one.readOhm - leadOhm - one.trueOhm);
      return (off - counts - one.tolerance * one.trueOhm) / one.readOhm;
    }),
  );
  return { leadOhm, gainError: slope - 1, beyond, shareNeeded };
}

function fullScaleOf(meter: MeterProfile, ohm: number): number {
  const range = ohmRange(ohm, meter);
  return Number.isFinite(range) ? range : meter.ohmRanges.at(-1)![0];
}
