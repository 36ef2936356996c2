import type { Journal } from '../../case/journal';
import { valueText } from '../../case/wording';
import type { LineUp } from '../../workers/engine-messages';

/** What a flag says: what was read, and where that is wrong what a sound board shows. */
export interface FlagWords {
  readonly read: string;
  readonly should: string;
}

/** The newest voltage or level of each net against ground, in words. */
export function flagsOf(
  journal: Journal,
  lineUp: LineUp | undefined,
): ReadonlyMap<string, FlagWords> {
  const flags = new Map<string, FlagWords>();
  for (const { current, measurement: m, value, entry } of journal.readings) {
    if (!current || (m.kind !== 'voltage' && m.kind !== 'logic') || m.to.net !== '0') continue;
    const expected = lineUp?.expected[entry.id];
    flags.set(m.at.net, {
      read: valueText(m.kind, value),
      should: expected && !expected.within ? `not ${expected.display}` : '',
    });
  }
  return flags;
}

/** Width of the flag itself, px. */
export const poleWidth = ({ read }: FlagWords): number => read.length * 9.5 + 16;
/** Room that flag and words beside it take on the drawing, px. */
export const flagWidth = (words: FlagWords | undefined): number =>
  words ? poleWidth(words) + words.should.length * 9.5 + 8 : 0;
