import { CaseLinks } from '../../patterns/CaseLinks';
import { isUsual } from '../../patterns/patterns';
import { useLearned } from '../../patterns/use-patterns';
import { faultWords, placeText } from '../../case/wording';
import type { CaseState } from '../../case/use-case';
import { Notice } from '../../ui/Notice';

/** A board that always dies one way says so before the first reading. */
export function UsualEnd({ state: { view, index, journal, practice } }: { state: CaseState }) {
  const learned = useLearned(practice ? undefined : view.board?.id);
  const end = learned?.ends.find(isUsual);
  if (!end || journal.closed || journal.ledger.length > 0) return null;
  return (
    <Notice title="Seen before:">
      {Number(end.seen.toFixed(1))} of {end.of} closed cases of this board ended at{' '}
      <b>{placeText(index, end.ref)}</b>
      {end.mode && ` (${faultWords(end.mode)})`}: <CaseLinks numbers={end.cases} />. The line-up
      goes by it; measure it all the same.
    </Notice>
  );
}
