/** Ohm times square millimetre a metre of annealed copper at 20 °C: 1/58. Source: IEC 60028. */
export const COPPER_OHM_MM2 = 1 / 58;
/** Share by which copper's ohms rise a degree, at 20 °C. Source: IEC 60028. */
const COPPER_PER_DEGREE = 0.00393;
const ROOM_CELSIUS = 20;

/**
 * Diameter of a wire by its gauge, mm: 36 is 5 mil, 0000 is 460 mil, 39 steps of one ratio between.
 * Source: ASTM B258.
 */
export const gaugeMm = (gauge: number): number => 0.127 * 92 ** ((36 - gauge) / 39);

/** Ohms of a round copper wire. Millimetres, °C. */
export function wireOhm(lengthMm: number, diameterMm: number, celsius = ROOM_CELSIUS): number {
  const areaMm2 = (Math.PI / 4) * diameterMm ** 2;
  const cold = (COPPER_OHM_MM2 * lengthMm) / 1000 / areaMm2;
  return cold * (1 + COPPER_PER_DEGREE * (celsius - ROOM_CELSIUS));
}

/**
 * Henries of a straight round wire far from everything. Source: Rosa, Bulletin of the Bureau of
 * Standards 4, 1908: 0.2 l (ln(4 l / d) - 0.75) µH, metres.
 */
export function wireHenry(lengthMm: number, diameterMm: number): number {
  if (lengthMm <= diameterMm) return 0;
  const metres = lengthMm / 1000;
  return Math.max(0, 0.2e-6 * metres * (Math.log((4 * lengthMm) / diameterMm) - 0.75));
}

/** Ohms of a track. thicknessMm: 35 µm is an ounce a square foot. */
export function trackOhm(lengthMm: number, widthMm: number, thicknessMm = 0.035): number {
  return (COPPER_OHM_MM2 * lengthMm) / 1000 / (widthMm * thicknessMm);
}

/** Thousandths of an inch in a millimetre. */
const MIL = 1 / 0.0254;

/**
 * Amperes that warm a track by so many degrees. Source: IPC-2221, I = k dT^0.44 A^0.725 with A in
 * square mil; k is 0.048 on the outside, 0.024 within.
 */
export function trackAmpere(
  widthMm: number,
  riseCelsius: number,
  place: 'outside' | 'inside' = 'outside',
  thicknessMm = 0.035,
): number {
  const area = widthMm * MIL * (thicknessMm * MIL);
  return (place === 'outside' ? 0.048 : 0.024) * riseCelsius ** 0.44 * area ** 0.725;
}

/** Width that carries a current at so many degrees more, mm: the same turned round. */
export function trackWidthMm(
  ampere: number,
  riseCelsius: number,
  place: 'outside' | 'inside' = 'outside',
  thicknessMm = 0.035,
): number {
  const k = place === 'outside' ? 0.048 : 0.024;
  const area = (ampere / (k * riseCelsius ** 0.44)) ** (1 / 0.725);
  return area / (thicknessMm * MIL) / MIL;
}

/** Amperes a square millimetre that a short open jumper may carry. Common practice, no published source. */
const JUMPER_AMPERE_MM2 = 8;
export const jumperAmpere = (diameterMm: number): number =>
  JUMPER_AMPERE_MM2 * (Math.PI / 4) * diameterMm ** 2;
