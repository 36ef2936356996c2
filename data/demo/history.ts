import { partValue, type BoardIndex } from '@hanzai/core/board';
import type { DemoCase, DemoEntry } from './index';

// Forty cases that the Loom Hall closed in two years, made from the rates below, so that patterns and
// the shop’s own figures have something to go by. The same for every seeding.

const HOUR = 60;
const DAY = 24 * HOUR;

/** What a board of the invented workshop dies of. weight: how often, against the others of its board. */
interface End {
  readonly ref: string;
  readonly reason: string;
  readonly weight: number;
}

interface Shelf {
  readonly board: NonNullable<DemoCase['board']>;
  readonly unitType: string;
  readonly unitModel: string;
  readonly short: string;
  readonly serial: string;
  readonly cases: number;
  readonly symptom: string;
  readonly pattern: string;
  readonly stage: string;
  /** The hazard whose charge is read before hands go in. */
  readonly charge?: string;
  readonly ends: readonly End[];
}

/** The rates of which the history is made. Invented, as the workshop is. */
export const HISTORY_RATES: readonly Shelf[] = [
  {
    board: 'pd3Pow',
    unitType: 'powered-board',
    unitModel: 'Ostrel PD-3 power board',
    short: 'PD-3 power board',
    serial: 'PD3',
    cases: 6,
    symptom: 'lamps flicker, dark until it is warm',
    pattern: 'fails-cold',
    stage: 'supply',
    ends: [{ ref: 'C5', reason: 'ESR 3.9 Ω where 0.1 Ω belongs', weight: 1 }],
  },
  {
    board: 'cr40',
    unitType: 'optical-disc-reader',
    unitModel: 'Pellwyn CR-40 card-disc reader',
    short: 'CR-40',
    serial: 'CR40',
    cases: 10,
    symptom: 'nothing moves, tray stays in',
    pattern: 'no-movement',
    stage: 'supply',
    ends: [
      { ref: 'L1', reason: 'joint cracked right round', weight: 45 },
      { ref: 'C1', reason: 'ESR 9 Ω beside 0.2 Ω of its like', weight: 20 },
      { ref: 'S1', reason: 'contact open with the lid down', weight: 20 },
      { ref: 'Q2', reason: 'open from collector to emitter', weight: 15 },
    ],
  },
  {
    board: 'cr40Whole',
    unitType: 'optical-disc-reader',
    unitModel: 'Pellwyn CR-40 card-disc reader',
    short: 'CR-40',
    serial: 'CR40',
    cases: 6,
    symptom: 'speeds up, stops at the third try',
    pattern: 'gives-up-after-three',
    stage: 'lock',
    ends: [
      { ref: 'C42', reason: 'ESR 12 Ω where 0.5 Ω belongs', weight: 50 },
      { ref: 'C40', reason: 'ESR 8 Ω', weight: 30 },
      { ref: 'C41', reason: 'dried, low capacitance', weight: 20 },
    ],
  },
  {
    board: 'yc2',
    unitType: 'stepper-carriage',
    unitModel: 'Brackwater YC-2 yarn-carriage drive',
    short: 'YC-2',
    serial: 'YC2',
    cases: 8,
    symptom: 'loses steps after some minutes',
    pattern: 'loses-steps-warm',
    stage: 'spin',
    charge: 'unit-line-filter',
    ends: [
      { ref: 'C6', reason: 'ESR 7 Ω where 0.2 Ω belongs', weight: 50 },
      { ref: 'C1', reason: 'ESR 2 Ω, crust at its minus', weight: 30 },
      { ref: 'Q2', reason: 'leaky when warm', weight: 20 },
    ],
  },
  {
    board: 'tl9',
    unitType: 'tape-transport',
    unitModel: 'Brackwater TL-9 tape-loop programmer',
    short: 'TL-9',
    serial: 'TL9',
    cases: 6,
    symptom: 'hums, capstan stands',
    pattern: 'hums-stands',
    stage: 'spin',
    ends: [
      { ref: 'C9', reason: 'ESR 6 Ω', weight: 40 },
      { ref: 'Q2', reason: 'short from collector to emitter', weight: 35 },
      { ref: 'C3', reason: 'leaky', weight: 25 },
    ],
  },
  {
    board: 'pd3If',
    unitType: 'flexible-disk-unit',
    unitModel: 'Ostrel PD-3 pattern-disk unit',
    short: 'PD-3',
    serial: 'PD3',
    cases: 4,
    symptom: 'host reports no unit',
    pattern: 'no-device',
    stage: 'host',
    ends: [
      { ref: 'U3', reason: 'output stays low, inputs right', weight: 60 },
      { ref: 'S1', reason: 'contact open', weight: 40 },
    ],
  },
];

/** Share of the cases in which two more parts went on before the unit was tried again. */
const SHARED = 0.25;
/** Share of the units that were given up. */
const GIVEN_UP = 0.07;

const GUARANTEE_DAYS = 180;
const CAME_BACK_AFTER = 50 * DAY;

/** Numbers from 0 to 1, the same in every run. Source: the minimal standard generator, Park and Miller, CACM 31, 1988. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

function pick<T>(of: readonly T[], weight: (one: T) => number, random: () => number): T {
  let left = random() * of.reduce((sum, one) => sum + weight(one), 0);
  return of.find((one) => (left -= weight(one)) <= 0) ?? of.at(-1)!;
}

function valueOf(index: BoardIndex, ref: string): string {
  const [part] = index.replaceable.get(ref) ?? [];
  if (!part) throw new Error(`the history names ${ref}, which its board has not`);
  if (part.kind === 'chip') return part.model.name;
  return part.kind === 'switch' ? 'switch' : partValue(part) || 'as it was';
}

/** The closed cases. boardOf: the newest sheet of a board by its name. */
export function demoHistory(
  boardOf: (name: NonNullable<DemoCase['board']>) => BoardIndex,
): readonly DemoCase[] {
  const random = seeded(20_260_101);
  const owners = [
    'Thistlewick Loom Hall, pattern room 2',
    'Thistlewick Loom Hall, stores',
    'Hollin Weavers\u2019 Circle',
    'Orrin Vale, pattern collector',
    'Mrs A. Penhallow, hand-frame weaver',
  ];
  return HISTORY_RATES.flatMap((shelf, row) => {
    const index = boardOf(shelf.board);
    let last = 0;
    return Array.from({ length: shelf.cases }, (_, i): DemoCase => {
      const end = pick(shelf.ends, ({ weight }) => weight, random);
      const givenUp = shelf.ends.length > 1 && random() < GIVEN_UP;
      const others = shelf.ends.filter(({ ref }) => ref !== end.ref);
      const shared = others.length > 1 && random() < SHARED;
      const parts = shared ? [end, ...others.slice(0, 2)] : [end];
      // The last two of this shelf are one unit that came back within its guarantee.
      const returned = i === shelf.cases - 1 && shelf.board === 'yc2';
      const drawn = Math.round((60 + 660 * random()) * DAY);
      const ago = returned ? last - CAME_BACK_AFTER : drawn;
      last = ago;
      // One row of shelves begins at 200, the next at 201: no two units have one serial number.
      const number = 200 + (row % 7) + (returned ? i - 1 : i) * 7;
      const drawnOwner = owners[Math.floor(random() * owners.length)]!;
      const isBatch = shelf.board === 'pd3Pow' && i < 3;
      return {
        title: `${shelf.short} no. ${number}${returned ? ' again' : ''}, ${shelf.symptom}`,
        unitModel: shelf.unitModel,
        serial: `${shelf.serial}-0${number}`,
        owner: isBatch ? owners[1]! : drawnOwner,
        complaint: shelf.symptom,
        spendingLimit: null,
        waitsFor: '',
        promisedInDays: null,
        board: shelf.board,
        unitType: shelf.unitType,
        ...(isBatch ? { card: { batch: 'stores shelf 2' } } : {}),
        journal: [
          [ago, { kind: 'symptom', text: shelf.symptom }],
          [ago - 3, { kind: 'pattern', name: shelf.pattern }],
          [
            ago - 5,
            {
              kind: 'start',
              failedAt: shelf.stage,
              seconds: 4,
              tries: 1,
              sounds: '',
              conditions: [],
            },
          ],
          [ago - 20, { kind: 'acknowledge-all', who: random() < 0.6 ? 'T. Quill' : 'M. Fenwick' }],
          ...(shelf.charge === undefined
            ? []
            : [[ago - 25, { kind: 'residual', hazard: shelf.charge, volt: 0.6 }] as const]),
          ...(givenUp
            ? ([
                [
                  ago - 60,
                  {
                    kind: 'decision',
                    course: 'give-up',
                    reason: 'the mechanism is worn out as well',
                  },
                ],
                [ago - 65, { kind: 'close', note: 'Given back as it was.' }],
              ] as const)
            : [
                [
                  ago - 40,
                  { kind: 'condemn', ref: end.ref, probability: 0.95, reason: end.reason },
                ] as const,
                [
                  ago - 45,
                  {
                    kind: 'decision',
                    course: shared ? 'like' : 'one',
                    reason: shared ? 'they are of one age' : 'the others read well',
                  },
                ] as const,
                ...parts.flatMap(({ ref }, k) =>
                  changed(ref, valueOf(index, ref), ago - 50 - 12 * k),
                ),
                [ago - 120, { kind: 'proof' }] as const,
                [
                  ago - 200,
                  {
                    kind: 'close',
                    note: 'The parts beside it are as old as it was.',
                    guaranteeDays: GUARANTEE_DAYS,
                    price: 30 + 12 * parts.length,
                  },
                ] as const,
              ]),
        ],
      };
    });
  });
}

function changed(
  ref: string,
  value: string,
  ago: number,
): readonly (readonly [minutes: number, entry: DemoEntry])[] {
  const note = 'new, as the sheet says';
  return [
    [ago, { kind: 'removed', ref, value, note: '' }],
    [ago - 8, { kind: 'fitted', ref, value, polarityChecked: true, note }],
  ];
}
