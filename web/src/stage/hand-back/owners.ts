import { addDays } from 'date-fns/addDays';
import { format } from 'date-fns/format';
import { creditOf } from '../../case/after-repair';
import { shownOf } from '../../case/shown';
import { placeText } from '../../case/wording';
import { list, maybe, words, type Paper } from '../../paper/paper';
import { remainsAtRisk } from './risk';
import {
  costLines,
  dayText,
  factsOf,
  salvageBlocks,
  type Closing,
  type PaperOf,
} from './technical';

/** The section that says what it costs. */
export const COSTS = 'Costs';

/** Facts that an owner has no use for. */
const OWN_AFFAIR: readonly string[] = ['Board sheet', 'Bench time'];

/**
 * The page for the owner: what was wrong, what was done, what it was shown to do and what not, what
 * remains at risk, and what was agreed. Nothing in it says more than the proof does.
 */
export function ownersPaper(
  of: PaperOf,
  closing: Closing | undefined,
  closedAt: string | undefined,
  limit: number | undefined,
): Paper {
  const { view, journal, index, proof } = of;
  const givenUp = journal.decision?.body.course === 'give-up' ? journal.decision.body.reason : '';
  const fitted = journal.ledger.filter(({ action }) => action === 'fitted');
  const leftOut = journal.ledger.filter(({ action }) => action === 'leftOut');
  const proven = proof.length > 0 && proof.every(({ state }) => state === 'pass');
  return {
    kind: `For the owner, case ${view.number}`,
    title: view.title,
    facts: factsOf(of).filter(([name]) => !OWN_AFFAIR.includes(name)),
    sections: [
      { title: 'What you told us', blocks: view.complaint ? [words(`“${view.complaint}”`)] : [] },
      givenUp
        ? { title: 'It was not repaired', blocks: [words(givenUp)] }
        : {
            title: 'What was wrong',
            blocks: list(
              journal.condemned.map(
                ({ body }) => `${placeText(index, body.ref)}: ${body.reason || 'found bad'}`,
              ),
            ),
          },
      ...maybe(
        'What was done',
        list([
          ...fitted.map(({ ref, value }) => `${placeText(index, ref)} replaced by ${value}`),
          ...journal.blockEvents.flatMap(({ body }) => (body.kind === 'aid' ? [body.title] : [])),
          ...journal.asFound.map(
            ({ body }) => `${body.ref} set anew, its first place written down`,
          ),
        ]),
      ),
      ...maybe(
        'How sure we are of the cause',
        list(creditOf(journal).map(({ words: what, word }) => `${what}: ${word}`)),
      ),
      ...(givenUp
        ? []
        : [
            {
              title: 'What it was shown to do',
              blocks: [
                ...(proven ? [] : [words('The proof is not complete: it goes back as it is.')]),
                ...shownOf(of).map(words),
              ],
            },
          ]),
      ...maybe(
        'What remains at risk',
        list([...remainsAtRisk(of), ...(closing?.note ? [closing.note] : [])]),
      ),
      ...maybe(
        'Left alone',
        list(leftOut.map(({ ref, note }) => `${placeText(index, ref)} stays off: ${note}`)),
      ),
      ...maybe('Worth keeping, if it stays with us', salvageBlocks(of)),
      ...maybe(COSTS, list(costLines(closing, limit))),
      ...maybe('Back to you', list(backLines(of, closing))),
      ...maybe('Guarantee', list(guaranteeLines(closing, closedAt))),
    ],
    foot: 'Follow local codes; mains and laser work only if you are qualified.',
  };
}

function backLines({ view }: PaperOf, closing: Closing | undefined): string[] {
  return [
    ...(closing?.returned ? [closing.returned] : []),
    ...(view.accessories ? [`Came with it: ${view.accessories}`] : []),
    ...(view.stuckInside ? [`Was inside: ${view.stuckInside}`] : []),
    ...(view.mediaNote ? [`Agreed about media: ${view.mediaNote}`] : []),
  ];
}

function guaranteeLines(closing: Closing | undefined, closedAt: string | undefined): string[] {
  const { guaranteeDays, followUpOn } = closing ?? {};
  return [
    ...(guaranteeDays && closedAt
      ? [
          `For what was repaired, until ${format(addDays(new Date(closedAt), guaranteeDays), 'd MMMM yyyy')}.`,
        ]
      : []),
    ...(followUpOn ? [`We ask how it runs on ${dayText(followUpOn)}.`] : []),
  ];
}
