import { limitOf } from '../case/agreed';
import { placeText } from '../case/wording';
import { list, maybe, words, type Paper } from '../paper/paper';
import { COSTS, ownersPaper } from '../stage/hand-back/owners';
import { dayText, factsOf, type PaperOf } from '../stage/hand-back/technical';

/** What holds a case up, as somebody outside is told: the words on the card are the workshop's own. */
const WAITS: Readonly<Record<string, string>> = {
  part: 'It waits for a part.',
  owner: 'It waits for an answer of its owner.',
  timer: 'It waits for something that takes its time.',
};

/** Facts that are nobody's business outside. */
const SHOWN_FACTS: readonly string[] = ['Unit', 'Serial', 'Taken in'];

/**
 * What somebody without a name here gets to see of a case: the owner's page of a closed one; of an
 * open one where it stands. Made of what is let through: notes, readings, suspects and names never
 * are.
 */
export function visitorPaper(of: PaperOf, { showsCosts }: { readonly showsCosts: boolean }): Paper {
  const { view, journal, index } = of;
  if (journal.closed) {
    const { closing } = journal;
    const paper = ownersPaper(of, closing?.body, closing?.madeAt, limitOf(journal, view));
    return {
      ...paper,
      facts: paper.facts.filter(([name]) => SHOWN_FACTS.includes(name)),
      sections: paper.sections.filter(({ title }) => showsCosts || title !== COSTS),
    };
  }
  const fitted = journal.ledger.filter(({ action }) => action === 'fitted');
  return {
    kind: `Case ${view.number}, at work`,
    title: view.title,
    facts: factsOf(of).filter(([name]) => SHOWN_FACTS.includes(name)),
    sections: [
      { title: 'What you told us', blocks: view.complaint ? [words(`“${view.complaint}”`)] : [] },
      {
        title: 'Where it stands',
        blocks: [
          words(
            view.waitsFor === ''
              ? 'It is being worked on.'
              : (WAITS[view.waitsKind] ?? 'It waits.'),
          ),
          ...(view.promisedOn ? [words(`Promised for ${dayText(view.promisedOn)}.`)] : []),
          words('Nothing of it is proven before it is handed back.'),
        ],
      },
      ...maybe(
        'Done so far',
        list(fitted.map(({ ref, value }) => `${placeText(index, ref)} replaced by ${value}`)),
      ),
      ...maybe(
        'With us',
        list([
          ...(view.accessories ? [`Came with it: ${view.accessories}`] : []),
          ...(view.stuckInside ? [`Was inside: ${view.stuckInside}`] : []),
        ]),
      ),
    ],
    foot: 'Follow local codes; mains and laser work only if you are qualified.',
  };
}
