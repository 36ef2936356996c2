import { z } from 'zod';
import { expectedAnomalies, explainedBy } from './anomalies';
import { recognise } from './recognise';
import type { BlockEvidence, UnitModel } from './unit-model';

const text = z.string().min(1).max(500);

/**
 * What is known of a case beside meter readings, as a file: the kind of unit, what was complained
 * of, which stage its start reaches, what it showed, how often it started.
 */
export const CaseContext = z.strictObject({
  unit: z
    .string()
    .max(40)
    .optional()
    .describe(
      'name of the kind of unit; where left out, the one that the patterns or the words of the complaint speak of',
    ),
  complaint: text
    .optional()
    .describe(
      'in the words of whoever noticed it; proposes patterns and the kind of unit, proves nothing',
    ),
  patterns: z
    .array(z.string().max(40))
    .max(20)
    .optional()
    .describe('names of patterns that a person has confirmed'),
  stage: z
    .string()
    .max(40)
    .nullable()
    .optional()
    .describe('the stage at which the start stops; null where it comes through'),
  codes: z.array(z.string().min(1).max(20)).max(50).optional(),
  starts: z
    .array(
      z.strictObject({
        clean: z.boolean(),
        stage: z.string().max(40).optional(),
        conditions: z.array(z.string().min(1).max(60)).max(12).optional(),
      }),
    )
    .max(500)
    .optional(),
});
export type CaseContext = z.infer<typeof CaseContext>;

/**
 * The kind of unit that words speak of: the one whose title, patterns and blocks share most words
 * with them; undefined where none shares two or two share as many.
 */
export function recogniseUnit(models: readonly UnitModel[], words: string): UnitModel | undefined {
  const said = wordsOf(words);
  const counted = models
    .map((model) => {
      const own = wordsOf(
        [
          model.title,
          ...model.patterns.map(({ seen }) => seen),
          ...model.blocks.map(({ title }) => title),
        ].join(' '),
      );
      const named = wordsOf(model.title);
      return {
        model,
        shared: [...said].reduce(
          (sum, word) => sum + (named.has(word) ? NAMED_COUNTS : own.has(word) ? 1 : 0),
          0,
        ),
      };
    })
    .sort((a, b) => b.shared - a.shared);
  const [first, second] = counted;
  return first && first.shared >= LEAST_SHARED && first.shared > (second?.shared ?? 0)
    ? first.model
    : undefined;
}

/** A word of the title counts for so many others. */
const NAMED_COUNTS = 3;
const LEAST_SHARED = 2;

/** Words that every unit has. */
const COMMON = new Set([
  'unit',
  'units',
  'board',
  'drive',
  'power',
  'with',
  'that',
  'from',
  'when',
  'does',
  'then',
  'each',
  'time',
]);

/** The stems of the words that mean something. */
const wordsOf = (words: string): ReadonlySet<string> =>
  new Set(
    (words.toLowerCase().match(/[a-z]{4,}/g) ?? [])
      .filter((word) => !COMMON.has(word))
      .map((word) => word.slice(0, 5)),
  );

export interface ContextIssue {
  readonly what: string;
  readonly expected: string;
}

/** The model that a context speaks of, or why it cannot be told. */
export function modelOfContext(
  models: readonly UnitModel[],
  { unit, patterns = [], complaint = '' }: CaseContext,
): UnitModel | ContextIssue {
  const names = models.map(({ name }) => name).join(', ');
  if (unit !== undefined)
    return (
      models.find(({ name }) => name === unit) ?? {
        what: `unknown kind of unit "${unit}"`,
        expected: names,
      }
    );
  const withAll = models.filter((model) =>
    patterns.every((pattern) => model.patterns.some(({ name }) => name === pattern)),
  );
  if (patterns.length > 0 && withAll.length === 1) return withAll[0]!;
  return (
    recogniseUnit(patterns.length > 0 ? withAll : models, complaint) ?? {
      what: 'the kind of unit is not clear',
      expected: `"unit": one of ${names}`,
    }
  );
}

/**
 * The evidence of a context for the blocks of its unit, or the names in it that the model does not
 * know.
 */
export function contextEvidence(
  model: UnitModel,
  context: CaseContext,
): readonly BlockEvidence[] | ContextIssue {
  const stages = model.stages.map(({ name }) => name);
  const unknownPattern = (context.patterns ?? []).find(
    (pattern) => !model.patterns.some(({ name }) => name === pattern),
  );
  if (unknownPattern !== undefined)
    return {
      what: `${model.name} has no pattern "${unknownPattern}"`,
      expected: model.patterns.map(({ name }) => name).join(', '),
    };
  const spoken = [context.stage, ...(context.starts ?? []).map(({ stage }) => stage)];
  const unknownStage = spoken.find((stage) => typeof stage === 'string' && !stages.includes(stage));
  if (typeof unknownStage === 'string')
    return { what: `${model.name} has no stage "${unknownStage}"`, expected: stages.join(', ') };
  return [
    ...(context.patterns ?? []).map((name): BlockEvidence => ({ type: 'pattern', name })),
    ...(context.stage === undefined
      ? []
      : [{ type: 'stage', failedAt: context.stage ?? undefined } as const]),
    ...codeEvidence(model, context.codes ?? []),
    ...(context.starts ?? []).flatMap((start) => startEvidence(model, start)),
  ];
}

/**
 * Codes as evidence. Codes of different stages from start to start are a symptom of their own
 * (something that comes and goes), not evidence against one another: common practice, no published
 * source.
 */
export function codeEvidence(model: UnitModel, codes: readonly string[]): readonly BlockEvidence[] {
  const stages = new Set(
    codes
      .map((code) => (model.codes ?? []).find((known) => known.code === code)?.stage)
      .filter((stage) => stage !== undefined),
  );
  const changing = model.patterns.find(({ name }) => name === CHANGING);
  if (stages.size < 2) return codes.map((code): BlockEvidence => ({ type: 'code', code }));
  return changing ? [{ type: 'pattern', name: CHANGING }] : [];
}

/** The pattern of codes that change from start to start. */
const CHANGING = 'codes-change';

function startEvidence(
  model: UnitModel,
  { clean, stage, conditions = [] }: NonNullable<CaseContext['starts']>[number],
): readonly BlockEvidence[] {
  if (clean) return [{ type: 'stage', failedAt: undefined }];
  const known = new Set((model.conditions ?? []).map(({ name }) => name));
  const masked = expectedAnomalies(
    model,
    conditions.filter((name) => known.has(name)),
  );
  if (stage === undefined)
    return [
      { type: 'trial', exercised: model.blocks.map(({ name }) => name), passed: 0, failed: 1 },
    ];
  return explainedBy(masked, 'stage', stage) === undefined
    ? [{ type: 'stage', failedAt: stage }]
    : [];
}

/** Patterns that a complaint may speak of, to be confirmed by a person. */
export function proposedPatterns(
  model: UnitModel,
  { complaint = '', patterns = [] }: CaseContext,
): readonly string[] {
  return recognise(model, complaint)
    .map(({ name }) => name)
    .filter((name) => !patterns.includes(name))
    .slice(0, 3);
}

/** How far a unit gets after a repair, against before it. */
export type StageMove = 'further' | 'same' | 'back';

/**
 * Whether the start after a repair stops later, earlier or where it stopped before; failedAt:
 * undefined where it came through. Earlier means that the repair added a fault.
 */
export function stageMove(
  { stages }: UnitModel,
  before: string | undefined,
  after: string | undefined,
): StageMove {
  const place = (failedAt: string | undefined): number =>
    failedAt === undefined ? stages.length : stages.findIndex(({ name }) => name === failedAt);
  const [was, is] = [place(before), place(after)];
  return is > was ? 'further' : is < was ? 'back' : 'same';
}
