import type { Journal } from '../../case/journal';
import type { FlagWords } from '../../drawing/flags';
import { valueText } from '../../case/wording';
import type { LineUp } from '../../workers/engine-messages';

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
      isJudged: expected !== undefined,
    });
  }
  return flags;
}
