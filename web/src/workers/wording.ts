import type { Part } from '@hanzai/core/board';
import { partValue } from '@hanzai/core/board';
import type { Readout } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';

const NOUN: Readonly<Record<Part['kind'], string>> = {
  resistor: 'resistor', capacitor: 'capacitor', inductor: 'choke', winding: 'winding', voltageSource: 'supply', currentSource: 'current source',
  diode: 'diode', transistor: 'transistor', fuse: 'fuse', switch: 'switch', connectorPin: 'connector', link: 'link', unspecified: 'part',
}; // prettier-ignore

/** A part in a few words: its role where it has one, else kind and value. elements: of one replaceable part. */
export function partTitle(elements: readonly Part[]): string {
  const [first] = elements;
  if (!first) return '';
  if (first.role) return first.role.replace(/^load /, '');
  const value = partValue(first);
  return elements.length > 1
    ? /\.\D/.test(first.ref)
      ? 'driver chip'
      : `${NOUN[first.kind]}, ${elements.length} elements`
    : `${NOUN[first.kind]}${value ? ` ${value}` : ''}`;
}

/** The band of an expected reading: `8.42 V to 8.93 V`; empty where it is not a number. */
export function bandText(readout: Readout): string {
  if (typeof readout.low !== 'number') return '';
  const high = typeof readout.high === 'number' ? formatQuantity(readout.high, readout.unit, 3) : 'OL';
  return `${formatQuantity(readout.low, readout.unit, 3)} to ${high}`;
}
