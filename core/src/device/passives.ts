import type { Dielectric } from '../board';
import type { DeviceKind } from './kind';
import { conductance, type Element } from './element';
import { SEVERITY } from './severity';
import { openMode, parallelMode } from './shared-modes';

/** Tolerance limits used where the board states none, as fractions. Source: the core's outside interface, section "Conventions". */
export const DEFAULT_TOLERANCE = { resistor: 0.05, capacitor: 0.2, inductor: 0.1, dcResistance: 0.05 } as const;

/** Spread of ln ESR between healthy parts of a kind. Source: as above. */
export const ESR_SPREAD = 0.25;

/** Ohms at 100 kHz of a healthy part where the board states none, by kind; 10 uF size class for the electrolytics.
 *  From memory of common data sheets; every reading that rests on one says so. */
export const TYPICAL_ESR_OHM: Readonly<Record<Dielectric | 'unstated', number>> = {
  electrolytic: 0.5,
  polymer: 0.02,
  tantalum: 0.3,
  ceramic: 0.01,
  film: 0.02,
  bipolar: 0.8,
  unstated: 0.1,
};

export const resistor: DeviceKind<'resistor'> = {
  kind: 'resistor',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, part.resistanceOhm, (part.tolerance ?? DEFAULT_TOLERANCE.resistor) / 2)],
  modes: (part) => [
    openMode(`${part.ref}#open`),
    parallelMode('short', part.pins[0]!, part.pins[1]!),
    scaleResistance('drift-high', 'driftHigh'),
    scaleResistance('drift-low', 'driftLow'),
  ],
};

function scaleResistance(name: string, severity: 'driftHigh' | 'driftLow'): ReturnType<typeof openMode> {
  return {
    name,
    severity: SEVERITY[severity],
    changesDc: true,
    change: (healthy, factor) => healthy.map((e) => (e.type === 'conductance' ? { ...e, siemens: e.siemens / factor } : e)),
  };
}

export const capacitor: DeviceKind<'capacitor'> = {
  kind: 'capacitor',
  elements: (part) => [
    {
      type: 'capacitance',
      a: part.pins[0]!,
      b: part.pins[1]!,
      farad: part.capacitanceFarad,
      ohm: part.esrOhm ?? TYPICAL_ESR_OHM[part.dielectric ?? 'unstated'],
      spread: (part.tolerance ?? DEFAULT_TOLERANCE.capacitor) / 2,
      ohmSpread: ESR_SPREAD,
    },
  ],
  modes: (part) => [
    { ...openMode(`${part.ref}#open`), changesDc: false },
    parallelMode('short', part.pins[0]!, part.pins[1]!),
    parallelMode('leaky', part.pins[0]!, part.pins[1]!),
    changeCapacitance('high-esr', 'highEsr', (c, factor) => ({ ...c, ohm: c.ohm * factor })),
    changeCapacitance('low-capacitance', 'lowCapacitance', (c, factor) => ({ ...c, farad: c.farad * factor })),
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
    change: (healthy, factor) => healthy.map((e) => (e.type === 'capacitance' ? change(e, factor) : e)),
  };
}

function coil(pins: readonly string[], henry: number, ohm: number): readonly Element[] {
  return [{ type: 'coil', a: pins[0]!, b: pins[1]!, ohm, henry, spread: DEFAULT_TOLERANCE.dcResistance / 2 }];
}

export const inductor: DeviceKind<'inductor'> = {
  kind: 'inductor',
  elements: (part) => coil(part.pins, part.inductanceHenry, part.dcResistanceOhm ?? 0),
  modes: (part) => [openMode(`${part.ref}#open`), parallelMode('short', part.pins[0]!, part.pins[1]!)],
};

export const winding: DeviceKind<'winding'> = {
  kind: 'winding',
  elements: (part) => coil(part.pins, part.inductanceHenry, part.dcResistanceOhm),
  modes: (part) => [openMode(`${part.ref}#open`), parallelMode('short', part.pins[0]!, part.pins[1]!)],
};
