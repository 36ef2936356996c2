import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../server/db/client';
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
    const bytes = url.searchParams.has('small') ? row.thumbnail : row.image;
    return new Response(new Uint8Array(bytes), {
      headers: {
        'content-type': 'image/jpeg',
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  });
