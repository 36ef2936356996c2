import { conductance, type Element } from './element';
import type { FaultMode } from './kind';
import { SEVERITY } from './severity';

/**
 * Adds `ohm` in series with a two-terminal element, without a new node where the sum is again one
 * element.
 */
function inSeries(element: Element, ohm: number, inner: string): readonly Element[] {
  switch (element.type) {
    case 'conductance': {
      const own = 1 / element.siemens;
      return [conductance(element.a, element.b, own + ohm, (element.spread * own) / (own + ohm))];
    }
    case 'coil':
      return [
        {
          ...element,
          ohm: element.ohm + ohm,
          spread: (element.spread * element.ohm) / (element.ohm + ohm),
        },
      ];
    case 'branch':
      return [{ ...element, ohm: element.ohm + ohm }];
    case 'capacitance':
      return [{ ...element, ohm: element.ohm + ohm, ohmSpread: 0 }];
    case 'junction':
      return [{ ...element, anode: inner }, conductance(element.anode, inner, ohm)];
    default:
      return [element];
  }
}

/** `open`: 100 MΩ in series with the whole part (its first element carries all of its current). */
export function openMode(inner: string): FaultMode {
  return {
    name: 'open',
    effect: 'open',
    severity: SEVERITY.open,
    changesDc: true,
    change: ([first, ...rest], ohm) => [...inSeries(first!, ohm, inner), ...rest],
  };
}

/** A resistance in parallel with the two outer nodes of the part. */
export function parallelMode(name: 'short' | 'leaky', a: string, b: string): FaultMode {
  return {
    name,
    // A leak of 60 ohm and more blows nothing.
    ...(name === 'short' ? { effect: 'short' } : {}),
    severity: SEVERITY[name],
    changesDc: true,
    change: (healthy, ohm) => [...healthy, conductance(a, b, ohm)],
  };
}
