import { DIODE_DEFAULT, TRANSISTOR_DEFAULT } from './formats/deck-models';
import type { DiodeModel, TransistorModel } from './schema';

/**
 * Diodes that a repairer names in one word. A light-emitting diode drops about 1.9 V at 10 mA, a
 * Schottky diode about 0.3 V. From memory of common data sheets.
 */
const LED = { ...DIODE_DEFAULT, saturationCurrentAmpere: 1e-18, emissionCoefficient: 2 };
const SCHOTTKY = { ...DIODE_DEFAULT, saturationCurrentAmpere: 1e-7 };
const SILICON_SIGNAL = {
  ...DIODE_DEFAULT,
  saturationCurrentAmpere: 2.5e-9,
  emissionCoefficient: 1.8,
  seriesResistanceOhm: 0.6,
};
const SILICON_POWER = {
  ...DIODE_DEFAULT,
  saturationCurrentAmpere: 1e-9,
  emissionCoefficient: 1.7,
  seriesResistanceOhm: 0.03,
};

const DIODES: readonly (readonly [RegExp, Omit<DiodeModel, 'name'>])[] = [
  [/^(LED|LD)([_-]?[A-Z]+)?$/, LED],
  [/^(SCHOTTKY|1N581[789]|1N582[0-2]|BAT\d+\w*|SB\d+)$/, SCHOTTKY],
  [/^(1N4148|1N4448|1N914|1N4151|1S1588|SIGNAL)\w*$/, SILICON_SIGNAL],
  [/^(1N400[1-7]|1N540[0-8]|1N493\d|RECTIFIER)\w*$/, SILICON_POWER],
];
/** `5V6`, `5.6V`, with or without a word before it: a breakdown diode. */
const BREAKDOWN =
  /^(?:ZENER|Z|ZD|ZPD|BZ[XVY]?\d*C?|BZX\d+[-_]?C?)?[-_]?(\d+(?:[.,]\d+)?V\d*|\d+V)$/;

/** The model that a diode's name or words stand for; an ordinary silicon diode under other names. */
export function diodeModel(name: string): DiodeModel & { readonly known: boolean } {
  const upper = name.toUpperCase();
  const found = DIODES.find(([pattern]) => pattern.test(upper))?.[1];
  const volt = breakdownVolt(upper);
  if (found) return { name, ...found, known: true };
  return volt === undefined
    ? { name, ...DIODE_DEFAULT, known: name === 'D' || upper === 'DIODE' }
    : { name, ...DIODE_DEFAULT, breakdownVolt: volt, known: true };
}

function breakdownVolt(upper: string): number | undefined {
  const written = BREAKDOWN.exec(upper)?.[1];
  if (written === undefined) return undefined;
  const [whole = '', after = ''] = written.replace(',', '.').split('V');
  const volt = Number(after === '' ? whole : `${whole}.${after}`);
  return volt > 0 && volt < 400 ? volt : undefined;
}

/**
 * Small transistors of general kind, by polarity. Published data sheets, from memory. Their pins
 * differ from maker to maker: no order of pins follows from a name.
 */
// prettier-ignore
const POLARITY: readonly (readonly [RegExp, TransistorModel['polarity']])[] = [
  [/^(NPN|2N2219|2N2222|2N3053|2N3055|2N3904|2N4401|2N5551|BC10[789]|BC23[789]|BC33[78]|BC54[6789]|BC550|BC63[579]|BD13[579]|BD24[13]|TIP2[9]|TIP3[13]|TIP41|TIP12[0-2]|2SC\d+|2SD\d+|MPSA(06|13|14|42))\w*$/, 'npn'],
  [/^(PNP|2N2905|2N2907|2N3906|2N4403|2N5401|BC17[789]|BC30[789]|BC32[78]|BC55[6789]|BC560|BC63[468]|BC640|BD13[68]|BD140|BD24[24]|TIP3[024]|TIP42|TIP12[5-7]|2SA\d+|2SB\d+|MPSA(56|63|64|92))\w*$/, 'pnp'],
];

/** The model that a transistor's name or words stand for; undefined where its polarity is not told. */
export function transistorModel(name: string): TransistorModel | undefined {
  const upper = name.toUpperCase();
  const polarity = POLARITY.find(([pattern]) => pattern.test(upper))?.[1];
  return polarity && { name, polarity, ...TRANSISTOR_DEFAULT };
}
