import type { BlockBelief } from './belief';
import type { FirstAid, UnitModel } from './unit-model';

/** A cheap action with what it promises now. */
export interface RankedAid extends FirstAid {
  /** Chance that the unit works after it. */
  readonly cures: number;
  /** Chance of a cure for each minute of work: what the order goes by. */
  readonly perMinute: number;
  readonly done: boolean;
}

/**
 * The first aid of a unit by chance of cure over minutes, what was done last. Source of the order:
 * Kadane & Simon, Ann. Statist. 5, 1977. done: names.
 */
export function rankAids(
  model: UnitModel,
  belief: BlockBelief,
  done: ReadonlySet<string>,
): readonly RankedAid[] {
  const share = new Map(belief.byBlock.map(({ block, probability }) => [block, probability]));
  return (model.firstAid ?? [])
    .map((aid): RankedAid => {
      const cures = (share.get(aid.block) ?? 0) * aid.cures;
      return { ...aid, cures, perMinute: cures / aid.minutes, done: done.has(aid.name) };
    })
    .sort((a, b) => Number(a.done) - Number(b.done) || b.perMinute - a.perMinute);
}
