import { z } from 'zod';

const name = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'a name of small letters, digits and hyphens');
const share = z.number().gt(0).lt(1);

/** A unit as the bench sees it when there is no schematic: blocks that can be bad, and the stages of its start in order with the blocks that each needs. */
export const UnitModel = z.object({
  name,
  title: z.string().min(1).max(120),
  source: z.string().min(1).max(200),
  /** prior: chance that a unit on the bench has this block bad. */
  blocks: z.array(z.object({ name, title: z.string().min(1).max(120), prior: share })).min(1).max(60),
  stages: z.array(z.object({ name, title: z.string().min(1).max(120), needs: z.array(name).min(1) })).min(1).max(20),
  /** Tests of a few minutes that can end the job: a bad block that nobody can replace. */
  killChecks: z.array(z.object({ name, title: z.string().min(1).max(160), block: name, minutes: z.number().positive() })).max(20),
  /** Known patterns: what is seen, and the blocks behind it in usual order. */
  patterns: z.array(z.object({ name, seen: z.string().min(1).max(200), suspects: z.array(name).min(1), because: z.string().min(1).max(200) })).max(60),
  /** Blink and error codes: the stage that they speak of. */
  codes: z.array(z.object({ code: z.string().min(1).max(20), stage: name, meaning: z.string().min(1).max(160) })).max(100).optional(),
}); // prettier-ignore
export type UnitModel = z.infer<typeof UnitModel>;

/** What is known of a unit beside meter readings. */
export type BlockEvidence =
  /** The start got this far: every stage before `failedAt` worked, this one did not; undefined where all of them did. */
  | { readonly type: 'stage'; readonly failedAt: string | undefined }
  /** A trial with some of the suspect unit's blocks in use, the rest known good: how often it worked and failed. */
  | { readonly type: 'trial'; readonly exercised: readonly string[]; readonly passed: number; readonly failed: number }
  /** A code that the unit showed. */
  | { readonly type: 'code'; readonly code: string }
  /** A direct check of one block. */
  | { readonly type: 'check'; readonly block: string; readonly good: boolean }
  /** A pattern that was recognised. */
  | { readonly type: 'pattern'; readonly name: string };

/** References of a unit model that name nothing: empty where it is sound. */
export function unitModelIssues(model: UnitModel): readonly string[] {
  const blocks = new Set(model.blocks.map((block) => block.name));
  const stages = new Set(model.stages.map((stage) => stage.name));
  return [
    ...model.stages.flatMap(({ name: stage, needs }) => needs.filter((need) => !blocks.has(need)).map((need) => `stage ${stage} needs ${need}`)),
    ...model.killChecks.filter(({ block }) => !blocks.has(block)).map(({ name: check, block }) => `check ${check} is of ${block}`),
    ...model.patterns.flatMap(({ name: pattern, suspects }) => suspects.filter((block) => !blocks.has(block)).map((block) => `pattern ${pattern} suspects ${block}`)),
    ...(model.codes ?? []).filter(({ stage }) => !stages.has(stage)).map(({ code, stage }) => `code ${code} speaks of ${stage}`),
  ]; // prettier-ignore
}
