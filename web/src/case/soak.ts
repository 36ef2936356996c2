import type { Journal } from './journal';

/** Hours of soak and burn-in that ran to their end since the last line of the ledger. */
export function soakHours({ ledger, timers }: Pick<Journal, 'ledger' | 'timers'>): number {
  const repaired = ledger.at(-1)?.entry.madeAt ?? '';
  return timers
    .filter(({ entry, done }) => done && entry.body.what === 'burn-in' && entry.madeAt > repaired)
    .reduce((sum, { entry }) => sum + entry.body.hours, 0);
}
