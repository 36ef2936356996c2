import type { DeviceKind } from './kind';

export const voltageSource: DeviceKind<'voltageSource'> = {
  kind: 'voltageSource',
  elements: (part) => [
    { type: 'branch', a: part.pins[0]!, b: part.pins[1]!, volt: part.volt, ohm: 0 },
  ],
  modes: () => [],
};

export const currentSource: DeviceKind<'currentSource'> = {
  kind: 'currentSource',
  elements: (part) => [
    { type: 'current', a: part.pins[0]!, b: part.pins[1]!, ampere: part.ampere },
  ],
  modes: () => [],
};

/** A part of which only the pins are known: no electrical model, so nothing is claimed about it. */
export const unspecified: DeviceKind<'unspecified'> = {
  kind: 'unspecified',
  elements: () => [],
  modes: () => [],
};
