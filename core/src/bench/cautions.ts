/**
 * Steps at which a caution stands. Hazards of the unit itself, first aid and findings by eye bring
 * their own.
 */
export type CautionedStep =
  | 'probe-powered'
  | 'primary'
  | 'current'
  | 'first-power'
  | 'before-ohms'
  | 'in-the-case'
  | 'bleeding'
  | 'iron'
  | 'look'
  | 'first-aid'
  | 'reseat'
  | 'head-ohms'
  | 'provoke'
  | 'soak'
  | 'bleach'
  | 'glue'
  | 'burn-in'
  | 'motor'
  | 'adjust'
  | 'laser-supply';

/**
 * What to mind at a step: short sentences, one action each. defer: whether local codes and
 * qualification belong to it.
 */
export interface Caution {
  readonly words: string;
  readonly source: string;
  readonly defer: boolean;
}

const PRACTICE = 'common practice, no published source';

/**
 * Read aloud before they were written down. None of them says that something is safe.
 * docs/safety.md lists where each stands; core/test/safety.test.ts holds the two together.
 */
// prettier-ignore
export const CAUTIONS: Readonly<Record<CautionedStep, Caution>> = {
  'probe-powered': { words: 'Powered: one hand. Insulated tips, leads rated for the place (on the mains CAT II 300 V or better). No rings, no watch strap.', source: 'IEC 61010-031, lead categories, from memory; the rest common practice', defer: true },
  primary: { words: 'Primary side: the unit on an isolating transformer. No earthed clip of an instrument on it. No wrist strap while it is live. Never alone in the room.', source: PRACTICE, defer: true },
  current: { words: 'Ammeter: fused input only. Lead back into the volt socket before the next reading: an ammeter is a short.', source: PRACTICE, defer: true },
  'first-power': { words: 'First power after a repair: bench supply with its current limit low, or a series lamp on the mains. A switching supply that needs a load keeps one. Eyes covered, face back, hand on the switch: smoke or smell, off at once.', source: PRACTICE, defer: true },
  'before-ohms': { words: 'Off means unplugged. Discharge, read the volts, wait a minute, read again: a capacitor recovers part of its charge. Below 2 V for ohms and ESR.', source: 'dielectric absorption, IEC 60384-1, from memory; the limit is common practice', defer: true },
  'in-the-case': { words: 'Unplugged and read below 60 V before hands go in. The plug lies where it is seen.', source: 'IEC 62368-1, energy class ES1, from memory', defer: true },
  bleeding: { words: 'Through the resistor, its leads insulated, never with a screwdriver. Eyes covered. Then measure, and again after a minute.', source: PRACTICE, defer: true },
  iron: { words: 'Unplugged. Hot iron, flux fumes: air out, eyes covered. Wash hands after lead solder. Leaked electrolyte: gloves, no cold pulling.', source: PRACTICE, defer: false },
  look: { words: 'Eyes covered when something is pried or cut. Leaked battery or electrolyte: gloves, wash skin at once. Burns and old glue: damp cloth, no dry dust.', source: PRACTICE, defer: true },
  'first-aid': { words: 'Power off for every one of these that puts a hand inside. Some switching supplies must not run without a load: plug the load in before power.', source: PRACTICE, defer: true },
  reseat: { words: 'Power off at both ends. A stepper unplugged live kills its driver. Unplug before power, never under it.', source: PRACTICE, defer: false },
  'head-ohms': { words: 'An ohmmeter magnetises a head: no medium in or near. Demagnetise the head before a good one goes in.', source: PRACTICE, defer: false },
  provoke: { words: 'Power on: press with an insulated stick, never a finger; one hand. Not on the primary side. Cold spray that does not burn, a short puff, gloves, eyes covered; not on hot glass. Never leave it alone while it warms up.', source: PRACTICE, defer: true },
  soak: { words: 'Solvents: air out, no flame, no iron, lid on. Gloves that stand it: acetone eats most.', source: PRACTICE, defer: false },
  bleach: { words: 'Peroxide: gloves, goggles, air. Never sealed in a bag or box: it makes gas. Metal and labels kept out.', source: PRACTICE, defer: false },
  glue: { words: 'Warm old glue gives off fumes, its dust conducts: air out, damp wipe, no scraping dry.', source: PRACTICE, defer: false },
  'burn-in': { words: 'Never unattended, never overnight. Nothing that burns beside it. The switch within reach.', source: PRACTICE, defer: true },
  motor: { words: 'Turn a motor slowly: it generates into its driver. Fingers out of belts and gears.', source: PRACTICE, defer: false },
  adjust: { words: 'Running unit: insulated driver, one hand, no ring. Sleeves and hair out of belts and gears. Screen off, face away: the beam is invisible.', source: PRACTICE, defer: true },
  'laser-supply': { words: 'Never look along the axis, nor into a mirror of it. Set by the volts across the sense resistor only, never by eye or by what it reads. Above its label it wears out in minutes.', source: PRACTICE, defer: true },
};
