import { median, shareInterval } from '@hanzai/core/statistics';
import { z } from 'zod';
import type { CaseFigures, WrongTurn } from '../case/case-figures';
import { STAGES } from '../case/stages';

const Numbers = z.array(z.number().int());

/** The shop's own figures, each with the cases behind it. */
export const ShopFigures = z.object({
  /** Closed cases that they are made of. */
  cases: z.number().int(),
  /** What came back within its guarantee, by how far the replacement went. */
  policies: z.array(
    z.object({
      policy: z.string(),
      guaranteed: z.number().int(),
      returned: Numbers,
      interval: z.object({ low: z.number(), high: z.number() }),
    }),
  ),
  /** Bench minutes by stage, of the cases that were in it at all. */
  stages: z.array(
    z.object({
      stage: z.string(),
      median: z.number(),
      most: z.number(),
      share: z.number(),
      /** The longest first. */
      cases: Numbers,
    }),
  ),
  turns: z.array(z.object({ kind: z.string(), count: z.number().int(), cases: Numbers })),
  /** Kinds of parts that went on, and the cases that came back after it. */
  parts: z.array(
    z.object({ of: z.string(), fitted: z.number().int(), came: z.number().int(), cases: Numbers }),
  ),
});
export type ShopFigures = z.infer<typeof ShopFigures>;

/** A case as its figures need it. figures: null while it is open, or where it has none. */
export interface FiguredCase {
  readonly number: number;
  readonly serial: string;
  /** ISO. */
  readonly openedAt: string;
  readonly figures: CaseFigures | null;
}

type ClosedCase = Omit<FiguredCase, 'figures'> & CaseFigures;

/** Puts the figures together. A unit came back when it did not run when asked, or was opened anew. */
export function shopFigures(rows: readonly FiguredCase[]): ShopFigures {
  const closed = rows.flatMap(({ figures, ...row }): ClosedCase[] =>
    figures ? [{ ...row, ...figures }] : [],
  );
  const bySerial = grouped(rows, ({ serial }) => [asSerial(serial)]);
  const back = new Set(
    closed.filter((one) => one.cameBack || openedAgain(one, bySerial)).map(({ number }) => number),
  );
  return {
    cases: closed.length,
    policies: [...grouped(closed, ({ policy }) => [policy])]
      .map(([policy, cases]) => {
        const guaranteed = cases.filter(({ guaranteeUntil }) => guaranteeUntil !== null);
        const returned = numbersOf(guaranteed.filter(({ number }) => back.has(number)));
        return {
          policy,
          guaranteed: guaranteed.length,
          returned,
          interval: shareInterval(returned.length, guaranteed.length),
        };
      })
      .filter(({ guaranteed }) => guaranteed > 0)
      .sort((a, b) => b.guaranteed - a.guaranteed),
    stages: STAGES.flatMap((stage) => {
      const been = closed
        .flatMap(({ number, minutes }) =>
          minutes[stage] ? [{ number, took: minutes[stage] }] : [],
        )
        .sort((a, b) => b.took - a.took);
      const whole = closed.reduce((sum, { minutes }) => sum + total(minutes), 0);
      return been.length === 0
        ? []
        : [
            {
              stage,
              median: median(been.map(({ took }) => took))!,
              most: been[0]!.took,
              share: been.reduce((sum, { took }) => sum + took, 0) / whole,
              cases: numbersOf(been),
            },
          ];
    }),
    turns: [...grouped(closed, ({ turns }) => [...new Set(turns.map(({ kind }) => kind))])]
      .map(([kind, cases]) => ({
        kind,
        count: cases.reduce((sum, { turns }) => sum + countOf(turns, kind), 0),
        cases: numbersOf(cases),
      }))
      .sort((a, b) => b.count - a.count),
    parts: [...grouped(closed, ({ fitted }) => [...new Set(fitted.map(({ of }) => of))])]
      .map(([of, cases]) => {
        const came = cases.filter(({ number }) => back.has(number));
        return { of, fitted: cases.length, came: came.length, cases: numbersOf(came) };
      })
      .filter(({ came }) => came > 0)
      .sort((a, b) => b.came / b.fitted - a.came / a.fitted || b.came - a.came),
  };
}

/** A serial number as it is compared. */
const asSerial = (serial: string): string => serial.trim().toLowerCase();

/**
 * Whether a unit of the same serial was taken in after this one was closed, within its guarantee.
 * bySerial: all cases, by serial number.
 */
function openedAgain(
  { number, serial, closedAt, guaranteeUntil }: ClosedCase,
  bySerial: ReadonlyMap<string, readonly FiguredCase[]>,
): boolean {
  const own = asSerial(serial);
  return (
    own !== '' &&
    guaranteeUntil !== null &&
    bySerial
      .get(own)!
      .some(
        (other) =>
          other.number !== number && other.openedAt > closedAt && other.openedAt <= guaranteeUntil,
      )
  );
}

const numbersOf = (cases: readonly { readonly number: number }[]): number[] =>
  cases.map(({ number }) => number);
const total = (minutes: CaseFigures['minutes']): number =>
  Object.values(minutes).reduce((sum, one) => sum + one, 0);
const countOf = (turns: CaseFigures['turns'], kind: WrongTurn): number =>
  turns.filter((one) => one.kind === kind).length;

/** Cases by what they are counted under; one may stand under several. */
function grouped<T, K>(cases: readonly T[], keysOf: (one: T) => readonly K[]): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const one of cases)
    for (const key of keysOf(one)) {
      const group = groups.get(key) ?? [];
      groups.set(key, group);
      group.push(one);
    }
  return groups;
}
