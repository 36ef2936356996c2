import type { APIRoute } from 'astro';
import { z } from 'zod';
import { boardPictureKept, tieBoardPicture } from '../../../server/board/pictures';
import { database } from '../../../server/db/client';
import { FOR_EVER, pictureAnswer } from '../../../server/picture/kept';
import { answer, json, pathId, problem, readBody } from '../../../server/problem';

/** GET: a picture of a board as JPEG; `?small` its thumbnail. A picture never changes. */
export const GET: APIRoute = ({ params, url }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const kept = await boardPictureKept(database(), id.value, url.searchParams.has('small'));
    if (!kept) return problem(404, 'No such picture', 'it is not in this workshop');
    return pictureAnswer(kept, FOR_EVER);
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
