import { placeText } from '../../case/wording';
import { list, maybe, words, type Paper } from '../../paper/paper';
import { dayText, factsOf, proofBlocks, type PaperOf } from './technical';

/** Facts that say which unit it was; the rest is no affair of a certificate. */
const IDENTITY: readonly string[] = ['Unit', 'Serial', 'Owner'];

/**
 * What a unit was shown to do, by itself: every step, every run, the bound and what was not tried.
 * Where a step is open or failed there is none, and the paper says so.
 */
export function certificatePaper(of: PaperOf, closedAt: string | undefined): Paper {
  const { view, journal, index, proof } = of;
  const open = proof.filter(({ state }) => state !== 'pass').length;
  const stands = proof.length > 0 && open === 0;
  const fitted = journal.ledger.filter(({ action }) => action === 'fitted');
  return {
    kind: stands
      ? `Certificate of the proof, case ${view.number}`
      : `Not proven, case ${view.number}`,
    title: view.title,
    facts: [
      ...factsOf(of).filter(([name]) => IDENTITY.includes(name)),
      ['Closed', closedAt === undefined ? 'not yet' : dayText(closedAt)],
    ],
    sections: [
      ...(stands
        ? []
        : [
            {
              title: 'There is no certificate',
              blocks: [
                words(
                  proof.length === 0
                    ? 'Nothing was proven on this unit.'
                    : `${open} of ${proof.length} steps of the proof did not pass or were not made.`,
                ),
              ],
            },
          ]),
      ...maybe(
        'What went on before it',
        list(fitted.map(({ ref, value }) => `${placeText(index, ref)}: ${value}`)),
      ),
      { title: 'What was shown', blocks: proofBlocks(of) },
      ...maybe('Shown by', stands ? [words('Day and name: ______________________________')] : []),
    ],
    foot: 'It is shown what stands here, on the day it was made, and nothing else. Bands allow for part tolerance and meter accuracy, about 95 %.',
  };
}
