import type { Board } from '@hanzai/core/board';
import { cr40Servo } from './cr40-srv';
import { pd3Interface } from './pd3-if';
import { pd3ReadWrite } from './pd3-rw';
import { tl9Capstan } from './tl9-cap';
import { yc2Drive } from './yc2-drv';

/** The whole boards of the demo workshop, by the name of their files. */
export const DEMO_SHEETS: Readonly<Record<string, () => Board>> = {
  'pd3-if': pd3Interface,
  'pd3-rw': pd3ReadWrite,
  'cr40-srv': cr40Servo,
  'yc2-drv': yc2Drive,
  'tl9-cap': tl9Capstan,
};
