import type { APIRoute } from 'astro';
import { z } from 'zod';
import { boardPictureBytes, tieBoardPicture } from '../../../server/board/pictures';
import { database } from '../../../server/db/client';
import { answer, json, pathId, problem, readBody } from '../../../server/problem';

/** GET: a picture of a board as JPEG; `?small` its thumbnail. A picture never changes. */
export const GET: APIRoute = ({ params, url }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const bytes = await boardPictureBytes(database(), id.value, url.searchParams.has('small'));
    if (!bytes) return problem(404, 'No such picture', 'it is not in this workshop');
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': 'image/jpeg',
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  });

const share = z.number().min(0).max(1);
const mm = z.number().min(-5000).max(5000);
const Change = z.object({
  ties: z
    .array(z.object({ onPicture: z.tuple([share, share]), onBoard: z.tuple([mm, mm]) }))
    .max(40),
});

/** PATCH: the points by which the picture lies on its board. */
export const PATCH: APIRoute = ({ params, request }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const body = await readBody(request, Change);
    if (!body.ok) return body.response;
    return (await tieBoardPicture(database(), id.value, body.value.ties))
      ? json(body.value)
      : problem(404, 'No such picture', 'it is not in this workshop');
  });
