import type { CaseView } from './case-view';
import type { Journal } from './journal';

/** What was agreed last; undefined where nothing was. */
export function limitOf(
  journal: Journal,
  view: Pick<CaseView, 'spendingLimit'>,
): number | undefined {
  const agreed = journal.consents.findLast(({ body }) => body.limit !== undefined)?.body.limit;
  if (agreed !== undefined) return agreed;
  const card = view.spendingLimit === null ? Number.NaN : Number(view.spendingLimit);
  return Number.isFinite(card) ? card : undefined;
}
