import { readFileSync } from 'node:fs';
import type { FindingKind, OpenUpStep } from '@hanzai/core/bench';
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
  readonly board: keyof typeof DEMO_BOARD_FILES | keyof typeof DEMO_SHEETS | null;
  /** Name of its unit model, and what else stands on the card. */
  readonly unitType: string;
  readonly card?: Partial<
    Record<
      | 'waitsKind'
      | 'accessories'
      | 'stuckInside'
      | 'causeOfDeath'
      | 'earlierVisitors'
      | 'mediaNote'
      | 'batch',
      string
    >
  >;
  /**
   * [minutes ago, entry without id and time] in order. `proof` stands for the healthy readings that
   * prove the repair.
   */
  readonly journal: readonly (readonly [number, DemoEntry])[];
}

export type DemoEntry =
  | { readonly kind: 'symptom'; readonly text: string }
  | { readonly kind: 'finding'; readonly text: string; readonly ref?: string }
  | { readonly kind: 'reading'; readonly typed: string }
  | { readonly kind: 'rail'; readonly net: string; readonly volt: number }
  | {
      readonly kind: 'condemn';
      readonly ref: string;
      readonly probability: number;
      readonly reason: string;
    }
  | {
      readonly kind: 'removed';
      readonly ref: string;
      readonly value: string;
      readonly note: string;
    }
  | {
      readonly kind: 'fitted';
      readonly ref: string;
      readonly value: string;
      readonly polarityChecked: boolean;
      readonly note: string;
    }
  | { readonly kind: 'proof' }
  | {
      readonly kind: 'close';
      readonly note: string;
      readonly guaranteeDays?: number;
      readonly price?: number;
    }
  | {
      readonly kind: 'start';
      readonly failedAt: string | null;
      readonly seconds?: number;
      readonly tries: number;
      readonly sounds: string;
      readonly conditions: string[];
    }
  | { readonly kind: 'code'; readonly code: string }
  | { readonly kind: 'pattern'; readonly name: string }
  | {
      readonly kind: 'trial';
      readonly title: string;
      readonly exercised: string[];
      readonly passed: number;
      readonly failed: number;
      readonly note: string;
    }
  | {
      readonly kind: 'check';
      readonly title: string;
      readonly block: string;
      readonly good: boolean;
    }
  /** Every hazard of the case as it stands then. */
  | {
      readonly kind: 'acknowledge-all';
      readonly who: string;
      /** Of those that only a look tells: the ones that this unit has. */
      readonly has?: readonly string[];
    }
  | { readonly kind: 'residual'; readonly hazard: string; readonly volt: number }
  | { readonly kind: 'step'; readonly step: OpenUpStep }
  /** Pieces of the n-th step, counted from 0, go back on. */
  | { readonly kind: 'back-of'; readonly step: number; readonly count: number }
  | {
      readonly kind: 'seen';
      readonly what: FindingKind;
      readonly text: string;
      readonly sizeMm: number;
      readonly certainty: number;
      readonly at?: { readonly xMm: number; readonly yMm: number };
    }
  | {
      readonly kind: 'aid';
      readonly name: string;
      readonly title: string;
      readonly block: string;
      readonly cures: number;
    }
  /** A drawn picture of the demo, with notes at places 0 to 1 from left and top. */
  | {
      readonly kind: 'picture-file';
      readonly file: string;
      readonly title: string;
      readonly of: 'condition' | 'inside' | 'board';
      readonly pins: readonly (readonly [number, number, string])[];
    }
  | {
      readonly kind: 'timer';
      readonly what: 'soak' | 'bleach' | 'glue' | 'burn-in' | 'other';
      readonly title: string;
      readonly hours: number;
    }
  /** Hours of daylight for the last timer. */
  | { readonly kind: 'daylight-of-last'; readonly hours: number }
  | {
      readonly kind: 'asFound';
      readonly ref: string;
      readonly reading?: number;
      readonly unit: '' | 'ohm' | 'V';
      readonly mark: string;
      readonly reason: string;
    }
  | {
      readonly kind: 'turned';
      readonly ref: string;
      readonly degrees: number;
      readonly reading?: number;
      readonly reads?: 0 | 1 | 2 | 3;
      readonly errors?: number;
      readonly live: boolean;
      readonly reason: string;
    }
  | {
      readonly kind: 'decision';
      readonly course: 'go-on' | 'donor' | 'give-up' | 'one' | 'like';
      readonly reason: string;
    }
  | { readonly kind: 'pause'; readonly where: string };

/**
 * Board sheets of the demo workshop: single sheets as decks with their outlines in mm, whole boards
 * as Board JSON.
 */
export const DEMO_BOARD_FILES = {
  cr40: { file: 'cr40-srv-supply.cir', width: 94, height: 66 },
  yc2: { file: 'yc2-drv-rail12.cir', width: 100, height: 36 },
  pd3If: { file: 'pd3-if.json' },
  pd3Rw: { file: 'pd3-rw.json' },
  cr40Whole: { file: 'cr40-srv.json' },
  yc2Whole: { file: 'yc2-drv.json' },
  tl9: { file: 'tl9-cap.json' },
} as const;

/**
 * Sheets of the demo workshop that were written at the bench, with their versions, the oldest first:
 * one grown by beeps, one put together from the library of sections.
 */
export const DEMO_SHEETS = {
  tl9Box: ['tl9-box-1.sheet', 'tl9-box.sheet'],
  pd3Pow: ['pd3-pow.sheet'],
} as const;

/** Reads one version of a bench sheet of the demo. */
export function demoSheet(file: string): Board {
  const text = readFileSync(new URL(`./boards/${file}`, import.meta.url), 'utf8');
  const result = readBoardFile(file, text, LIBRARY);
  if (!result.ok) throw new Error(`${file}: ${JSON.stringify(result.issues)}`);
  return result.value;
}

/** Reads a demo board. Throws where the shipped file is broken: that would be our own mistake. */
export function demoBoard(name: keyof typeof DEMO_BOARD_FILES): Board {
  const found = DEMO_BOARD_FILES[name];
  const result = readBoardFile(
    found.file,
    readFileSync(new URL(`./boards/${found.file}`, import.meta.url), 'utf8'),
    LIBRARY,
  );
  if (!result.ok) throw new Error(`${found.file}: ${JSON.stringify(result.issues)}`);
  return 'width' in found
    ? { ...result.value, outlineMm: { width: found.width, height: found.height } }
    : result.value;
}

/** A drawn picture of the demo workshop, JPEG. */
export function demoPicture(file: string): Uint8Array {
  return readFileSync(new URL(`./pictures/${file}`, import.meta.url));
}

const DAY = 24 * 60;

const step = (
  what: OpenUpStep['what'],
  of: string,
  name: string,
  more: Partial<OpenUpStep> = {},
): DemoEntry => ({
  kind: 'step',
  step: { what, of, name, count: 1, way: '', frees: [], forTest: false, note: '', ...more },
});

/** Codes that the workshop wrote down for units of its own, each for that unit only. */
// prettier-ignore
export const DEMO_CODES: readonly { readonly unitType: string; readonly unitModel: string; readonly code: string; readonly stage: string; readonly meaning: string }[] = [
  ...[
    ['1', 'boot', 'memory test failed'], ['2', 'boot', 'program memory wrong'], ['3', 'home', 'home not found'],
  ].map(([code, stage, meaning]) => ({ unitType: 'flexible-disk-unit', unitModel: 'Ostrel PD-3 pattern-disk unit', code: code!, stage: stage!, meaning: meaning! })),
  ...[
    ['E1', 'focus', 'no focus found'], ['E2', 'spin', 'spindle does not come up to speed'], ['E3', 'lock', 'speed loop does not lock'], ['E4', 'read', 'data cannot be read'],
  ].map(([code, stage, meaning]) => ({ unitType: 'optical-disc-reader', unitModel: 'Pellwyn CR-40 card-disc reader', code: code!, stage: stage!, meaning: meaning! })),
];

// prettier-ignore
export const DEMO_CASES: readonly DemoCase[] = [
  {
    title: 'CR-40 card-disc reader, no movement and no eject',
    unitModel: 'Pellwyn CR-40 card-disc reader', serial: 'CR40-0417', owner: 'Thistlewick Loom Hall, pattern room 2',
    complaint: 'Was fine at the spring show. Now the tray will not come out and nothing turns when the lid is closed. The little lamp is on.',
    spendingLimit: '120.00', waitsFor: '', promisedInDays: 9, board: 'cr40', unitType: 'optical-disc-reader',
    card: { accessories: 'mains lead, one card disc in the tray', stuckInside: 'card disc 14, tray will not open', mediaNote: 'the disc is the hall\u2019s own pattern: may be read to test' },
    journal: [
      [2 * DAY, { kind: 'symptom', text: 'no movement: disc does not turn when the lid is closed' }],
      [2 * DAY - 1, { kind: 'symptom', text: 'no eject: the button does nothing' }],
      [2 * DAY - 2, { kind: 'finding', text: 'power lamp lit and steady' }],
      [2 * DAY - 3, { kind: 'start', failedAt: 'home', seconds: 4, tries: 1, sounds: 'silence', conditions: [] }],
      [2 * DAY - 4, { kind: 'pattern', name: 'no-movement' }],
      [95, { kind: 'acknowledge-all', who: 'T. Quill' }],
      [90, { kind: 'reading', typed: 'p5 5.01' }],
      [88, { kind: 'reading', typed: 'vm 0.01' }],
    ],
  },
  {
    title: 'YC-2 yarn-carriage drive, carriage loses steps when warm',
    unitModel: 'Brackwater YC-2 yarn-carriage drive', serial: 'YC2-112', owner: 'Mrs A. Penhallow, hand-frame weaver',
    complaint: 'Runs for ten minutes, then the carriage stops short and buzzes.',
    spendingLimit: '80.00', waitsFor: 'C6, 100u 16V, ordered', promisedInDays: 16, board: 'yc2', unitType: 'stepper-carriage',
    card: { waitsKind: 'part', earlierVisitors: 'one screw of the cover is new' },
    journal: [
      [6 * DAY, { kind: 'symptom', text: 'carriage loses steps after ten minutes' }],
      [6 * DAY - 1, { kind: 'start', failedAt: null, tries: 1, sounds: 'even hum', conditions: ['cold'] }],
      [6 * DAY - 1, { kind: 'start', failedAt: 'spin', seconds: 640, tries: 1, sounds: 'buzz', conditions: ['warm'] }],
      [6 * DAY - 1, { kind: 'start', failedAt: null, tries: 1, sounds: '', conditions: ['cold'] }],
      [6 * DAY - 2, { kind: 'start', failedAt: 'spin', seconds: 580, tries: 1, sounds: 'buzz', conditions: ['warm'] }],
      [6 * DAY - 2, { kind: 'pattern', name: 'loses-steps-warm' }],
      [6 * DAY - 2, { kind: 'picture-file', file: 'yc2-board.jpg', title: 'driver board', of: 'board', pins: [[0.7, 0.2, 'green crust at C6']] }],
      [6 * DAY - 3, { kind: 'acknowledge-all', who: 'T. Quill' }],
      [6 * DAY - 3, { kind: 'seen', what: 'crust', text: 'green at the minus leg of C6', sizeMm: 4, certainty: 1, at: { xMm: 78, yMm: 21 } }],
      [6 * DAY - 4, { kind: 'reading', typed: 'v12 11.9' }],
      [6 * DAY - 5, { kind: 'residual', hazard: 'unit-line-filter', volt: 0.6 }],
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
    spendingLimit: null, waitsFor: '', promisedInDays: null, board: 'pd3If', unitType: 'flexible-disk-unit',
    card: { causeOfDeath: 'nineteen years of storage', batch: 'stores shelf 3' },
    journal: [
      [DAY, { kind: 'symptom', text: 'all three lamps steady, no blink code, no boot' }],
      [DAY - 1, { kind: 'start', failedAt: 'boot', seconds: 2, tries: 3, sounds: 'spindle starts, stops', conditions: ['no-host'] }],
      [DAY - 2, { kind: 'pattern', name: 'lamps-steady' }],
      [DAY - 3, { kind: 'check', title: 'heads: continuity to the centre tap', block: 'heads', good: true }],
      [70, { kind: 'acknowledge-all', who: 'M. Fenwick' }],
      [64, { kind: 'reading', typed: 'p5 4.9' }],
      [61, { kind: 'reading', typed: 'res lo' }],
      [58, { kind: 'reading', typed: 'a0 hi' }],
    ],
  },
  {
    title: 'CR-40 card-disc reader, dead after a jolt',
    unitModel: 'Pellwyn CR-40 card-disc reader', serial: 'CR40-0388', owner: 'Orrin Vale, pattern collector',
    complaint: 'Slid off the bench. Since then nothing moves.',
    spendingLimit: '90.00', waitsFor: '', promisedInDays: -20, board: 'cr40', unitType: 'optical-disc-reader',
    journal: [
      [31 * DAY, { kind: 'symptom', text: 'no movement at all after a drop' }],
      [31 * DAY - 3, { kind: 'finding', text: 'ring around one leg of the choke', ref: 'L1' }],
      [31 * DAY - 5, { kind: 'acknowledge-all', who: 'T. Quill' }],
      [31 * DAY - 6, { kind: 'reading', typed: 'p9f 8.99' }],
      [31 * DAY - 8, { kind: 'reading', typed: 'vm 0.006' }],
      [31 * DAY - 12, { kind: 'reading', typed: 'l1.1 l1.2 .4r' }],
      [31 * DAY - 14, { kind: 'reading', typed: 'f1.2 l1.1 open' }],
      [31 * DAY - 18, { kind: 'condemn', ref: 'L1', probability: 0.98, reason: 'the choke is whole, its joint is not' }],
      [31 * DAY - 24, { kind: 'removed', ref: 'L1', value: '47u', note: 'lifted out, joint cracked right round' }],
      [31 * DAY - 30, { kind: 'fitted', ref: 'L1', value: '47u', polarityChecked: false, note: 'same part, legs cleaned, fresh solder' }],
      [31 * DAY - 40, { kind: 'proof' }],
      [31 * DAY - 50, { kind: 'close', note: 'The motor capacitors are of the same age.' }],
    ],
  },
  {
    title: 'CR-40 card-disc reader, gives up after three tries',
    unitModel: 'Pellwyn CR-40 card-disc reader', serial: 'CR40-0431', owner: 'Thistlewick Loom Hall, demonstration floor',
    complaint: 'Sees the disc, speeds up, gives up after three tries. Worse when it has stood a while.',
    spendingLimit: '150.00', waitsFor: '', promisedInDays: 2, board: 'cr40', unitType: 'optical-disc-reader',
    card: { accessories: 'remote cord', earlierVisitors: 'one screw of the lid missing, seal broken', mediaNote: 'no medium came with it' },
    journal: [
      [3 * DAY, { kind: 'symptom', text: 'spins up, hunts, gives up after three tries' }],
      [3 * DAY - 2, { kind: 'picture-file', file: 'cr40-from-above.jpg', title: 'as it came, from above', of: 'condition', pins: [[0.85, 0.84, 'screw missing here'], [0.66, 0.3, 'scratch, was there before']] }],
      [3 * DAY - 4, { kind: 'start', failedAt: 'lock', seconds: 21, tries: 3, sounds: 'rising whine', conditions: ['cold'] }],
      [3 * DAY - 6, { kind: 'start', failedAt: 'lock', seconds: 19, tries: 3, sounds: 'rising whine', conditions: ['cold'] }],
      [3 * DAY - 9, { kind: 'start', failedAt: null, seconds: 9, tries: 1, sounds: '', conditions: ['warm'] }],
      [3 * DAY - 12, { kind: 'start', failedAt: 'lock', seconds: 22, tries: 3, sounds: 'whine', conditions: ['cold', 'lid off'] }],
      [3 * DAY - 14, { kind: 'start', failedAt: null, seconds: 8, tries: 2, sounds: '', conditions: ['warm', 'lid off'] }],
      [3 * DAY - 15, { kind: 'code', code: 'E3' }],
      [3 * DAY - 16, { kind: 'pattern', name: 'gives-up-after-three' }],
      [3 * DAY - 18, { kind: 'check', title: 'spindle turns freely by hand', block: 'spindle', good: true }],
      [3 * DAY - 22, { kind: 'trial', title: 'a known-good disc in this unit', exercised: ['supply', 'boot', 'tray', 'sled', 'laser', 'lens', 'servo-capacitors', 'spindle', 'series-array', 'flex'], passed: 0, failed: 2, note: 'fails the same way' }],
      [190, { kind: 'acknowledge-all', who: 'T. Quill' }],
      [185, step('fastener', 'lid', 'M3 pan', { lengthMm: 6, count: 3, place: { x: 0.15, y: 0.16 } })],
      [184, step('empty-hole', 'lid', 'fourth hole', { place: { x: 0.85, y: 0.84 }, note: 'came without its screw: ask the owner' })],
      [183, step('lift', 'lid', '', { frees: ['J1.1', 'F1', 'S1'] })],
      [181, step('flex', 'pickup', 'pickup flex', { way: 'slide the latch', forTest: true, note: 'short the laser flex before it is pulled' })],
      [180, step('plug', 'board', 'P2 motors', { way: 'pull by the moving half', forTest: true })],
      [178, step('fastener', 'board', 'M3 pan', { lengthMm: 10, count: 2, forTest: true, note: 'one carries the ground tag' })],
      [176, step('lift', 'board', '', { frees: ['board'] })],
      [170, { kind: 'picture-file', file: 'cr40-board.jpg', title: 'board, parts side', of: 'board', pins: [[0.4, 0.3, 'brown run below C1']] }],
      [166, { kind: 'seen', what: 'leak', text: 'electrolyte under C1, run towards D1', sizeMm: 5, certainty: 0.9, at: { xMm: 38, yMm: 15 } }],
      [164, { kind: 'seen', what: 'cracked-joint', text: 'ring round a leg of L1', sizeMm: 1.5, certainty: 0.5, at: { xMm: 28, yMm: 14 } }],
      [150, { kind: 'aid', name: 'clean-lens', title: 'clean the lens with a dry swab', block: 'lens', cures: 0.5 }],
      [146, { kind: 'start', failedAt: 'lock', seconds: 20, tries: 3, sounds: 'whine', conditions: ['cold'] }],
      [140, { kind: 'pause', where: 'board out on the mat, leak under C1 to be washed before ESR' }],
    ],
  },
  {
    title: 'TL-9 tape-loop programmer, hums and stands',
    unitModel: 'Brackwater TL-9 tape-loop programmer', serial: 'TL9-021', owner: 'Hollin Weavers\u2019 Circle',
    complaint: 'Hums when it is switched on, the loop stands still. The cover has gone yellow, could it be made white again?',
    spendingLimit: '110.00', waitsFor: 'cover in the sun', promisedInDays: 12, board: 'tl9', unitType: 'tape-transport',
    card: { waitsKind: 'timer', accessories: 'two loops in a tin', mediaNote: 'loops are patterns of the circle: do not copy' },
    journal: [
      [4 * DAY, { kind: 'symptom', text: 'hums, capstan stands' }],
      [4 * DAY - 2, { kind: 'start', failedAt: 'spin', seconds: 3, tries: 1, sounds: 'hum', conditions: ['no-load'] }],
      [4 * DAY - 3, { kind: 'pattern', name: 'hums-stands' }],
      [4 * DAY - 5, { kind: 'timer', what: 'bleach', title: 'cover, peroxide cream', hours: 30 }],
      [3 * DAY, { kind: 'daylight-of-last', hours: 7 }],
      [2 * DAY, { kind: 'daylight-of-last', hours: 6.5 }],
      [DAY, { kind: 'acknowledge-all', who: 'M. Fenwick' }],
      [DAY - 4, { kind: 'aid', name: 'turn-motor', title: 'turn the capstan by hand, both ways', block: 'motor', cures: 0.1 }],
      [DAY - 6, { kind: 'start', failedAt: 'spin', seconds: 3, tries: 2, sounds: 'hum', conditions: ['no-load'] }],
    ],
  },
  {
    title: 'PD-3 pattern-disk unit, host says no unit',
    unitModel: 'Ostrel PD-3 pattern-disk unit', serial: 'PD3-0101', owner: 'Thistlewick Loom Hall, stores',
    complaint: 'From the same shelf. Lamps are right, the host does not see it.',
    spendingLimit: null, waitsFor: '', promisedInDays: null, board: 'pd3If', unitType: 'flexible-disk-unit',
    card: { causeOfDeath: 'nineteen years of storage', batch: 'stores shelf 3' },
    journal: [
      [DAY, { kind: 'symptom', text: 'host reports no unit; lamps on, off after 3 s, ready' }],
      [DAY - 2, { kind: 'start', failedAt: 'host', seconds: 5, tries: 2, sounds: 'homes, spins', conditions: [] }],
      [DAY - 3, { kind: 'pattern', name: 'no-device' }],
      [DAY - 8, { kind: 'trial', title: 'this unit\u2019s cable on a known-good unit', exercised: ['cable'], passed: 2, failed: 0, note: '' }],
    ],
  },
  {
    title: 'YC-2 row counter box, dead, no sheet',
    unitModel: 'Brackwater YC-2 row counter box', serial: '', owner: 'Mrs A. Penhallow, hand-frame weaver',
    complaint: 'The box beside the frame shows nothing any more. It has its own plug.',
    spendingLimit: '35.00', waitsFor: '', promisedInDays: null, board: null, unitType: 'powered-board',
    journal: [
      [5 * DAY, { kind: 'symptom', text: 'no figures, no lamp' }],
      [5 * DAY - 1, { kind: 'start', failedAt: 'supply', seconds: 1, tries: 2, sounds: 'silence', conditions: [] }],
      [300, { kind: 'acknowledge-all', who: 'M. Fenwick' }],
      [290, { kind: 'rail', net: 'P5', volt: 5 }],
      [288, { kind: 'reading', typed: 'p5 2.1' }],
      [285, { kind: 'reading', typed: 'u1.1 9.4' }],
      [282, { kind: 'reading', typed: 'c3 14 esr' }],
    ],
  },
  {
    title: 'TL-9 remote box, keys do nothing',
    unitModel: 'Brackwater TL-9 remote box', serial: 'TL9B-031', owner: 'Thistlewick Loom Hall, listening room',
    complaint: 'The box on the long lead. Its lamp is dark and no key does anything.',
    spendingLimit: '40.00', waitsFor: '', promisedInDays: 14, board: 'tl9Box', unitType: 'powered-board',
    journal: [
      [3 * DAY, { kind: 'symptom', text: 'no key does anything, lamp dark' }],
      [3 * DAY - 1, { kind: 'start', failedAt: 'supply', seconds: 1, tries: 1, sounds: 'silence', conditions: [] }],
      [200, { kind: 'acknowledge-all', who: 'T. Quill' }],
      [190, { kind: 'reading', typed: 'p5 4.98' }],
      [188, { kind: 'reading', typed: 'n1 0.02' }],
    ],
  },
  {
    title: 'PD-3 power board, both lamps dark',
    unitModel: 'Ostrel PD-3 power board', serial: 'PD3-0110', owner: 'Thistlewick Loom Hall, stores',
    complaint: 'Power board out of a unit that was taken for parts. Should be kept as a spare.',
    spendingLimit: '25.00', waitsFor: '', promisedInDays: null, board: 'pd3Pow', unitType: 'powered-board',
    journal: [
      [4 * DAY, { kind: 'symptom', text: 'no lamp' }],
      [4 * DAY - 1, { kind: 'start', failedAt: 'supply', seconds: 1, tries: 1, sounds: 'transformer hums', conditions: [] }],
    ],
  },
  {
    title: 'CR-40 card-disc reader, new capacitors, still hunts',
    unitModel: 'Pellwyn CR-40 card-disc reader', serial: 'CR40-0412', owner: 'Thistlewick Loom Hall, demonstration floor',
    complaint: 'Capacitors of the servo were replaced last month. Finds the disc, loses it again.',
    spendingLimit: '90.00', waitsFor: '', promisedInDays: 6, board: 'cr40Whole', unitType: 'optical-disc-reader',
    journal: [
      [2 * DAY, { kind: 'symptom', text: 'reads the first pattern, then hunts' }],
      [2 * DAY - 4, { kind: 'start', failedAt: 'lock', seconds: 14, tries: 2, sounds: 'hunts', conditions: ['warm'] }],
      [160, { kind: 'acknowledge-all', who: 'T. Quill' }],
      [150, { kind: 'reading', typed: 'c1 0.07 esr' }],
      [120, { kind: 'asFound', ref: 'spindle phase', reading: 1520, unit: 'ohm', mark: 'scribe line at the slot, four o\u2019clock', reason: '' }],
      [118, { kind: 'asFound', ref: 'focus offset', reading: 520, unit: 'ohm', mark: 'pencil line, slot level', reason: '' }],
      [110, { kind: 'turned', ref: 'spindle phase', degrees: 20, reading: 1640, reads: 1, errors: 14, live: true, reason: '' }],
      [104, { kind: 'turned', ref: 'spindle phase', degrees: 20, reading: 1770, reads: 1, errors: 31, live: true, reason: '' }],
      [100, { kind: 'turned', ref: 'spindle phase', degrees: -20, reading: 1640, reads: 1, errors: 13, live: true, reason: '' }],
      [94, { kind: 'turned', ref: 'focus offset', degrees: -20, reading: 480, reads: 2, errors: 9, live: true, reason: '' }],
    ],
  },
  {
    title: 'PD-3 pattern-disk unit, both heads open',
    unitModel: 'Ostrel PD-3 pattern-disk unit', serial: 'PD3-0077', owner: 'Thistlewick Loom Hall, stores',
    complaint: 'Homes, then read errors on every disk. Last of the shelf.',
    spendingLimit: null, waitsFor: '', promisedInDays: null, board: 'pd3Rw', unitType: 'flexible-disk-unit',
    card: { causeOfDeath: 'nineteen years of storage', batch: 'stores shelf 3' },
    journal: [
      [6 * DAY, { kind: 'symptom', text: 'homes, then read error on every disk' }],
      [6 * DAY - 3, { kind: 'start', failedAt: 'read', seconds: 6, tries: 3, sounds: 'homes, spins', conditions: ['no-host'] }],
      [6 * DAY - 8, { kind: 'acknowledge-all', who: 'M. Fenwick' }],
      [6 * DAY - 12, { kind: 'check', title: 'heads: continuity to the centre tap', block: 'heads', good: false }],
      [5 * DAY, { kind: 'decision', course: 'give-up', reason: 'both heads open at the coil: the mechanism is finished' }],
    ],
  },
];

export { demoHistory, HISTORY_RATES } from './history';
export { DEMO_STOCK, type DemoLot } from './stock';
