import type { DeviceKind } from './kind';
import { conductance, type Element } from './element';
import { SEVERITY } from './severity';
import { openMode, parallelMode } from './shared-modes';
import { ESR_SPREAD, typicalEsrOhm, UNSTATED_ESR_SPREAD } from './typical-esr';

/**
 * Tolerance limits used where the board states none, as fractions. Source: the core's outside
 * interface, section "Conventions".
 */
export const DEFAULT_TOLERANCE = {
  resistor: 0.05,
  capacitor: 0.2,
  inductor: 0.1,
  dcResistance: 0.05,
} as const;

export const resistor: DeviceKind<'resistor'> = {
  kind: 'resistor',
  elements: (part) => [
    conductance(
      part.pins[0]!,
      part.pins[1]!,
      part.resistanceOhm,
      spreadOf(part, DEFAULT_TOLERANCE.resistor),
    ),
  ],
  modes: (part) => [
    openMode(`${part.ref}#open`),
    parallelMode('short', part.pins[0]!, part.pins[1]!),
    // What nobody knows has not drifted.
    ...(part.unknown
      ? []
      : [scaleResistance('drift-high', 'driftHigh'), scaleResistance('drift-low', 'driftLow')]),
  ],
};

/**
 * Spread of the logarithm of a value that is not known: evenly over seven decades of what is sold,
 * 1 ohm to 10 megohm.
 */
const UNKNOWN_SPREAD = (7 * Math.LN10) / Math.sqrt(12);

/**
 * Standard deviation as a share of the value. A value that a reading has taught has its tolerance
 * from there.
 */
function spreadOf(
  {
    unknown,
    tolerance,
  }: { readonly unknown?: true | undefined; readonly tolerance?: number | undefined },
  usual: number,
): number {
  return unknown && tolerance === undefined ? UNKNOWN_SPREAD : (tolerance ?? usual) / 2;
}

function scaleResistance(
  name: string,
  severity: 'driftHigh' | 'driftLow',
): ReturnType<typeof openMode> {
  return {
    name,
    severity: SEVERITY[severity],
    changesDc: true,
    change: (healthy, factor) =>
      healthy.map((e) => (e.type === 'conductance' ? { ...e, siemens: e.siemens / factor } : e)),
  };
}

/**
 * A capacitor drawn as ideal wears all the same: as one of so many ohms. From memory of bench
 * practice.
 */
const IDEAL_WEARS_AS_OHM = 0.01;

export const capacitor: DeviceKind<'capacitor'> = {
  kind: 'capacitor',
  elements: (part) => [
    {
      type: 'capacitance',
      a: part.pins[0]!,
      b: part.pins[1]!,
      farad: part.capacitanceFarad,
      ohm: part.esrOhm ?? typicalEsrOhm(part),
      spread: spreadOf(part, DEFAULT_TOLERANCE.capacitor),
      ohmSpread: part.esrOhm === undefined ? UNSTATED_ESR_SPREAD : ESR_SPREAD,
    },
  ],
  modes: (part) => [
    { ...openMode(`${part.ref}#open`), changesDc: false },
    parallelMode('short', part.pins[0]!, part.pins[1]!),
    parallelMode('leaky', part.pins[0]!, part.pins[1]!),
    changeCapacitance('high-esr', 'highEsr', (c, factor) => ({
      ...c,
      ohm: (c.ohm || IDEAL_WEARS_AS_OHM) * factor,
    })),
    changeCapacitance('low-capacitance', 'lowCapacitance', (c, factor) => ({
      ...c,
      farad: c.farad * factor,
    })),
  ],
};

type Capacitance = Extract<Element, { type: 'capacitance' }>;

function changeCapacitance(
  name: string,
  severity: 'highEsr' | 'lowCapacitance',
  change: (c: Capacitance, factor: number) => Capacitance,
): ReturnType<typeof openMode> {
  return {
    name,
    severity: SEVERITY[severity],
    changesDc: false,
    change: (healthy, factor) =>
      healthy.map((e) => (e.type === 'capacitance' ? change(e, factor) : e)),
  };
}

function coil(pins: readonly string[], henry: number, ohm: number): readonly Element[] {
  return [
    {
      type: 'coil',
      a: pins[0]!,
      b: pins[1]!,
      ohm,
      henry,
      spread: DEFAULT_TOLERANCE.dcResistance / 2,
    },
  ];
}

export const inductor: DeviceKind<'inductor'> = {
  kind: 'inductor',
  elements: (part) => coil(part.pins, part.inductanceHenry, part.dcResistanceOhm ?? 0),
  modes: (part) => [
    openMode(`${part.ref}#open`),
    parallelMode('short', part.pins[0]!, part.pins[1]!),
  ],
};

export const winding: DeviceKind<'winding'> = {
  kind: 'winding',
  elements: (part) => coil(part.pins, part.inductanceHenry, part.dcResistanceOhm),
  modes: (part) => [
    openMode(`${part.ref}#open`),
    parallelMode('short', part.pins[0]!, part.pins[1]!),
  ],
};
