import { z } from 'zod';
import { ENTERED_BY } from '../people/entered-by';
import { AnswerError, ask, withBody } from './answers';
import type { Item } from './outbox';

/**
 * What became of something that was sent. refused: never to be taken. failed: a mistake of the
 * server, which may pass. unreachable: nobody answered, or the database is away.
 */
export type SendResult =
  | { readonly state: 'stored' }
  | { readonly state: 'refused'; readonly detail: string }
  | { readonly state: 'failed'; readonly detail: string }
  | { readonly state: 'unreachable' };

const Anything = z.unknown();
const ENTRY_PATIENCE = 8000;
/** A picture takes longer than an entry, milliseconds. */
const PICTURE_PATIENCE = 60_000;

/** Sends one item: its picture first where it has one, then its entry. Both may be sent twice. */
export async function send({ caseId, entry, picture, by }: Item): Promise<SendResult> {
  const whose: Record<string, string> = by === undefined ? {} : { [ENTERED_BY]: by };
  try {
    if (picture && entry.body.kind === 'picture')
      await ask(`/api/cases/${caseId}/pictures?id=${entry.body.picture}`, Anything, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream', ...whose },
        body: picture,
        signal: AbortSignal.timeout(PICTURE_PATIENCE),
      });
    const { headers, ...sent } = withBody('POST', entry);
    await ask(`/api/cases/${caseId}/entries`, Anything, {
      ...sent,
      headers: { ...headers, ...whose },
      signal: AbortSignal.timeout(ENTRY_PATIENCE),
    });
    return { state: 'stored' };
  } catch (error) {
    if (!(error instanceof AnswerError)) throw error;
    // Something that is not the workshop may answer with any status, and without its form.
    if (error.again) return { state: 'unreachable' };
    const state = (error.status ?? 0) >= 500 ? 'failed' : 'refused';
    return { state, detail: error.detail };
  }
}
