import { salvageOf, type Need, type Salvaged } from '@hanzai/core/decide';
import type { UnitModel } from '@hanzai/core/block';
import type { BoardIndex } from '@hanzai/core/board';
import type { Journal } from './journal';

/** A part that is suspected this much is not kept for another unit. */
const SUSPECTED = 0.02;

/** The checks whose failure ended the job, each with what is finished and what is worth saving. */
export const failedKillChecks = (
  { blockEvents }: Journal,
  model: UnitModel | undefined,
): UnitModel['killChecks'] =>
  blockEvents.flatMap(({ body }) =>
    body.kind === 'check' && !body.good
      ? (model?.killChecks.filter(({ title }) => title === body.title) ?? [])
      : [],
  );

/**
 * Parts of a unit that was given up which are worth keeping, what other cases wait for first. suspects:
 * the engine's, with how likely each is guilty; those are left out, as are the condemned ones.
 */
export function keptParts(
  index: BoardIndex | undefined,
  journal: Journal,
  suspects: readonly { readonly ref: string; readonly probability: number }[],
  needs: readonly Need[],
): readonly Salvaged[] {
  if (!index || journal.decision?.body.course !== 'give-up') return [];
  const bad = new Set([
    ...journal.condemned.map(({ body }) => body.ref),
    ...journal.absent,
    ...suspects.flatMap(({ ref, probability }) => (probability > SUSPECTED ? [ref] : [])),
  ]);
  return salvageOf(index, bad, needs);
}
