/** Turns a minute by the pitch of a tone that is known at the right speed. */
export const turnsByTone = (rightTurns: number, rightHertz: number, heardHertz: number): number =>
  (rightTurns * heardHertz) / rightHertz;

/**
 * Turns a minute of a driven pulley. A belt runs on its middle: half of its section on each side
 * counts to the diameters. Millimetres.
 */
export const drivenTurns = (
  motorTurns: number,
  motorPulleyMm: number,
  drivenPulleyMm: number,
  sectionMm = 0,
): number => (motorTurns * (motorPulleyMm + sectionMm)) / (drivenPulleyMm + sectionMm);

/** What a laser draws, by the volts across the resistor that senses its current; amperes. */
export const laserAmpere = (senseVolt: number, senseOhm: number): number => senseVolt / senseOhm;
/**
 * Above its label by this much a laser is worn, and more current only ends it sooner. Common
 * practice, no published source.
 */
export const LASER_WORN_SHARE = 0.1;
