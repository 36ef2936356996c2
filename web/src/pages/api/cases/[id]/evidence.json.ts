import { indexBoard } from '@hanzai/core/board';
import type { APIRoute } from 'astro';
import { evidenceFile } from '../../../../case/evidence';
import { playJournal } from '../../../../case/journal';
import { findBoard } from '../../../../server/board/repository';
import { caseView } from '../../../../server/case/service';
import { database } from '../../../../server/db/client';
import { answer, json, pathId, problem } from '../../../../server/problem';

/** GET: what was entered in a case and stands, as it was entered. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const view = await caseView(database(), id.value);
    if (!view) return problem(404, 'Not found', 'no such case');
    const board = view.boardId ? await findBoard(database(), view.boardId) : undefined;
    const journal = playJournal(view.entries, board && indexBoard(board.content));
    const response = json(evidenceFile(view, journal));
    response.headers.set(
      'content-disposition',
      `attachment; filename="case-${view.number}-evidence.json"`,
    );
    return response;
  });
