import { conductance, type Element } from './element';
import type { DeviceKind, FaultMode } from './kind';
import { SEVERITY } from './severity';
import { openMode } from './shared-modes';

/** Ohms of a whole fuse, a closed switch, a mated connector pin and a wire link.
 *  Fuse: the core's outside interface; the others from memory of common data sheets. */
export const CONTACT_OHM = { fuse: 0.05, switch: 0.05, connectorPin: 0.02, link: 0.005 } as const;
const OPEN_CONTACT_OHM = 1e8;

export const fuse: DeviceKind<'fuse'> = {
  kind: 'fuse',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, CONTACT_OHM.fuse)],
  modes: (part) => [openMode(`${part.ref}#open`)],
};

export const connectorPin: DeviceKind<'connectorPin'> = {
  kind: 'connectorPin',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, CONTACT_OHM.connectorPin)],
  modes: (part) => [openMode(`${part.ref}#open`)],
};

export const link: DeviceKind<'link'> = {
  kind: 'link',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, CONTACT_OHM.link)],
  modes: (part) => [openMode(`${part.ref}#open`)],
};

/** A switch at rest. An open one is 100 MΩ, so that its two nets still have a (very poor) path, as a dirty contact has. */
export const switchKind: DeviceKind<'switch'> = {
  kind: 'switch',
  elements: (part) => [conductance(part.pins[0]!, part.pins[1]!, part.rest === 'closed' ? CONTACT_OHM.switch : OPEN_CONTACT_OHM)],
  modes: (part) => [openMode(`${part.ref}#open`), stuckClosed(part.pins[0]!, part.pins[1]!)],
};

function stuckClosed(a: string, b: string): FaultMode {
  const closed: Element = conductance(a, b, CONTACT_OHM.switch);
  return { name: 'stuck-closed', severity: { ...SEVERITY.short }, changesDc: true, change: () => [closed] };
}
