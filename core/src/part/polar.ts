import type { Dielectric } from '../board';

/** Capacitors that have a plus. */
export const POLAR: readonly Dielectric[] = ['electrolytic', 'polymer', 'tantalum'];
