import { z } from 'zod';
import { ReadingKind } from '@hanzai/core/instrument';
import { Setup } from '@hanzai/core/board';

const ref = z.string().min(1).max(80);
const line = (most: number): z.ZodString => z.string().max(most);

/** What an entry of a case's journal can say. Kinds are only ever added. */
export const EntryBody = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('symptom'), text: line(500).min(1) }),
  z.object({ kind: z.literal('finding'), text: line(500).min(1), ref: ref.optional() }),
  z.object({
    kind: z.literal('reading'),
    setup: Setup,
    quantity: ReadingKind,
    at: line(80).min(1),
    to: line(80),
    value: z.union([z.number().refine(Number.isFinite), z.enum(['OL', 'beep', 'open', '0', '1', 'P', 'Z', 'yes', 'no'])]),
    typed: line(200),
  }),
  z.object({ kind: z.literal('retract'), entry: z.uuid() }),
  z.object({ kind: z.literal('condemn'), ref, probability: z.number().min(0).max(1), reason: line(500) }),
  z.object({ kind: z.literal('acquit'), ref }),
  z.object({ kind: z.literal('removed'), ref, value: line(120), note: line(300) }),
  z.object({ kind: z.literal('fitted'), ref, value: line(120), polarityChecked: z.boolean(), note: line(300) }),
  z.object({ kind: z.literal('leftOut'), ref, note: line(300) }),
  z.object({ kind: z.literal('answer'), step: line(200).min(1), passed: z.boolean() }),
  z.object({ kind: z.literal('close'), note: line(1000) }),
  z.object({ kind: z.literal('reopen') }),
]);
export type EntryBody = z.infer<typeof EntryBody>;

/** An entry as it is sent: with an id of the client's own (UUID version 7) and the moment it was made. */
export const Entry = z.object({ id: z.uuid(), madeAt: z.iso.datetime({ offset: true }), body: EntryBody });
export type Entry = z.infer<typeof Entry>;
