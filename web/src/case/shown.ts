import type { UnitModel } from '@hanzai/core/block';
import { proofStatement, statementWords } from '@hanzai/core/prove';
import type { Entry } from './entry';
import { isLater, type Journal } from './journal';
import { runOf } from './kind/proving';

/** Hours of soak and burn-in that ran to their end since the last line of the ledger. */
export function soakHours({
  ledger,
  timers,
  order,
}: Pick<Journal, 'ledger' | 'timers' | 'order'>): number {
  const repair = ledger.at(-1)?.entry;
  const isSince = (entry: Entry): boolean => !repair || isLater(order, entry, repair);
  return timers
    .filter(({ entry, done }) => done && entry.body.what === 'burn-in' && isSince(entry))
    .reduce((sum, { entry }) => sum + entry.body.hours, 0);
}

/** What the runs since the last repair show, and what was not tried. */
export function shownOf({
  journal,
  model,
}: {
  readonly journal: Journal;
  readonly model: UnitModel | undefined;
}): readonly string[] {
  const runs = journal.runsSince.map(({ body }) => runOf(body));
  const statement = proofStatement(runs, model?.proof, soakHours(journal));
  return [
    statementWords(statement),
    ...(runs.length > 0 && statement.notTried.length > 0
      ? [`Not tried: ${statement.notTried.join('; ')}.`]
      : []),
  ];
}
