/** How steeply failures come once parts wear out: Weibull's shape. From memory of bench practice. */
const WEAR_OUT_SHAPE = 3;

/**
 * Chance that a part which has run for so many hours fails within so many more, its life being
 * where 63 % have failed. Source: Weibull, J. Appl. Mech. 18, 1951.
 */
export function failsWithin(lifeHours: number, hoursSoFar: number, hoursMore: number): number {
  const at = (hours: number): number => (Math.max(0, hours) / lifeHours) ** WEAR_OUT_SHAPE;
  return 1 - Math.exp(at(hoursSoFar) - at(hoursSoFar + hoursMore));
}
