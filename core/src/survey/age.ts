/**
 * A wet electrolytic lives twice as long for every ten degrees that it is cooler. Source: the rule
 * of ten degrees (Arrhenius), as data sheets of aluminium electrolytics give it.
 */
const DEGREES_PER_DOUBLING = 10;
/** The rule is not used below this, where other things end a part first, °C. From memory. */
const COOLEST = 25;

/** Hours that a part rated for so many at its upper temperature lasts at another. °C. */
export function lifeHours(ratedHours: number, ratedCelsius: number, celsius: number): number {
  return ratedHours * 2 ** ((ratedCelsius - Math.max(COOLEST, celsius)) / DEGREES_PER_DOUBLING);
}

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
