import type { CircuitPattern } from '../../patterns/patterns';
import { boardContent, boardIsHere } from '../board/repository';
import type { Database } from '../db/client';
import { symptomsOf } from '../reckoning/pool';
import { oncePerBoard } from './once-per-board';

/** Boards of which it is kept. */
const MOST_BOARDS = 50;
const symptomsOn = oncePerBoard(MOST_BOARDS, async (db, id) =>
  symptomsOf({ id, content: await boardContent(db, id) }),
);

/**
 * What a board's circuit says of all that is seen of it; undefined where there is no such board.
 */
export async function circuitPatterns(
  db: Database,
  boardId: string,
): Promise<readonly CircuitPattern[] | undefined> {
  return (await boardIsHere(db, boardId)) ? symptomsOn(db, boardId) : undefined;
}
