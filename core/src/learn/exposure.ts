import { nameKey, type BoardIndex } from '../board';
import { hypothesisSpace, rateClass, type RateTable } from '../fault';
import type { Exposure } from './lesson';

/**
 * How many failures a case of this board is to be expected to have of each class and role, by the
 * rate table alone: the sum is the chance that the fault lies on the sheet.
 */
export function exposureOf(index: BoardIndex, table: RateTable): readonly Exposure[] {
  const rows = new Map<
    string,
    { of: string; role: string; parts: Set<string>; expected: number }
  >();
  for (const { refs, prior } of hypothesisSpace(index, table).hypotheses) {
    const [ref] = refs;
    if (ref === undefined) continue;
    const { of, role } = kindOfPart(index, table, ref);
    const key = JSON.stringify([of, role]);
    const row = rows.get(key) ?? { of, role, parts: new Set<string>(), expected: 0 };
    rows.set(key, row);
    row.parts.add(ref);
    row.expected += prior;
  }
  return [...rows.values()].map(({ parts, ...rest }) => ({ ...rest, parts: parts.size }));
}

/** The class and role that a part is counted under; what is no part is a place on the board. */
export function kindOfPart(
  index: BoardIndex,
  table: RateTable,
  ref: string,
): { readonly of: string; readonly role: string } {
  const part = index.partByKey.get(nameKey(ref)) ?? index.replaceable.get(ref)?.[0];
  if (!part) return { of: ref.includes('~') ? 'place on the board' : 'not on the sheet', role: '' };
  return { of: rateClass(index, table, part), role: part.role ?? '' };
}
