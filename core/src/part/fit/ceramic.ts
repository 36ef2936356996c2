/**
 * Share of its value that a class 2 ceramic keeps with direct volts on it: 0.85 at 3.5 V of a 16 V
 * part, about a quarter at its rating. A typical part of small size; makes differ by a factor of two.
 * From memory of common data sheets.
 */
const FALL = { factor: 3, power: 1.87 } as const;

/** share: volts on it over its rating. Returns what is left of the value, 0 to 1. */
export function valueKept(share: number): number {
  return 1 / (1 + FALL.factor * Math.max(0, share) ** FALL.power);
}
