import type { UnitModel } from './unit-model';

/** Something seen on the unit that a condition of this start explains by itself. */
export interface Masked {
  readonly kind: 'stage' | 'code' | 'pattern';
  readonly name: string;
  readonly because: string;
}

/**
 * What follows by itself from the conditions of a start (no harness, no clock capacitor, stale
 * settings, foreign medium). conditions: names of the model's.
 */
export function expectedAnomalies(
  model: UnitModel,
  conditions: readonly string[],
): readonly Masked[] {
  return (model.conditions ?? [])
    .filter(({ name }) => conditions.includes(name))
    .flatMap(({ title, explains }) =>
      explains.map(({ kind, name, because }) => ({ kind, name, because: `${title}: ${because}` })),
    );
}

/** Why this does not count against the unit; undefined where nothing explains it. */
export function explainedBy(
  masked: readonly Masked[],
  kind: Masked['kind'],
  name: string,
): string | undefined {
  return masked.find((one) => one.kind === kind && one.name === name)?.because;
}
