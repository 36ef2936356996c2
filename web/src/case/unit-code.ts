import { z } from 'zod';

/** A code of the workshop's own for a unit of one maker and type. */
export const UnitCode = z.object({
  id: z.uuid(),
  unitType: z.string().min(1).max(40),
  unitModel: z.string().trim().min(1, 'the unit as its card names it').max(120),
  code: z.string().trim().min(1, 'a code such as 3-1 or E4').max(20),
  stage: z.string().min(1).max(40),
  meaning: z.string().trim().min(1, 'what it means, in a few words').max(160),
});
export type UnitCode = z.infer<typeof UnitCode>;
