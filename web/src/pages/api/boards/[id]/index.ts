import type { APIRoute } from 'astro';
import { archiveBoard, boardContent } from '../../../../server/board/repository';
import { database } from '../../../../server/db/client';
import { answer, json, pathId, problem } from '../../../../server/problem';
import { setAsideDoor } from '../../../../server/set-aside';

/** GET: the Board JSON. What is stored under an id never changes. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const content = await boardContent(database(), id.value);
    if (content === undefined) return problem(404, 'Not found', 'no such board sheet');
    const response = json(content);
    response.headers.set('cache-control', 'private, max-age=31536000, immutable');
    return response;
  });

/** PATCH: sets a board aside, or takes it back. Cases that were worked on it keep it. */
export const PATCH = setAsideDoor('board sheet', archiveBoard);
