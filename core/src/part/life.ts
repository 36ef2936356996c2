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
