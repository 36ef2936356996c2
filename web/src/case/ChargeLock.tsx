import { Notice } from '../ui/Notice';
import { lockedObjection } from './rules';
import type { CaseState } from './use-case';

/**
 * What keeps probes or ohms off, with the way to the stage that opens it. Nothing where nothing
 * does.
 */
export function ChargeLock({ state }: { state: CaseState }) {
  const { journal, index, model } = state;
  if (journal.closed) return null;
  const why =
    lockedObjection(journal, index, model, 'meter') ??
    lockedObjection(journal, index, model, 'power');
  if (!why) return null;
  return (
    <Notice look="harm" title="Not yet:">
      {why} <a href={`${state.home}/make-safe`}>To Make safe</a>
    </Notice>
  );
}
