import { z } from 'zod';

/** A stored board as it is offered for choice. parts: as people count them. */
export const BoardChoice = z.object({
  id: z.uuid(),
  title: z.string(),
  parts: z.number().int(),
});
export type BoardChoice = z.infer<typeof BoardChoice>;
