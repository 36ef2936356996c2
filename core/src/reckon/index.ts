import type { DiskGeometry } from '../block';
import { BENCH } from './bench';
import type { Calculator } from './calculator';
import { CHANCE } from './chance';
import { CODES } from './codes';
import { COPPER } from './copper';
import { drive } from './drive';
import { LOGIC } from './logic';
import { NETWORKS } from './networks';
import { PARTS } from './parts';
import { POWER } from './power';

/** Every calculator, in the order of their groups. media: the disk layouts that are known. */
export const calculators = (media: readonly DiskGeometry[]): readonly Calculator[] => [
  ...CODES,
  ...NETWORKS,
  ...PARTS,
  ...LOGIC,
  ...POWER,
  ...COPPER,
  ...CHANCE,
  ...drive(media),
  ...BENCH,
];

export {
  GROUPS,
  NoAnswer,
  type Calculator,
  type Field,
  type FigureUnit,
  type Group,
} from './calculator';
export { figureText, readFigure } from './figures';
export {
  beginning,
  reckon,
  sweep,
  type Answer,
  type AnswerLine,
  type Sweep,
  type Typed,
} from './reckon';
export { hypergeometric } from './chance';
export { readDateCode } from './date-code';
export { readRings, ringsOf } from './rings';
