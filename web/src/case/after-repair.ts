import { replacementRemarks, cameOffOf } from '@hanzai/core/bench';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { agedParts } from '@hanzai/core/decide';
import { shareCredit, type Change } from '@hanzai/core/plan';
import { LIBRARY } from '@hanzai/data';
import type { Journal } from './journal';
import { degreesWords } from './kind/adjusting';

/** How sure it is that a change cured the unit. */
export type CreditWord = 'identified' | 'likely' | 'not to be told apart';

export interface ChangeCredit {
  readonly words: string;
  readonly share: number;
  readonly word: CreditWord;
}

/** From these shares on a change is called so. From memory of bench practice. */
const CREDIT = { identified: 0.9, likely: 0.6 } as const;

/**
 * The changes made since the last start that failed, with their share of the credit: parts that went
 * on, first aid, turns. Each as it was believed when it was made.
 */
export function creditOf(journal: Journal): readonly ChangeCredit[] {
  const lastFailed = journal.standing.findLastIndex(
    ({ body }) => body.kind === 'start' && body.failedAt !== null,
  );
  const changes = journal.standing.slice(lastFailed + 1).flatMap(({ body }): Change[] => {
    if (body.kind === 'fitted') {
      const believed = journal.condemned.find((one) => nameKey(one.body.ref) === nameKey(body.ref))
        ?.body.probability;
      return [{ ref: `${body.ref} replaced`, believed }];
    }
    if (body.kind === 'aid') return [{ ref: body.title, believed: body.cures }];
    if (body.kind === 'turned')
      return [{ ref: `${body.ref} turned ${degreesWords(body.degrees)}`, believed: undefined }];
    return [];
  });
  return changes.length === 0
    ? []
    : shareCredit(changes).map(({ ref, share }) => ({
        words: ref,
        share,
        word:
          share >= CREDIT.identified
            ? 'identified'
            : share >= CREDIT.likely
              ? 'likely'
              : 'not to be told apart',
      }));
}

/** What was done against what the program said, each with the reason that was given. */
export function overruledOf(journal: Journal, index: BoardIndex | undefined): readonly string[] {
  const fitted = journal.ledger.flatMap(({ ref, action, value, note }) => {
    if (action !== 'fitted' || !index || note.trim() === '') return [];
    const stops = replacementRemarks(index, ref, value, LIBRARY, cameOffOf(journal.ledger, ref))
      .filter(({ level }) => level === 'stop')
      .map(({ text }) => text);
    return stops.length > 0 ? [`${ref}, ${value}: ${stops.join('; ')}. Reason: ${note}`] : [];
  });
  const turned = journal.turned.flatMap(({ body }) =>
    body.reason.trim() === '' || body.reason === 'the way back to as found'
      ? []
      : [`${body.ref} turned ${degreesWords(body.degrees)}. Reason: ${body.reason}`],
  );
  const powered = journal.powered.map(
    ({ body }) =>
      `Powered as it was${body.refs.length > 0 ? ` (${body.refs.join(', ')})` : ''}. Reason: ${body.reason}`,
  );
  return [...fitted, ...turned, ...powered];
}

/** Parts of the same kind and age as those that failed, and still the old ones. */
export function stillSuspect(journal: Journal, index: BoardIndex | undefined): readonly string[] {
  if (!index) return [];
  const fresh = new Set(
    journal.ledger.filter(({ action }) => action === 'fitted').map(({ ref }) => nameKey(ref)),
  );
  const like = journal.condemned.flatMap(({ body }) => agedParts(index, body.ref));
  return [...new Set(like)].filter((ref) => !fresh.has(nameKey(ref)));
}
