import { checkBoard, type Board } from '@hanzai/core/board';
import { queryOptions, type QueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { BoardChoice } from '../case/board-choice';
import { readEntries, SentCase, type CaseView } from '../case/case-view';
import { AnswerError, ask } from './answers';

/** A board sheet as the server has it. @throws AnswerError */
export async function fetchBoard(id: string): Promise<Board> {
  const board = checkBoard(await ask(`/api/boards/${id}`, z.unknown()));
  if (!board.ok) throw new AnswerError('the board sheet is of a newer version', false);
  return board.value;
}

/** A board sheet, kept. What is stored under an id never changes. */
function boardQuery(id: string) {
  return queryOptions({
    queryKey: ['board', id],
    staleTime: Infinity,
    gcTime: Infinity,
    queryFn: () => fetchBoard(id),
  });
}

/** A case by its number, with its board sheet. */
export function caseQuery(queries: QueryClient, number: number) {
  return queryOptions({
    queryKey: ['case', number],
    queryFn: async (): Promise<CaseView> => {
      const sent = await ask(`/api/cases/by-number/${number}`, SentCase);
      const { boardId, unreadable, ...card } = sent;
      const content = boardId ? await queries.ensureQueryData(boardQuery(boardId)) : undefined;
      const read = readEntries(sent.entries);
      return {
        ...card,
        entries: read.entries,
        unreadable: unreadable + read.unreadable,
        board: boardId && content ? { id: boardId, content } : null,
      };
    },
  });
}

/** The boards that may be chosen for a case. */
export const boardChoicesQuery = queryOptions({
  queryKey: ['boards'],
  queryFn: () => ask('/api/boards', z.array(BoardChoice)),
});
