import type { KillCheck, UnitModel } from './unit-model';

/**
 * A kill check that failed: what is finished by it, what is worth saving, and whether it was made
 * twice.
 */
export interface FatalFinding {
  readonly check: KillCheck;
  /** True where it failed a second time, and not passed since. */
  readonly confirmed: boolean;
}

/** The kill checks whose newest result is a failure. made: checks in the order made, by title. */
export function fatalFindings(
  model: UnitModel,
  made: readonly { readonly title: string; readonly good: boolean }[],
): readonly FatalFinding[] {
  return model.killChecks.flatMap((check): FatalFinding[] => {
    const results = made.filter(({ title }) => title === check.title);
    const passed = results.findLastIndex(({ good }) => good);
    const failures = results.length - 1 - passed;
    return failures === 0 ? [] : [{ check, confirmed: failures > 1 }];
  });
}
