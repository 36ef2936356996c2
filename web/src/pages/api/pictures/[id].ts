import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../server/db/client';
import { FOR_EVER, pictureAnswer } from '../../../server/picture/kept';
import { findPicture } from '../../../server/picture/repository';
import { answer, problem } from '../../../server/problem';

/**
 * GET: a picture of a case as JPEG; `?small` its thumbnail. A picture never changes, so it may be
 * kept.
 */
export const GET: APIRoute = ({ params, url }) =>
  answer(async () => {
    const id = z.uuid().safeParse(params.id);
    const row = id.success ? await findPicture(database(), id.data) : undefined;
    if (!row) return problem(404, 'No such picture', 'it is not in this workshop');
    const small = { image: row.thumbnail, keptAt: null };
    return pictureAnswer(url.searchParams.has('small') ? small : row, FOR_EVER);
  });
