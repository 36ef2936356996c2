import type { APIRoute } from 'astro';
import { exportBoard } from '../../../../server/board/service';
import { database } from '../../../../server/db/client';
import { answer, pathId, problem } from '../../../../server/problem';

/** GET: the board as a file: `file.cir`, `file.json`, `file.ipc`, `file.csv`, `file.sheet`. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const file = await exportBoard(database(), id.value, params.ending ?? '');
    if (!file)
      return problem(
        404,
        'Not found',
        'expected a stored board and one of .cir, .json, .ipc, .csv, .sheet',
      );
    return new Response(file.text, {
      headers: {
        'content-type': 'text/plain; charset=utf-8',
        'content-disposition': `attachment; filename="${file.fileName}"`,
      },
    });
  });
