import { z } from 'zod';

/** The longest that a link shows anything, days. */
export const MOST_DAYS = 180;

/** What somebody asks for who makes a link. */
export const NewLink = z.object({
  forWhom: z.string().trim().max(120).default(''),
  days: z.number().int().min(1).max(MOST_DAYS),
  showsPictures: z.boolean().default(false),
  showsCosts: z.boolean().default(false),
});
export type NewLink = z.infer<typeof NewLink>;

/** A link as the workshop sees it: never where it leads. */
export const VisitorLink = z.object({
  id: z.uuid(),
  forWhom: z.string(),
  showsPictures: z.boolean(),
  showsCosts: z.boolean(),
  madeBy: z.string(),
  madeAt: z.string(),
  expiresAt: z.string(),
});
export type VisitorLink = z.infer<typeof VisitorLink>;

/** A link that was just made: its path is told once and is kept nowhere. */
export const MadeLink = z.object({ link: VisitorLink, path: z.string() });
export type MadeLink = z.infer<typeof MadeLink>;
