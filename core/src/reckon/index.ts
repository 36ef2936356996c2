import type { DiskGeometry } from '../block';
import type { Calculator } from './calculator';
import { CHANCE } from './chance';
import { CODES } from './codes';
import { COPPER } from './copper';
import { DILUTION, drive, WIRING } from './drive';
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
  DILUTION,
  WIRING,
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
export { nearestPair, readDateCode, readRings, ringsOf } from './codes';
