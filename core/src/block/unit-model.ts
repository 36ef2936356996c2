import { z } from 'zod';

const name = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,39}$/, 'a name of small letters, digits and hyphens');
const share = z.number().gt(0).lt(1);

export const HazardKind = z.enum([
  'mains',
  'stored-charge',
  'laser',
  'hot',
  'spring',
  'chemical',
  'static',
]);
export type HazardKind = z.infer<typeof HazardKind>;

/**
 * What a unit was given to work on. foreign: one that it must refuse, as a control. none: a unit that
 * takes no medium.
 */
export const RunMedium = z.enum([
  'pressed',
  'written here',
  'written elsewhere',
  'foreign',
  'none',
]);
export type RunMedium = z.infer<typeof RunMedium>;

/** What a proof of such a unit should be shown on, and where on it. */
export const ProofWants = z.object({
  media: z.array(z.object({ kind: RunMedium, title: z.string().min(1).max(120) })).max(12),
  places: z.array(z.string().min(1).max(60)).max(12),
});
export type ProofWants = z.infer<typeof ProofWants>;

/**
 * Something cheap that can be taken back. cures: share of the block's faults that it puts right.
 */
export const FirstAid = z.object({
  name,
  title: z.string().min(1).max(160),
  block: name,
  minutes: z.number().positive(),
  cures: share,
  caution: z.string().max(200).optional(),
});
export type FirstAid = z.infer<typeof FirstAid>;

/**
 * A test of a few minutes that can end the job. coverage: share of the block's faults that it
 * finds: a beam that is there need not be strong enough. finished, worthSaving: what is lost when
 * it fails, and what is not.
 */
export const KillCheck = z.object({
  name,
  title: z.string().min(1).max(160),
  block: name,
  minutes: z.number().positive(),
  coverage: share,
  caution: z.string().max(200).optional(),
  finished: z.string().min(1).max(200),
  worthSaving: z.string().min(1).max(200),
});
export type KillCheck = z.infer<typeof KillCheck>;

/**
 * A unit as the bench sees it when there is no schematic: blocks that can be bad, and the stages of
 * its start in order with the blocks that each needs.
 */
export const UnitModel = z.object({
  name,
  title: z.string().min(1).max(120),
  source: z.string().min(1).max(200),
  /**
   * prior: chance that a unit on the bench has this block bad. roles: words by which a board's
   * sheet names parts of it.
   */
  blocks: z
    .array(
      z.object({
        name,
        title: z.string().min(1).max(120),
        prior: share,
        roles: z.array(z.string().min(2).max(40)).max(40).optional(),
      }),
    )
    .min(1)
    .max(60),
  stages: z
    .array(z.object({ name, title: z.string().min(1).max(120), needs: z.array(name).min(1) }))
    .min(1)
    .max(20),
  /** Tests of a few minutes that can end the job: a bad block that nobody can replace. */
  killChecks: z.array(KillCheck).max(20),
  /**
   * Known patterns: what is seen, and the blocks behind it in usual order; stage: the one at which
   * the start of such a unit stops.
   */
  patterns: z
    .array(
      z.object({
        name,
        seen: z.string().min(1).max(200),
        suspects: z.array(name).min(1),
        stage: name.optional(),
        because: z.string().min(1).max(200),
      }),
    )
    .max(60),
  /** Blink and error codes: the stage that they speak of. */
  codes: z
    .array(
      z.object({
        code: z.string().min(1).max(20),
        stage: name,
        meaning: z.string().min(1).max(160),
      }),
    )
    .max(100)
    .optional(),
  /**
   * What can hurt somebody, or the unit. volt, farad: of what keeps a charge, at its peak.
   * ifFitted: only a look tells whether this one has it.
   */
  hazards: z
    .array(
      z.object({
        name,
        kind: HazardKind,
        ifFitted: z.boolean().optional(),
        note: z.string().min(1).max(300),
        volt: z.number().positive().optional(),
        farad: z.number().positive().optional(),
      }),
    )
    .max(20)
    .optional(),
  firstAid: z.array(FirstAid).max(40).optional(),
  /** Circumstances of a start that explain by themselves what would else be a fault. */
  conditions: z
    .array(
      z.object({
        name,
        title: z.string().min(1).max(120),
        explains: z
          .array(
            z.object({
              kind: z.enum(['stage', 'code', 'pattern']),
              name: z.string().min(1).max(40),
              because: z.string().min(1).max(200),
            }),
          )
          .min(1)
          .max(20),
      }),
    )
    .max(40)
    .optional(),
  proof: ProofWants.optional(),
});
export type UnitModel = z.infer<typeof UnitModel>;

/** What is known of a unit beside meter readings. */
export type BlockEvidence =
  /**
   * The start got this far: every stage before `failedAt` worked, this one did not; undefined where
   * all of them did.
   */
  | { readonly type: 'stage'; readonly failedAt: string | undefined }
  /**
   * A trial with some of the suspect unit's blocks in use, the rest known good: how often it worked
   * and failed.
   */
  | {
      readonly type: 'trial';
      readonly exercised: readonly string[];
      readonly passed: number;
      readonly failed: number;
    }
  /** A code that the unit showed. */
  | { readonly type: 'code'; readonly code: string }
  /**
   * A direct check of one block. coverage: share of the block's faults that it finds; default
   * COMMON_COVERAGE.
   */
  | {
      readonly type: 'check';
      readonly block: string;
      readonly good: boolean;
      readonly coverage?: number;
    }
  /**
   * Something cheap was done to a block that puts right this share of its faults, and a test was
   * made after it.
   */
  | {
      readonly type: 'aid';
      readonly block: string;
      readonly cures: number;
      readonly cured: boolean;
    }
  /** A pattern that was recognised. */
  | {
      readonly type: 'pattern';
      readonly name: string;
      /** The stage at which the start stops is evidence of its own already. */
      readonly stageKnown?: boolean;
    };

/**
 * Share of a block's faults that a check finds of which no more is known. From memory of bench
 * practice.
 */
export const COMMON_COVERAGE = 0.7;

/** References of a unit model that name nothing: empty where it is sound. */
export function unitModelIssues(model: UnitModel): readonly string[] {
  const blocks = new Set(model.blocks.map((block) => block.name));
  const stages = new Set(model.stages.map((stage) => stage.name));
  return [
    ...model.stages.flatMap(({ name: stage, needs }) =>
      needs.filter((need) => !blocks.has(need)).map((need) => `stage ${stage} needs ${need}`),
    ),
    ...model.killChecks
      .filter(({ block }) => !blocks.has(block))
      .map(({ name: check, block }) => `check ${check} is of ${block}`),
    ...model.patterns.flatMap(({ name: pattern, suspects }) =>
      suspects
        .filter((block) => !blocks.has(block))
        .map((block) => `pattern ${pattern} suspects ${block}`),
    ),
    ...model.patterns
      .filter(({ stage }) => stage !== undefined && !stages.has(stage))
      .map(({ name: pattern, stage }) => `pattern ${pattern} stops at ${stage}`),
    ...(model.firstAid ?? [])
      .filter(({ block }) => !blocks.has(block))
      .map(({ name: aid, block }) => `first aid ${aid} is for ${block}`),
    ...(model.conditions ?? []).flatMap(({ name: condition, explains }) =>
      explains
        .filter((e) =>
          e.kind === 'stage'
            ? !stages.has(e.name)
            : e.kind === 'pattern'
              ? !model.patterns.some((p) => p.name === e.name)
              : !model.codes?.some((c) => c.code === e.name),
        )
        .map((e) => `condition ${condition} explains ${e.kind} ${e.name}`),
    ),
    ...(model.codes ?? [])
      .filter(({ stage }) => !stages.has(stage))
      .map(({ code, stage }) => `code ${code} speaks of ${stage}`),
  ];
}
