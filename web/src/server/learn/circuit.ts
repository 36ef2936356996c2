import type { CircuitPattern } from '../../patterns/patterns';
import { boardContent, boardIsHere } from '../board/repository';
import type { Database } from '../db/client';
import { symptomsOf } from '../reckoning/pool';

/** Boards of which it is kept. */
const MOST_BOARDS = 50;
const boards = new Map<string, Promise<CircuitPattern[]>>();

/**
 * What a board's circuit says of all that is seen of it, worked out once: a sheet under an id never
 * changes. undefined where there is no such board.
 */
export async function circuitPatterns(
  db: Database,
  boardId: string,
): Promise<readonly CircuitPattern[] | undefined> {
  if (!(await boardIsHere(db, boardId))) return undefined;
  let made = boards.get(boardId);
  if (!made) {
    made = boardContent(db, boardId).then((content) => symptomsOf({ id: boardId, content }));
    if (boards.size >= MOST_BOARDS) boards.delete(boards.keys().next().value!);
    boards.set(boardId, made);
    // What failed is tried again by whoever asks next.
    made.catch(() => boards.delete(boardId));
  }
  return made;
}
