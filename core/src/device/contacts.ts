import { parseFuse } from '../board';
import { conductance, type Element } from './element';
import type { DeviceKind, FaultMode } from './kind';
import { SEVERITY } from './severity';
import { openMode } from './shared-modes';

/** Ohms of a whole fuse, a closed switch, a mated connector pin and a wire link.
 * Fuse: the core's outside interface; the others from memory of common data sheets. */
export const CONTACT_OHM = { fuse: 0.05, switch: 0.05, connectorPin: 0.02, link: 0.005 } as const;
const OPEN_CONTACT_OHM = 1e8;

/**
 * The smaller the current a small fuse is made for, the thinner its wire: cold ohms fall with about
 * the square of the current, to those of the clips at 1 A.
 * Order of size, from memory of data sheets of 5 x 20 mm fuses; the largest drops at rated current
 * stand in IEC 60127-2. Spread of their logarithm between makes.
 */
const FUSE = { ohmAtOneAmpere: CONTACT_OHM.fuse, mostOhm: 10, spread: 0.35 } as const;

/** Cold ohms of a whole fuse by what is printed on it; those of the clips where nothing is. */
export function fuseOhm(rating: string | undefined): number {
  const ampere = rating === undefined ? undefined : parseFuse(rating).ampere;
  if (ampere === undefined || !(ampere > 0)) return CONTACT_OHM.fuse;
  return Math.min(FUSE.mostOhm, Math.max(CONTACT_OHM.fuse, FUSE.ohmAtOneAmpere / ampere ** 2));
}

export const fuse: DeviceKind<'fuse'> = {
  kind: 'fuse',
  elements: (part) => {
    const ohm = fuseOhm(part.rating);
    return [
      conductance(part.pins[0]!, part.pins[1]!, ohm, ohm > CONTACT_OHM.fuse ? FUSE.spread : 0),
    ];
  },
  modes: (part) => [openMode(`${part.ref}#open`)],
};

export const connectorPin: DeviceKind<'connectorPin'> = {
  kind: 'connectorPin',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, CONTACT_OHM.connectorPin)],
  modes: (part) => [contactMode(`${part.ref}#open`)],
};

export const link: DeviceKind<'link'> = {
  kind: 'link',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, CONTACT_OHM.link)],
  modes: (part) => [openMode(`${part.ref}#open`)],
};

/**
 * A switch at rest. An open one is 100 MΩ, so that its two nets still have a (very poor) path, as a
 * dirty contact has.
 */
export const switchKind: DeviceKind<'switch'> = {
  kind: 'switch',
  elements: (part) => [
    conductance(
      part.pins[0]!,
      part.pins[1]!,
      part.rest === 'closed' ? CONTACT_OHM.switch : OPEN_CONTACT_OHM,
    ),
  ],
  modes: (part) => [contactMode(`${part.ref}#open`), stuckClosed(part.pins[0]!, part.pins[1]!)],
};

/** A contact that is dirty, or does not close at all. */
function contactMode(inner: string): FaultMode {
  return { ...openMode(inner), severity: SEVERITY.contact };
}

function stuckClosed(a: string, b: string): FaultMode {
  const closed: Element = conductance(a, b, CONTACT_OHM.switch);
  return {
    name: 'stuck-closed',
    severity: { ...SEVERITY.short },
    changesDc: true,
    change: () => [closed],
  };
}
