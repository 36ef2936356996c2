import { indexBoard } from '@hanzai/core/board';
import { playJournal, type Journal } from '../../case/journal';
import { findBoard } from '../board/repository';
import { database } from '../db/client';
import { answer, pathId, problem } from '../problem';
import { caseView } from './service';

type View = NonNullable<Awaited<ReturnType<typeof caseView>>>;

/** Answers with a file made of a case as it stands; 404 where there is no such case. */
export function caseFile(
  id: string | undefined,
  write: (view: View, journal: Journal) => Response,
): Promise<Response> {
  return answer(async () => {
    const known = pathId(id);
    if (!known.ok) return known.response;
    const view = await caseView(database(), known.value);
    if (!view) return problem(404, 'Not found', 'no such case');
    const board = view.boardId ? await findBoard(database(), view.boardId) : undefined;
    return write(view, playJournal(view.entries, board && indexBoard(board.content)));
  });
}
