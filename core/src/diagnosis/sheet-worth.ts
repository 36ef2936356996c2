import { GROUND, nameKey, type BoardIndex } from '../board';
import type { Fault } from '../fault';
import { BenchState, resolveMeasurement } from '../instrument';
import { scaled } from './likelihood';

/** What it would bring to draw what hangs on a net. */
export interface SheetWorth {
  readonly net: string;
  /** In how many groups volts there would part the suspects, were the net drawn to its end. */
  readonly groups: number;
  readonly of: number;
  /** What the sheet says hangs there. */
  readonly note: string | undefined;
}

/** Two readings further apart than this many of their own spreads are told apart. */
const APART = 4;

/**
 * The nets on which circuit hangs that the sheet does not show, by what it would bring to draw it:
 * with guesses at the rest a reading there says little, drawn to its end it parts the suspects into
 * groups. suspects: the leading ones, each with its faults. Nets that would part nothing are left
 * out; most first.
 */
export function sheetWorth(
  index: BoardIndex,
  suspects: readonly (readonly Fault[])[],
  absent: readonly string[],
): readonly SheetWorth[] {
  const edges = (index.board.edges ?? []).flatMap(({ net, note }) => {
    const known = index.netByKey.get(nameKey(net));
    return known === undefined || known === GROUND ? [] : [{ net: known, note }];
  });
  if (edges.length === 0 || suspects.length < 2) return [];
  const states = suspects.map(
    (faults) =>
      new BenchState(index, { setup: 'on', faults: faults.map((fault) => ({ fault })), absent }),
  );
  return edges
    .flatMap(({ net, note }): SheetWorth[] => {
      const asked = resolveMeasurement(index, 'on', 'voltage', net, '');
      if (!asked.ok) return [];
      const shown = states.flatMap((state) => {
        const response = state.respond(asked.measurement);
        return 'ok' in response || response.unknown ? [] : [scaled('voltage', response)];
      });
      const sorted = shown.sort((a, b) => a.y - b.y);
      const groups = sorted.filter(
        ({ y, sigma }, i) =>
          i === 0 || y - sorted[i - 1]!.y > APART * Math.hypot(sigma, sorted[i - 1]!.sigma),
      ).length;
      return groups > 1 ? [{ net, groups, of: suspects.length, note }] : [];
    })
    .sort((a, b) => b.groups - a.groups);
}
