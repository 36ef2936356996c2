import type { Part, PartKind } from '../board';
import { amplifier } from './amplifier';
import { chip } from './chip';
import { connectorPin, fuse, link, switchKind } from './contacts';
import { opto, relay, transformer } from './coupled';
import type { Element } from './element';
import type { DeviceKind, FaultMode } from './kind';
import { capacitor, inductor, resistor, winding } from './passives';
import { regulator } from './regulator';
import { diode, transistor } from './semiconductors';
import { currentSource, unspecified, voltageSource } from './sources';

// prettier-ignore
const REGISTRY: { readonly [K in PartKind]: DeviceKind<K> } = {
  resistor, capacitor, inductor, winding, voltageSource, currentSource, diode, transistor,
  fuse, switch: switchKind, connectorPin, link, chip, regulator, amplifier, opto, relay, transformer, unspecified,
};

/** The healthy part as circuit elements between its nets, named as the part writes them. */
export function elementsOf(part: Part): readonly Element[] {
  return (REGISTRY[part.kind] as DeviceKind).elements(part);
}

/** The ways in which this part fails, not counting its joints. */
export function modesOf(part: Part): readonly FaultMode[] {
  return (REGISTRY[part.kind] as DeviceKind).modes(part);
}

/**
 * True for what stands outside the board: supplies and stimuli. They have no faults and are taken
 * away when the board is off.
 */
export function isSource(part: Part): boolean {
  return part.kind === 'voltageSource' || part.kind === 'currentSource';
}

/**
 * The mode that a dry joint at a pin (from 0) comes to, seen from anywhere but the joint itself.
 */
export function openPinMode(part: Part, pin: number): FaultMode | undefined {
  const { openPin } = REGISTRY[part.kind] as DeviceKind;
  const name = openPin ? openPin(pin) : part.pins.length === 2 ? 'open' : undefined;
  return name === undefined
    ? undefined
    : modesOf(part).find(
        (mode) => mode.name === name && (mode.pin === undefined || mode.pin === pin),
      );
}
