import type { APIRoute } from 'astro';
import { z } from 'zod';
import { addBoardPicture, listBoardPictures } from '../../../../server/board/pictures';
import { database } from '../../../../server/db/client';
import { keepSentPicture } from '../../../../server/picture/door';
import { answer, json, pathId, problem } from '../../../../server/problem';

const Wanted = z.object({ id: z.uuid(), side: z.enum(['top', 'bottom']) });

/** GET: the pictures of this board, of all versions of its sheet. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    return json(await listBoardPictures(database(), id.value));
  });

/**
 * POST: keeps a picture of a side of the board; the body is the file itself, `?id=` its id (UUID
 * version 7, made by the client), `&side=` top or bottom.
 */
export const POST: APIRoute = ({ params, request, url }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const wanted = Wanted.safeParse(Object.fromEntries(url.searchParams));
    if (!wanted.success)
      return problem(
        422,
        'The picture was not kept',
        'expected an id, and side=top or side=bottom',
      );
    return keepSentPicture(request, (file) =>
      addBoardPicture(database(), id.value, wanted.data, file),
    );
  });
