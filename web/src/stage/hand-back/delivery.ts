import { z } from 'zod';
import { list, maybe, words, type Paper } from '../../paper/paper';

/** One unit of a batch, as its delivery note has it. */
export const BatchLine = z.object({
  number: z.number().int(),
  title: z.string(),
  unitModel: z.string(),
  serial: z.string(),
  owner: z.string(),
  accessories: z.string(),
  /** Where it stands: only what is closed goes back. */
  closed: z.boolean(),
  givenUp: z.boolean(),
  price: z.number().nullable(),
  returned: z.string(),
  /** ISO, or null without one. */
  guaranteeUntil: z.string().nullable(),
  /** Parts that went on. */
  fitted: z.array(z.string()),
});
export type BatchLine = z.infer<typeof BatchLine>;

/** Owners of a batch, those with most units first. */
export function ownersOf(lines: readonly BatchLine[]): readonly string[] {
  const counts = new Map<string, number>();
  for (const { owner } of lines) counts.set(owner, (counts.get(owner) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]).map(([owner]) => owner);
}

/** What is delivered to one owner of a batch: each unit, what was done, what it costs, what stays here. */
export function deliveryNote(
  batch: string,
  owner: string,
  all: readonly BatchLine[],
  day: (iso: string) => string,
  today: string,
): Paper {
  const own = all.filter((line) => line.owner === owner);
  const back = own.filter(({ closed }) => closed);
  const stay = own.filter(({ closed }) => !closed);
  const prices = back.flatMap(({ price }) => (price === null ? [] : [price]));
  const unpriced = back.length - prices.length;
  return {
    kind: 'Delivery note',
    title: `Batch: ${batch}`,
    facts: [
      ['To', owner || 'no owner written down'],
      ['Day', day(today)],
      ['Units', `${back.length} of ${own.length}`],
    ],
    sections: [
      {
        title: 'Goes back',
        blocks:
          back.length === 0
            ? []
            : [
                {
                  type: 'table',
                  head: ['case', 'unit', 'serial', 'what was done', 'guarantee', 'price'],
                  rows: back.map((line) => [
                    String(line.number),
                    line.unitModel,
                    line.serial,
                    outcome(line),
                    line.guaranteeUntil === null ? 'none' : `until ${day(line.guaranteeUntil)}`,
                    line.price === null ? '' : line.price.toFixed(2),
                  ]),
                  mono: [0, 2, 5],
                },
              ],
      },
      ...maybe(
        'To pay',
        prices.length === 0
          ? []
          : [
              words(
                `${prices.reduce((sum, price) => sum + price, 0).toFixed(2)} for ${prices.length} of ${back.length}.${
                  unpriced > 0 ? ` ${unpriced} without a price written down.` : ''
                }`,
              ),
            ],
      ),
      ...maybe(
        'With them',
        list(
          back.flatMap(({ number, accessories, returned }) =>
            [accessories, returned].filter(Boolean).map((what) => `${number}: ${what}`),
          ),
        ),
      ),
      ...maybe(
        'Stays here, not finished',
        list(
          stay.map(({ number, unitModel, serial }) =>
            [String(number), unitModel, serial].filter(Boolean).join(', '),
          ),
        ),
      ),
      { title: 'Received', blocks: [words('Day and name: ______________________________')] },
    ],
    foot: 'What each unit was shown to do, and what not, stands on its own page. Follow local codes; mains and laser work only if you are qualified.',
  };
}

function outcome({ givenUp, fitted }: BatchLine): string {
  if (givenUp) return 'not repaired: goes back as it is';
  return fitted.length === 0 ? 'nothing replaced' : `${fitted.join(', ')} replaced`;
}
