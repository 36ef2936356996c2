import { readFileSync } from 'node:fs';
import { readBoardFile, type Board } from '@hanzai/core/board';
import { LIBRARY } from '../library/devices';

/** A case of the invented workshop, as data. Times are minutes before the moment of seeding. */
export interface DemoCase {
  readonly title: string;
  readonly unitModel: string;
  readonly serial: string;
  readonly owner: string;
  readonly complaint: string;
  readonly spendingLimit: string | null;
  readonly waitsFor: string;
  readonly promisedInDays: number | null;
  readonly board: keyof typeof DEMO_BOARD_FILES | null;
  /** [minutes ago, entry without id and time] in order. `proof` stands for the healthy readings that prove the repair. */
  readonly journal: readonly (readonly [number, DemoEntry])[];
}

export type DemoEntry =
  | { readonly kind: 'symptom'; readonly text: string }
  | { readonly kind: 'finding'; readonly text: string; readonly ref?: string }
  | { readonly kind: 'reading'; readonly typed: string }
  | { readonly kind: 'condemn'; readonly ref: string; readonly probability: number; readonly reason: string }
  | { readonly kind: 'removed'; readonly ref: string; readonly value: string; readonly note: string }
  | { readonly kind: 'fitted'; readonly ref: string; readonly value: string; readonly polarityChecked: boolean; readonly note: string }
  | { readonly kind: 'proof' }
  | { readonly kind: 'close'; readonly note: string };

/** Board sheets of the demo workshop: single sheets as decks with their outlines in mm, whole boards as Board JSON. */
export const DEMO_BOARD_FILES = {
  cr40: { file: 'cr40-srv-supply.cir', width: 94, height: 66 },
  yc2: { file: 'yc2-drv-rail12.cir', width: 100, height: 36 },
  pd3If: { file: 'pd3-if.json' },
  pd3Rw: { file: 'pd3-rw.json' },
  cr40Whole: { file: 'cr40-srv.json' },
  yc2Whole: { file: 'yc2-drv.json' },
  tl9: { file: 'tl9-cap.json' },
} as const;

/** Reads a demo board. Throws where the shipped file is broken: that would be our own mistake. */
export function demoBoard(name: keyof typeof DEMO_BOARD_FILES): Board {
  const found = DEMO_BOARD_FILES[name];
  const result = readBoardFile(found.file, readFileSync(new URL(`./boards/${found.file}`, import.meta.url), 'utf8'), LIBRARY);
  if (!result.ok) throw new Error(`${found.file}: ${JSON.stringify(result.issues)}`);
  return 'width' in found ? { ...result.value, outlineMm: { width: found.width, height: found.height } } : result.value;
}

const DAY = 24 * 60;

export const DEMO_CASES: readonly DemoCase[] = [
  {
    title: 'CR-40 card-disc reader, no movement and no eject',
    unitModel: 'Pellwyn CR-40 card-disc reader', serial: 'CR40-0417', owner: 'Thistlewick Loom Hall, pattern room 2',
    complaint: 'Was fine at the spring show. Now the tray will not come out and nothing turns when the lid is closed. The little lamp is on.',
    spendingLimit: '120.00', waitsFor: '', promisedInDays: 9, board: 'cr40',
    journal: [
      [2 * DAY, { kind: 'symptom', text: 'no movement: disc does not turn when the lid is closed' }],
      [2 * DAY - 1, { kind: 'symptom', text: 'no eject: the button does nothing' }],
      [2 * DAY - 2, { kind: 'finding', text: 'power lamp lit and steady' }],
      [90, { kind: 'reading', typed: 'p5 5.01' }],
      [88, { kind: 'reading', typed: 'vm 0.01' }],
    ],
  },
  {
    title: 'YC-2 yarn-carriage drive, carriage loses steps when warm',
    unitModel: 'Brackwater YC-2 yarn-carriage drive', serial: 'YC2-112', owner: 'Mrs A. Penhallow, hand-frame weaver',
    complaint: 'Runs for ten minutes, then the carriage stops short and buzzes.',
    spendingLimit: '80.00', waitsFor: 'C6, 100u 16V, ordered', promisedInDays: 16, board: 'yc2',
    journal: [
      [6 * DAY, { kind: 'symptom', text: 'carriage loses steps after ten minutes' }],
      [6 * DAY - 4, { kind: 'reading', typed: 'v12 11.9' }],
      [6 * DAY - 7, { kind: 'reading', typed: 'c4 .08 esr' }],
      [6 * DAY - 9, { kind: 'reading', typed: 'c6 8.4 esr' }],
      [6 * DAY - 12, { kind: 'condemn', ref: 'C6', probability: 0.97, reason: 'ESR 8.4 Ω where 0.2 Ω belongs' }],
      [6 * DAY - 20, { kind: 'removed', ref: 'C6', value: '100u 16V', note: 'crust at the minus leg, pad whole' }],
    ],
  },
  {
    title: 'PD-3 pattern-disk unit, lamps steady, no boot',
    unitModel: 'Ostrel PD-3 pattern-disk unit', serial: 'PD3-0093', owner: 'Thistlewick Loom Hall, stores',
    complaint: 'Nineteen years in the stores. All three lamps come on and stay on.',
    spendingLimit: null, waitsFor: '', promisedInDays: null, board: 'pd3If',
    journal: [
      [DAY, { kind: 'symptom', text: 'all three lamps steady, no blink code, no boot' }],
      [64, { kind: 'reading', typed: 'p5 4.9' }],
      [61, { kind: 'reading', typed: 'res lo' }],
      [58, { kind: 'reading', typed: 'a0 hi' }],
    ],
  },
  {
    title: 'CR-40 card-disc reader, dead after a jolt',
    unitModel: 'Pellwyn CR-40 card-disc reader', serial: 'CR40-0388', owner: 'Orrin Vale, pattern collector',
    complaint: 'Slid off the bench. Since then nothing moves.',
    spendingLimit: '90.00', waitsFor: '', promisedInDays: -20, board: 'cr40',
    journal: [
      [31 * DAY, { kind: 'symptom', text: 'no movement at all after a drop' }],
      [31 * DAY - 3, { kind: 'finding', text: 'ring around one leg of the choke', ref: 'L1' }],
      [31 * DAY - 6, { kind: 'reading', typed: 'p9f 8.99' }],
      [31 * DAY - 8, { kind: 'reading', typed: 'vm 0.006' }],
      [31 * DAY - 12, { kind: 'reading', typed: 'l1.1 l1.2 .4r' }],
      [31 * DAY - 14, { kind: 'reading', typed: 'p9f vm ol' }],
      [31 * DAY - 18, { kind: 'condemn', ref: 'L1', probability: 0.98, reason: 'the choke is whole, its joint is not' }],
      [31 * DAY - 24, { kind: 'removed', ref: 'L1', value: '47u', note: 'lifted out, joint cracked right round' }],
      [31 * DAY - 30, { kind: 'fitted', ref: 'L1', value: '47u', polarityChecked: false, note: 'same part, legs cleaned, fresh solder' }],
      [31 * DAY - 40, { kind: 'proof' }],
      [31 * DAY - 50, { kind: 'close', note: 'Collected. Told the owner that the motor capacitors are of the same age.' }],
    ],
  },
]; // prettier-ignore
