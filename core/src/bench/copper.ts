import type { PartKind } from '../board';

/**
 * Two-pin parts that join their nets as copper does, whatever they are rated for: contacts and
 * coils.
 */
export const AS_COPPER: readonly PartKind[] = [
  'fuse',
  'switch',
  'connectorPin',
  'link',
  'inductor',
];
