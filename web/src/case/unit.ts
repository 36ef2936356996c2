import type { BlockBelief, BlockEvidence, Masked, UnitModel } from '@hanzai/core/block';
import {
  believeBlocks,
  blocksAfterReadings,
  blocksOfParts,
  codeEvidence,
  expectedAnomalies,
  explainedBy,
  partFactors,
  recogniseUnit,
  stageMove,
  type StageMove,
} from '@hanzai/core/block';
import {
  hazardsOf,
  lookFactors,
  touchedParts,
  type OpenUpStep,
  type Hazard,
  type PlacedFinding,
  type Touched,
} from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { oncePer } from '@hanzai/core/once-per';
import { ageFactor, kindOfPart } from '@hanzai/core/learn';
import { ARCHETYPES, RATES } from '@hanzai/data';
import type { CaseView } from './case-view';
import type { EntryBody } from './entry';
import type { UnitCode } from './unit-code';
import { isLater, type Journal } from './journal';
import { isRepair } from './solved';

/**
 * The model of a unit: the kind that was chosen, with the codes that the workshop wrote down for
 * it.
 */
export function unitModelOf(unitType: string, codes: readonly UnitCode[]): UnitModel | undefined {
  const archetype = ARCHETYPES.find(({ name }) => name === unitType);
  if (!archetype) return undefined;
  const own = codes.filter(({ stage }) => archetype.stages.some(({ name }) => name === stage));
  const shipped = (archetype.codes ?? []).filter(
    ({ code }) => !own.some((mine) => mine.code === code),
  );
  return {
    ...archetype,
    codes: [...shipped, ...own.map(({ code, stage, meaning }) => ({ code, stage, meaning }))],
  };
}

/** The kind of unit that a few words speak of, as a proposal; empty where none does. */
export function guessUnitType(words: string): string {
  return recogniseUnit(ARCHETYPES, words)?.name ?? '';
}

/**
 * What was entered about the unit as evidence for its blocks. What a start's conditions explain by
 * themselves does not count. A start after a repair begins anew: what starts, codes and patterns
 * said before it was said of another unit.
 */
export function blockEvidence(
  model: UnitModel,
  journal: Journal,
): { readonly evidence: readonly BlockEvidence[]; readonly masked: readonly Masked[] } {
  const known = new Set((model.conditions ?? []).map(({ name }) => name));
  const evidence: BlockEvidence[] = [];
  const allMasked = new Map<string, Masked>();
  let masked: readonly Masked[] = [];
  let aids: { block: string; cures: number }[] = [];
  const codes: string[] = [];
  const isPast = (i: number): boolean =>
    journal.startsSince.length > 0 && i < journal.eventsBeforeRepair;
  for (const [i, { body }] of journal.blockEvents.entries()) {
    if (isPast(i) && body.kind !== 'check' && body.kind !== 'trial') continue;
    if (body.kind === 'aid') aids.push({ block: body.block, cures: body.cures });
    if (body.kind === 'check' && model.blocks.some(({ name }) => name === body.block))
      evidence.push(checkEvidence(model, body));
    if (body.kind === 'trial')
      evidence.push({
        type: 'trial',
        exercised: body.exercised,
        passed: body.passed,
        failed: body.failed,
      });
    if (body.kind === 'code' && !explainedBy(masked, 'code', body.code)) codes.push(body.code);
    if (body.kind === 'pattern' && !explainedBy(masked, 'pattern', body.name))
      evidence.push({ type: 'pattern', name: body.name });
    if (body.kind !== 'start') continue;
    masked = expectedAnomalies(
      model,
      body.conditions.filter((name) => known.has(name)),
    );
    for (const one of masked) allMasked.set(`${one.kind} ${one.name}`, one);
    const explained =
      body.failedAt !== null && explainedBy(masked, 'stage', body.failedAt) !== undefined;
    // A start after first aid is its test: what did not cure speaks against what it would have
    // cured.
    for (const { block, cures } of aids)
      if (!explained)
        evidence.push({
          type: 'aid',
          block,
          cures: aids.length > 1 && body.failedAt === null ? cures / aids.length : cures,
          cured: body.failedAt === null,
        });
    const cured = aids.length > 0 && body.failedAt === null;
    aids = [];
    // What a cure shows is said by the aid; the clean start itself speaks of the unit as it is now,
    // not of what was wrong.
    if (cured) continue;
    if (!explained) evidence.push({ type: 'stage', failedAt: body.failedAt ?? undefined });
    else {
      // All that the start still says: the stages before the explained one work.
      const at = model.stages.findIndex(({ name }) => name === body.failedAt);
      const needs = [...new Set(model.stages.slice(0, at).flatMap((stage) => stage.needs))];
      if (needs.length > 0)
        evidence.push({ type: 'trial', exercised: needs, passed: 1, failed: 0 });
    }
  }
  return {
    evidence: [...evidence, ...codeEvidence(model, codes)],
    masked: [...allMasked.values()],
  };
}

/**
 * What of a block's faults a comparison of figures finds: settings and wiring, none of what is worn
 * or torn. From memory of bench practice.
 */
const COMPARISON_COVERAGE = { layout: 0.35, 'pin-out': 0.5 } as const;

/** A check with the share of the block's faults that it finds, where that is known. */
function checkEvidence(
  model: UnitModel,
  { title, block, good, of }: Extract<EntryBody, { kind: 'check' }>,
): BlockEvidence {
  if (of) return { type: 'check', block, good, coverage: COMPARISON_COVERAGE[of] };
  const known = model.killChecks.find((check) => check.title === title);
  return known
    ? { type: 'check', block, good, coverage: known.coverage }
    : { type: 'check', block, good };
}

/** Belief over the blocks of a case's unit. */
export function unitBelief(model: UnitModel, journal: Journal): BlockBelief {
  return believeBlocks(model, blockEvidence(model, journal).evidence);
}

/** First aid given since the last start: more than one shares the credit. */
export function aidsSinceTest(journal: Journal): readonly string[] {
  const last = journal.blockEvents.findLastIndex(({ body }) => body.kind === 'start');
  return journal.blockEvents
    .slice(last + 1)
    .flatMap(({ body }) => (body.kind === 'aid' ? [body.title] : []));
}

/** Findings that have a place on the board, for the engine. */
export function placedFindings(journal: Journal): readonly PlacedFinding[] {
  return journal.seen.flatMap(({ id, body }) =>
    body.at
      ? [
          {
            id,
            what: body.what,
            xMm: body.at.xMm,
            yMm: body.at.yMm,
            sizeMm: body.sizeMm,
            certainty: body.certainty,
            down: body.down,
          },
        ]
      : [],
  );
}

export function touchedByLook(index: BoardIndex | undefined, journal: Journal): readonly Touched[] {
  return index ? touchedParts(index, placedFindings(journal)) : [];
}

/** What the eye multiplies the odds of each part by, as it goes to the engine. */
export function lookFactorsOf(
  index: BoardIndex | undefined,
  journal: Journal,
): Readonly<Record<string, number>> {
  return Object.fromEntries(lookFactors(touchedByLook(index, journal)));
}

/**
 * What a part's odds are multiplied by that was just touched when the unit then stops earlier. From
 * memory of bench practice.
 */
const TOUCHED_FACTOR = 20;
/**
 * And where the proof fails some other way: a cure of the wrong part is commoner than new damage,
 * so it is worth less. From memory of bench practice.
 */
const NOT_CURED_FACTOR = 4;

/**
 * How the last start since a repair compares with the last one before it, and the parts touched in
 * between; undefined where there are not both.
 */
export function repairMove(
  model: UnitModel | undefined,
  journal: Journal,
): { readonly move: StageMove; readonly touched: readonly string[] } | undefined {
  const [before, since] = [journal.startsBefore.at(-1), journal.startsSince.at(-1)];
  if (!model || !before || !since) return undefined;
  return {
    move: stageMove(model, before.body.failedAt ?? undefined, since.body.failedAt ?? undefined),
    touched: touchedSinceStart(journal),
  };
}

/** Parts with a line in the ledger since the last start before the repair. */
function touchedSinceStart({ ledger, startsBefore, order }: Journal): readonly string[] {
  const start = startsBefore.at(-1);
  const since = ledger.filter(({ entry }) => !start || isLater(order, entry, start));
  return [...new Set(since.map(({ ref }) => ref))];
}

/**
 * What of the proof failed since the last repair, in words, and the parts that were touched in it:
 * the next link of the chain begins there. undefined where nothing was repaired, or nothing failed.
 */
export function notCured(
  journal: Journal,
): { readonly what: readonly string[]; readonly touched: readonly string[] } | undefined {
  const { startsSince, runsSince, answers } = journal;
  if (!journal.ledger.some(isRepair)) return undefined;
  const last = startsSince.at(-1)?.body.failedAt;
  const errors = runsSince.reduce((sum, { body }) => sum + body.errors, 0);
  const refused = answers.filter(({ passed }) => !passed).length;
  const what = [
    ...(typeof last === 'string' ? [`it stops at ${last}`] : []),
    ...(errors > 0 ? [`${errors} ${errors === 1 ? 'run' : 'runs'} with an error`] : []),
    ...(refused > 0 ? [`${refused} ${refused === 1 ? 'step' : 'steps'} answered with no`] : []),
  ];
  return what.length > 0 ? { what, touched: touchedSinceStart(journal) } : undefined;
}

/**
 * What was said of the unit multiplies the odds of the parts of its board: by the blocks that their
 * roles belong to, and by what was just touched where that made it worse, or did not cure it.
 */
export function saidFactorsOf(
  index: BoardIndex | undefined,
  model: UnitModel | undefined,
  journal: Journal,
): Readonly<Record<string, number>> {
  if (!index) return {};
  const evidence = model ? blockEvidence(model, journal).evidence : [];
  const factors = new Map(
    !model || evidence.length === 0
      ? []
      : partFactors(model, blocksOfParts(model, index), believeBlocks(model, evidence).byBlock),
  );
  const isBack = repairMove(model, journal)?.move === 'back';
  for (const ref of notCured(journal)?.touched ?? [])
    factors.set(ref, (factors.get(ref) ?? 1) * (isBack ? TOUCHED_FACTOR : NOT_CURED_FACTOR));
  return Object.fromEntries(factors);
}

/**
 * What the age of the unit multiplies the odds of the parts of its board by: the rate table speaks
 * of units of TABLE_YEARS, and of TABLE_HOURS. Empty where nobody knows either.
 */
export function ageFactorsOf(
  index: BoardIndex | undefined,
  { madeIn, hoursRun, openedAt }: Pick<CaseView, 'madeIn' | 'hoursRun' | 'openedAt'>,
): Readonly<Record<string, number>> {
  const age = madeIn === null ? 0 : new Date(openedAt).getFullYear() - madeIn;
  const years = age > 0 ? age : undefined;
  if (!index) return {};
  return Object.fromEntries(
    [...index.replaceable.keys()].flatMap((ref) => {
      const factor = ageFactor(kindOfPart(index, RATES, ref).of, years, hoursRun ?? undefined);
      return factor === 1 ? [] : [[ref, factor]];
    }),
  );
}

/** Factors of two sources at once. */
export function bothFactors(
  one: Readonly<Record<string, number>>,
  other: Readonly<Record<string, number>>,
): Readonly<Record<string, number>> {
  return Object.fromEntries(
    [...new Set([...Object.keys(one), ...Object.keys(other)])].map((ref) => [
      ref,
      (one[ref] ?? 1) * (other[ref] ?? 1),
    ]),
  );
}

/**
 * Belief over the blocks with what the readings on the board say of their parts. parts: each with
 * its share of belief before and after the readings.
 */
export function blocksWithReadings(
  model: UnitModel,
  index: BoardIndex,
  belief: BlockBelief,
  parts: readonly { readonly ref: string; readonly prior: number; readonly probability: number }[],
): BlockBelief['byBlock'] {
  const shares = (of: 'prior' | 'probability'): ReadonlyMap<string, number> =>
    new Map(parts.map((part) => [part.ref, part[of]]));
  return blocksAfterReadings(
    belief.byBlock,
    blocksOfParts(model, index),
    shares('prior'),
    shares('probability'),
  );
}

const hazardsOfBoard = oncePer((index: BoardIndex) => hazardsOf(undefined, index, []));

/** The hazards of a case. Those of its board are worked out once a board. */
export function caseHazards(
  model: UnitModel | undefined,
  index: BoardIndex | undefined,
  journal: Journal,
): readonly Hazard[] {
  return [
    ...hazardsOf(
      model,
      undefined,
      journal.seen.map(({ body }) => body.what),
    ),
    ...(index ? hazardsOfBoard(index) : []),
  ];
}

/**
 * How far a unit is opened, told by the template of an earlier one: steps of it that were done here
 * and not put back.
 */
export function templateDone(template: readonly OpenUpStep[], journal: Journal): number {
  // Readings without a step written down: it is open already.
  if (
    journal.steps.length === 0 &&
    journal.readings.some(({ measurement }) => measurement.kind !== 'symptom')
  )
    return template.length;
  const off = journal.steps.filter(({ back, count }) => back < count);
  const at = template.findIndex(
    (step) =>
      !off.some((own) => own.what === step.what && own.of.toLowerCase() === step.of.toLowerCase()),
  );
  return at < 0 ? template.length : at;
}
