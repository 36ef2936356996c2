import { replacementRemarks, cameOffOf } from '@hanzai/core/bench';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { agedParts } from '@hanzai/core/decide';
import { shareCredit } from '@hanzai/core/plan';
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

/** A change that may have been the cure. */
export interface ChangeMade {
  readonly kind: 'fitted' | 'aid' | 'turned';
  /** Of a part or a setting; empty for first aid. */
  readonly ref: string;
  readonly words: string;
  /** The block that first aid was given to. */
  readonly block?: string;
  /** What it was believed to be worth when it was made; undefined where nobody had said. */
  readonly believed: number | undefined;
}

/** The changes made since the last start that failed: parts that went on, first aid, turns. */
export function changesMade(journal: Journal): readonly ChangeMade[] {
  const lastFailed = journal.standing.findLastIndex(
    ({ body }) => body.kind === 'start' && body.failedAt !== null,
  );
  return journal.standing.slice(lastFailed + 1).flatMap(({ body }): ChangeMade[] => {
    if (body.kind === 'fitted') {
      const believed = journal.condemned.find((one) => nameKey(one.body.ref) === nameKey(body.ref))
        ?.body.probability;
      return [{ kind: 'fitted', ref: body.ref, words: `${body.ref} replaced`, believed }];
    }
    if (body.kind === 'aid')
      return [{ kind: 'aid', ref: '', words: body.title, block: body.block, believed: body.cures }];
    if (body.kind === 'turned') {
      const words = `${body.ref} turned ${degreesWords(body.degrees)}`;
      return [{ kind: 'turned', ref: body.ref, words, believed: undefined }];
    }
    return [];
  });
}

/** Those changes with their share of the credit, each as it was believed when it was made. */
export function creditOf(journal: Journal): readonly ChangeCredit[] {
  const changes = changesMade(journal).map(({ words, believed }) => ({ ref: words, believed }));
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
