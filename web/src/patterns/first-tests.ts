import type { UnitModel } from '@hanzai/core/block';
import type { TaughtPattern } from './patterns';

/** A short test or first aid for one of a pattern's suspects. */
export interface FirstTest {
  readonly title: string;
  readonly minutes: number;
  readonly caution: string | undefined;
  /** Of the suspect: how likely it is, and what of its faults this finds or cures. */
  readonly share: number;
  readonly coverage: number;
}

/**
 * What can be tried in minutes for a pattern, by what it is likely to tell for its time: the share of
 * its suspect, times what of its faults it finds or cures, for each minute.
 */
export function firstTests(
  { suspects }: Pick<TaughtPattern, 'suspects'>,
  { killChecks, firstAid = [] }: Pick<UnitModel, 'killChecks' | 'firstAid'>,
): readonly FirstTest[] {
  const shareOf = new Map(suspects.map(({ name, share }) => [name, share]));
  return [
    ...killChecks.map(({ coverage, ...check }) => ({ ...check, coverage })),
    ...firstAid.map(({ cures, ...aid }) => ({ ...aid, coverage: cures })),
  ]
    .flatMap(({ title, minutes, caution, block, coverage }): FirstTest[] => {
      const share = shareOf.get(block) ?? 0;
      return share > 0 ? [{ title, minutes, caution, share, coverage }] : [];
    })
    .sort((a, b) => worth(b) - worth(a));
}

const worth = ({ share, coverage, minutes }: FirstTest): number => (share * coverage) / minutes;
