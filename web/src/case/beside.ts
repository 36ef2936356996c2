import { z } from 'zod';
import { nameKey } from '@hanzai/core/board';
import { compareSister } from '@hanzai/core/diagnosis';
import { valueText } from './wording';

/** A reading of another case at a point, as the server sends it. */
export const BesideReading = z.object({
  number: z.number().int(),
  setup: z.string(),
  quantity: z.string(),
  at: z.string(),
  to: z.string(),
  value: z.union([z.number(), z.string()]),
  /** Taken after the last repair of a case that was closed as proven. */
  good: z.boolean(),
});
export type BesideReading = z.infer<typeof BesideReading>;

/** A point of a reading as a key: names compare without regard to case. */
export function besideKey(r: Pick<BesideReading, 'setup' | 'quantity' | 'at' | 'to'>): string {
  return [r.setup, r.quantity, nameKey(r.at), nameKey(r.to)].join('|');
}

/** What other boards of this kind showed at a point. */
export interface Beside {
  /** `4.98 V to 5.02 V`, `beep`, `0 or 1`. */
  readonly good: string;
  readonly goodCount: number;
  readonly others: string;
  readonly othersCount: number;
  /**
   * How an own reading lies beside the good boards, else beside the others; undefined where there is
   * none to lie beside, or none stands out.
   */
  readonly standsOut: (value: number | string) => 'higher' | 'lower' | 'other' | undefined;
}

/** Volts and amperes nearer than this are alike whatever their ratio. From memory of bench practice. */
const FLOOR: Readonly<Record<string, number>> = { voltage: 0.1, diode: 0.05, current: 0.005 };
/** Volts that differ by less than this share are like each other: supplies are made to some percent. */
const VOLTS_ALIKE = 0.1;

/** What was read at each point on other boards of this kind, by `besideKey`. */
export function besideBy(readings: readonly BesideReading[]): ReadonlyMap<string, Beside> {
  const byPoint = new Map<string, BesideReading[]>();
  for (const reading of readings) {
    const key = besideKey(reading);
    const list = byPoint.get(key);
    if (list) list.push(reading);
    else byPoint.set(key, [reading]);
  }
  return new Map([...byPoint].map(([key, list]) => [key, besideOf(list)]));
}

function besideOf(list: readonly BesideReading[]): Beside {
  const [good, others] = [list.filter((one) => one.good), list.filter((one) => !one.good)];
  const quantity = list[0]!.quantity;
  const reference = good.length > 0 ? good : others;
  return {
    good: spanOf(good),
    goodCount: new Set(good.map(({ number }) => number)).size,
    others: spanOf(others),
    othersCount: new Set(others.map(({ number }) => number)).size,
    standsOut: (value) => standing(value, reference, quantity, good.length > 0),
  };
}

/** Two cases with a fault say little of what is right: as many are asked for where none is good. */
const LEAST_OTHERS = 3;

function standing(
  value: number | string,
  reference: readonly BesideReading[],
  quantity: string,
  areGood: boolean,
): 'higher' | 'lower' | 'other' | undefined {
  if (reference.length === 0 || (!areGood && reference.length < LEAST_OTHERS)) return undefined;
  const numbers = reference.flatMap(({ value: one }) => (typeof one === 'number' ? [one] : []));
  if (typeof value !== 'number')
    return reference.some((one) => one.value === value) ? undefined : 'other';
  if (numbers.length === 0) return 'other';
  if (quantity === 'voltage' || quantity === 'diode' || quantity === 'current') {
    const [least, most] = [Math.min(...numbers), Math.max(...numbers)];
    const room = Math.max(
      FLOOR[quantity]!,
      VOLTS_ALIKE * Math.max(Math.abs(least), Math.abs(most)),
    );
    if (value > most + room) return 'higher';
    return value < least - room ? 'lower' : undefined;
  }
  const { verdict } = compareSister(value, numbers);
  return verdict === 'like the others' ? undefined : verdict;
}

function spanOf(list: readonly BesideReading[]): string {
  const [first] = list;
  if (!first) return '';
  const kind = first.quantity as Parameters<typeof valueText>[0];
  const numbers = list.flatMap(({ value }) => (typeof value === 'number' ? [value] : []));
  const words = [
    ...new Set(list.flatMap(({ value }) => (typeof value === 'string' ? [value] : []))),
  ];
  const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
  const span =
    numbers.length === 0
      ? []
      : [
          low === high
            ? valueText(kind, low)
            : `${valueText(kind, low)} to ${valueText(kind, high)}`,
        ];
  return [...span, ...words].join(' or ');
}

/** In words beside a reading: `3 good boards: 4.98 V to 5.02 V`. */
export function besideWords({ good, goodCount, others, othersCount }: Beside): string {
  const boards = (count: number, of: string): string => `${count} ${of}${count === 1 ? '' : 's'}`;
  return [
    goodCount > 0 ? `${boards(goodCount, 'good board')}: ${good}` : '',
    othersCount > 0 ? `${boards(othersCount, 'other')}: ${others}` : '',
  ]
    .filter(Boolean)
    .join('; ');
}
