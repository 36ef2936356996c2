import { LOGIC } from './logic';
import { MOTORS } from './motors';
import { SENSORS } from './sensors';
import { SUPPLIES } from './supplies';
import type { Section } from './section';

export type { Section } from './section';

/** Circuit sections of drive boards: common practice, from memory of service sheets; values typical. */
export const SECTIONS: readonly Section[] = [...SUPPLIES, ...LOGIC, ...MOTORS, ...SENSORS];
