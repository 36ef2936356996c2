import { z } from 'zod';
import { LESSON_GRADES } from '@hanzai/core/learn';

const Interval = z.object({ low: z.number(), high: z.number() });

/** A closed case with what it teaches. */
export const TaughtCase = z.object({
  number: z.number().int(),
  title: z.string(),
  closedAt: z.string().nullable(),
  /** Off: somebody doubts it, and nothing is learned of it. */
  teaches: z.boolean(),
  grade: z.enum(LESSON_GRADES),
  board: z.string(),
  /** What may have been the cure, each with its share. */
  cures: z.array(z.object({ words: z.string(), share: z.number() })),
});
export type TaughtCase = z.infer<typeof TaughtCase>;

/** What was learned of a class of parts, against the rate table. */
export const TaughtRate = z.object({
  of: z.string(),
  failures: z.number(),
  expected: z.number(),
  factor: z.number(),
  interval: Interval,
  cases: z.number().int(),
  /** The same by what the part is there for, against its class. */
  roles: z.array(z.object({ role: z.string(), failures: z.number(), factor: z.number() })),
});
export type TaughtRate = z.infer<typeof TaughtRate>;

/** How parts of a class fail, by the rate table and with closed cases. */
export const TaughtModes = z.object({
  of: z.string(),
  modes: z.array(
    z.object({ name: z.string(), before: z.number(), share: z.number(), seen: z.number() }),
  ),
});
export type TaughtModes = z.infer<typeof TaughtModes>;

/** What a board's circuit says of one thing that is seen of it. */
export const CircuitPattern = z.object({
  name: z.string(),
  title: z.string(),
  healthy: z.enum(['yes', 'no']),
  /** Share of faulty boards of this kind that show it. */
  share: z.number(),
  /** Likeliest first, by the rate table. */
  suspects: z.array(z.object({ ref: z.string(), probability: z.number() })),
});
export type CircuitPattern = z.infer<typeof CircuitPattern>;
export const CircuitPatterns = z.array(CircuitPattern);

/** What a board died of, with the cases behind it. */
export const TaughtEnd = z.object({
  board: z.string(),
  ref: z.string(),
  mode: z.string(),
  seen: z.number(),
  of: z.number().int(),
  interval: Interval,
  cases: z.array(z.number().int()),
});
export type TaughtEnd = z.infer<typeof TaughtEnd>;

/** An end that came so often is worth looking at first: more than every second time, for sure. */
export const isUsual = ({ interval }: Pick<TaughtEnd, 'interval'>): boolean => interval.low > 0.5;

/** A pattern of a kind of unit, with what is behind it before and after learning. */
export const TaughtPattern = z.object({
  unit: z.string(),
  unitTitle: z.string(),
  name: z.string(),
  seen: z.string(),
  because: z.string(),
  suspects: z.array(
    z.object({
      name: z.string(),
      title: z.string(),
      before: z.number(),
      share: z.number(),
      interval: Interval,
      seen: z.number(),
    }),
  ),
  /** What was replaced in its cases, most often first. */
  parts: z.array(
    z.object({ board: z.string(), ref: z.string(), of: z.string(), seen: z.number() }),
  ),
  /** Bench minutes of repair and proof that half of its cases took at most; null without cases. */
  repairMinutes: z.number().nullable(),
  cases: z.array(z.number().int()),
});
export type TaughtPattern = z.infer<typeof TaughtPattern>;

/** A pattern that the workshop wrote down itself. */
export const OwnPattern = z.object({
  id: z.uuid(),
  unitType: z.string().max(60),
  seen: z.string().min(1).max(200),
  suspects: z.string().min(1).max(300),
  because: z.string().max(300),
  firstTests: z.string().max(300),
});
export type OwnPattern = z.infer<typeof OwnPattern>;

/** Whether the workshop learns, and since when: cases closed before do not count. */
export const LearningSetting = z.object({
  on: z.boolean(),
  since: z.iso.datetime().nullable(),
});
export type LearningSetting = z.infer<typeof LearningSetting>;

/** What another workshop sent, and how far it is believed. */
export const TakenPack = z.object({
  workshop: z.uuid(),
  madeAt: z.string(),
  cases: z.number().int(),
  trust: z.number().min(0).max(1),
  /** How like its work is to ours, 0 to 1. */
  similarity: z.number().min(0).max(1),
});
export type TakenPack = z.infer<typeof TakenPack>;

/** What others say of a class, where they and we do not meet. */
export const Disagreement = z.object({
  of: z.string(),
  workshop: z.uuid(),
  own: z.number(),
  factor: z.number(),
});

/** What is learned of closed cases and of packs. */
export const PatternsLearned = z.object({
  /** Closed cases with a lesson, and how many of them count. */
  closed: z.number().int(),
  counting: z.number().int(),
  rates: z.array(TaughtRate),
  modes: z.array(TaughtModes),
  patterns: z.array(TaughtPattern),
  ends: z.array(TaughtEnd),
  packs: z.array(TakenPack),
  disagreements: z.array(Disagreement),
});
export type PatternsLearned = z.infer<typeof PatternsLearned>;

/** Whether something changed that is still being worked in. */
const behind = z.boolean();

/** All that the workshop knows of what fails. */
export const PatternsAnswer = PatternsLearned.extend({
  setting: LearningSetting,
  own: z.array(OwnPattern),
  behind,
  /** When it was worked out; null: never yet, what is shown is the rate table alone. */
  workedOutAt: z.string().nullable(),
});
export type PatternsAnswer = z.infer<typeof PatternsAnswer>;

/** What was learned of one board: by what each part’s rate is multiplied, and what it died of. */
export const BoardLearned = z.object({
  factors: z.record(z.string(), z.number().positive()),
  ends: z.array(TaughtEnd),
  /** Cases that this is learned from, of any board. */
  cases: z.number().int(),
  behind,
});
export type BoardLearned = z.infer<typeof BoardLearned>;
