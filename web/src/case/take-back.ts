import type { CaseState } from './use-case';

/**
 * Takes the newest reading of a case back. Returns what had been typed, or undefined where there is
 * none or the case is closed.
 */
export function takeBackLast({ journal, append }: CaseState): string | undefined {
  const last = journal.readings.at(-1);
  if (!last || append({ kind: 'retract', entry: last.entry.id }) !== undefined) return undefined;
  return last.entry.body.typed;
}
