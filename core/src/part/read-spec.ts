import { NO_LIBRARY, parseFuse, transistorModel, type DeviceLibrary } from '../board';
import { libraryPart, logicOf } from './read/from-library';
import { readBelt, readConnector, readMotor, readSwitch } from './read/mechanics';
import {
  BACK_TO_BACK,
  DIELECTRICS,
  readArray,
  readCapacitor,
  readCrystal,
  readFuse,
  readInductor,
  readResistor,
} from './read/passive';
import { meant, said } from './read/said';
import { readDiode, readOpto, readRegulator, readTransistor } from './read/semiconductor';
import type { PartSpec, SpecKind } from './spec';
import { amounts, celsiusOf, lifeHoursOf, readSize } from './words';

/** Words that tell what a part is, the telling ones first. */
const KIND_WORDS: readonly (readonly [RegExp, SpecKind])[] = [
  [/\bbelt\b/i, 'belt'],
  [/\b(motor|spindle|stepper)\b/i, 'motor'],
  [/\b(opto|optocoupler|interrupter|light[ -]barrier)\b/i, 'opto'],
  [/\b(crystal|xtal|quartz|resonator)\b|\d\s*[kM]Hz\b/i, 'crystal'],
  [/\b(regulator|ldo)\b/i, 'regulator'],
  [/\b(zener|schottky|diode|rectifier|led)\b|\b1N\d{3,4}|\bBZ[XVY]\d/i, 'diode'],
  [/\b(npn|pnp|transistor|darlington|mosfet|[np]-?channel)\b|\b2N\d{3,4}/i, 'transistor'],
  [/\b(switch|contact)\b/i, 'switch'],
  [/\b(connector|plug|header|receptacle|housing|flex socket)\b/i, 'connector'],
  [/\b(inductor|choke|coil|ferrite|bead)\b|\d\s*[munµμ]?H(?=\s|,|$)/, 'inductor'],
  [/\b(array|network|isolated|bussed|bused)\b|(?:^|\s)[x×]\d{1,2}(?=\s|$)/i, 'array'],
  [
    /\b(fusible|fusing|flame-?proof|wire-?wound|metal[ -](oxide|film)|carbon)\b|(?:^|\s)(\d+\/\d+|\d+(?:[.,]\d+)?)\s*m?W(?=\s|,|$)/i,
    'resistor',
  ],
  [/\bfuse\b|(?:^|\s)(FF|TT|[FMT])\s*L?\s*\d+(?:[.,]\d+)?\s*m?A/, 'fuse'],
];

const READERS = {
  capacitor: readCapacitor,
  fuse: readFuse,
  resistor: readResistor,
  array: readArray,
  inductor: readInductor,
  crystal: readCrystal,
  diode: readDiode,
  transistor: readTransistor,
  opto: readOpto,
  switch: readSwitch,
  connector: readConnector,
  motor: readMotor,
  belt: readBelt,
};

/** A piece of wire and nothing else, or what stands for one. */
const WIRE =
  /\b(wire[ -]?(link|bridge|jumper)?|foil|nail|strand|solder([ -](bridge|blob))?|bridged?|jumper|link|short(ed)?)\b/i;

/**
 * Reads what was written for a part: `10u 16V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=2.5`,
 * `T1A 250V breaking=35A`, `33R x4 isolated`, `NPN 40V 200mA hfe=100 EBC`, `74HCT86`. Words that say
 * nothing are left alone; what is not said is undefined.
 * @param library where numbers of chips and regulators are looked up
 * @param expected what it is taken for where its own words do not tell
 */
export function readSpec(
  text: string,
  library: DeviceLibrary = NO_LIBRARY,
  expected?: SpecKind,
): PartSpec {
  const common = {
    text,
    size: readSize(text),
    ...said<{ celsius: number; lifeHours: number }>({
      celsius: celsiusOf(text),
      lifeHours: lifeHoursOf(text),
    }),
  };
  const kind = kindOf(text, library, expected);
  if (kind === 'wire' || kind === 'unknown') return { kind, ...common };
  if (kind === 'regulator') return { kind, ...common, ...readRegulator(library)(text) };
  if (kind === 'logic') {
    const logic = logicOf(text, library);
    return logic ? { kind, ...common, ...logic } : { kind: 'unknown', ...common };
  }
  if (kind === 'amplifier') {
    const part = libraryPart(text, library, 'amplifier');
    return part
      ? { kind, ...common, name: part.model.name, pins: part.pins.length, model: part.model }
      : { kind: 'unknown', ...common };
  }
  return { kind, ...common, ...READERS[kind](text) } as PartSpec;
}

/** Words beside which `100u` or `20p` are not the value of a capacitor. */
const NOT_FARAD = /\b(crystal|xtal|quartz|resonator|inductor|choke|coil)\b|\d\s*[kM]Hz\b/i;

/** What it is by its own words, by the library, by units; else what is expected. */
function kindOf(text: string, library: DeviceLibrary, expected: SpecKind | undefined): SpecKind {
  if (WIRE.test(text) && !/\bfuse holder\b/i.test(text) && !/\bwire-?wound\b/i.test(text)) {
    const more = amounts(text).some(({ unit }) => ['F', 'V', 'A', 'H', 'Hz'].includes(unit));
    if (!more && !/\b(connector|header|belt|switch|array)\b/i.test(text)) return 'wire';
    if (/\b(wire|foil|nail|strand|solder)\b/i.test(text)) return 'wire';
  }
  const list = amounts(text);
  // `47u` in the place of a coil is henries, unless it has volts as a capacitor has.
  const isCoil = expected === 'inductor' && !list.some(({ unit }) => unit === 'V');
  const hasFarad = list.some(
    ({ unit, word }) => unit === 'F' || (!isCoil && /^\d+([.,]\d+)?[unpµμ]\d*$/.test(word)),
  );
  if (hasFarad && !NOT_FARAD.test(text)) return 'capacitor';
  const byWord = meant(text, KIND_WORDS);
  if (byWord) return byWord;
  if (libraryPart(text, library, 'regulator') || /(?:^|\s)7[89][LM]?\d\d[A-Z]*(?=\s|$)/i.test(text))
    return 'regulator';
  if (logicOf(text, library)) return 'logic';
  if (libraryPart(text, library, 'amplifier')) return 'amplifier';
  if (text.split(/[\s,]+/).some((word) => transistorModel(word))) return 'transistor';
  if (
    meant(text, DIELECTRICS) ||
    BACK_TO_BACK.test(text) ||
    /(?:^|[\s/])[XY][1-4](?=$|[\s/,])/.test(text)
  )
    return 'capacitor';
  if (expected) return expected;
  if (parseFuse(text).ampere !== undefined) return 'fuse';
  if (list.some(({ unit, word }) => unit === 'ohm' || /^\d+([.,]\d+)?[kKMR]\d*$/.test(word)))
    return 'resistor';
  return 'unknown';
}
