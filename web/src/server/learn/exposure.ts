import { and, eq } from 'drizzle-orm';
import { boardContent } from '../board/repository';
import type { Database } from '../db/client';
import { boardExposure } from '../db/schema/learning';
import { logger, told } from '../logger';
import { exposedBy, reckonerVersion } from '../reckoning/pool';
import type { Exposed } from '../reckoning/tasks';
import { oncePerBoard } from './once-per-board';

/** Boards of which it is kept in memory. */
const MOST_BOARDS = 100;

const NOTHING_KNOWN: Exposed = { title: '', rows: [], kinds: new Map() };

interface Kept extends Omit<Exposed, 'kinds'> {
  readonly kinds: readonly (readonly [string, { readonly of: string; readonly role: string }])[];
}

const exposed = oncePerBoard(MOST_BOARDS, async (db, boardId): Promise<Exposed> => {
  const madeBy = reckonerVersion();
  const [row] = await db
    .select({ content: boardExposure.content })
    .from(boardExposure)
    .where(and(eq(boardExposure.boardId, boardId), eq(boardExposure.madeBy, madeBy)));
  if (row) {
    const kept = row.content as Kept;
    return { ...kept, kinds: new Map(kept.kinds) };
  }
  const made = await exposedBy({ id: boardId, content: await boardContent(db, boardId) });
  const content: Kept = { ...made, kinds: [...made.kinds] };
  await db
    .insert(boardExposure)
    .values({ boardId, madeBy, content })
    .onConflictDoUpdate({ target: boardExposure.boardId, set: { madeBy, content } });
  return made;
});

/**
 * What is on a board, worked out once for all processes. One sheet that cannot be read takes nothing
 * else down: nothing is learned on it.
 */
export const exposedOn = (db: Database, boardId: string): Promise<Exposed> =>
  exposed(db, boardId).catch((error: unknown) => {
    logger.warn({ board: boardId, ...told(error) }, 'a board that cannot be learned on');
    return NOTHING_KNOWN;
  });
