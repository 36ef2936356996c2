import { z } from 'zod';

// What stands on the card of a case, as forms fill it in and the server takes it.

const text = (most: number): z.ZodString =>
  z.string().trim().max(most, `at most ${most} characters`);

const CARD = {
  title: z
    .string()
    .trim()
    .min(1, 'a few words, for example: CR-40, no movement')
    .max(160, 'at most 160 characters'),
  unitModel: z
    .string()
    .trim()
    .min(1, 'the unit, for example: CR-40 card-disc reader')
    .max(120, 'at most 120 characters'),
  spendingLimit: z
    .string()
    .regex(/^\d{1,7}(\.\d{1,2})?$/, 'an amount such as 120 or 79.50')
    .nullish(),
  promisedOn: z.iso.date('a date such as 2026-12-24').nullish(),
  boardId: z.uuid().nullish(),
  madeIn: z
    .number('a year such as 1988')
    .int('a year such as 1988')
    .min(1900, 'a year such as 1988')
    .max(2100, 'a year such as 1988')
    .nullish(),
  hoursRun: z
    .number('hours such as 4200')
    .int('whole hours such as 4200')
    .min(1, 'hours such as 4200')
    .max(1_000_000, 'at most 1000000')
    .nullish(),
};
const CARD_WORDS = {
  serial: text(80),
  owner: text(120),
  complaint: text(2000),
  unitType: text(40),
  accessories: text(500),
  stuckInside: text(300),
  causeOfDeath: text(300),
  earlierVisitors: text(500),
  mediaNote: text(500),
  batch: text(60),
};

/** Every name of an object, marked. */
function asMask<T extends object>(fields: T): { [K in keyof T]: true } {
  return Object.fromEntries(Object.keys(fields).map((name) => [name, true])) as {
    [K in keyof T]: true;
  };
}

/** What opening a case takes. Words that are not given are empty. */
export const NewCaseRequest = z.object({ ...CARD, ...CARD_WORDS }).partial(asMask(CARD_WORDS));
export type NewCaseRequest = z.infer<typeof NewCaseRequest>;

/** What can be corrected later. */
export const CorrectableCard = z.object({
  ...CARD,
  ...CARD_WORDS,
  waitsFor: text(200),
  waitsKind: z.enum(['', 'part', 'owner', 'timer']),
});

/**
 * A correction: what is not given stays as it is. `version` is the one the correction was made on.
 */
export const CaseCorrection = CorrectableCard.partial().extend({
  version: z.number().int().min(1).max(2_147_483_647),
});
export type CaseCorrection = z.infer<typeof CaseCorrection>;

/** A field of a form: empty is nothing. */
export const orNothing = (
  schema: z.ZodType<string | null | undefined, string | null | undefined>,
) =>
  z
    .string()
    .transform((typed) => typed || null)
    .pipe(schema as z.ZodType<string | null, string | null>);

/** A field of a whole number: empty is nobody knows. */
export const countOrNothing = (schema: z.ZodType<number | null | undefined>) =>
  z
    .string()
    .trim()
    .transform((typed) => (typed === '' ? null : Number(typed)))
    .pipe(schema as z.ZodType<number | null, number | null>);

/** The form that opens a case, or several alike: the number is still text in it. */
export const NewCaseForm = NewCaseRequest.pick({
  title: true,
  unitModel: true,
  serial: true,
  owner: true,
  complaint: true,
  unitType: true,
  batch: true,
}).extend({
  boardId: orNothing(CARD.boardId),
  alike: z.coerce
    .number('a whole number')
    .int('a whole number')
    .min(1, 'at least one')
    .max(20, 'at most 20 at a time'),
});
export type NewCaseForm = z.output<typeof NewCaseForm>;
