import { indexBoard } from '@hanzai/core/board';
import { writeReadingsFile } from '@hanzai/core/instrument';
import type { APIRoute } from 'astro';
import { playJournal } from '../../../../case/journal';
import { findBoard } from '../../../../server/board/repository';
import { caseView } from '../../../../server/case/service';
import { database } from '../../../../server/db/client';
import { answer, pathId, problem } from '../../../../server/problem';

/** GET: the readings that stand, in the order taken, as a readings file. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const view = await caseView(database(), id.value);
    if (!view) return problem(404, 'Not found', 'no such case');
    const board = view.boardId ? await findBoard(database(), view.boardId) : undefined;
    const journal = playJournal(view.entries, board && indexBoard(board.content));
    const file = `case-${view.number}-readings.csv`;
    return new Response(writeReadingsFile(journal.readings), {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': `attachment; filename="${file}"`,
      },
    });
  });
