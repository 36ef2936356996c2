import type { APIRoute } from 'astro';
import { z } from 'zod';
import { visitedPicture } from '../../../server/case/visitors';
import { database } from '../../../server/db/client';
import { pictureAnswer } from '../../../server/picture/kept';
import { answer, problem } from '../../../server/problem';

/** GET: a picture that a visitor's link shows, as JPEG. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = z.uuid().safeParse(params.picture);
    const kept = id.success
      ? await visitedPicture(database(), params.token ?? '', id.data)
      : undefined;
    if (!kept) return problem(404, 'No such picture', 'this link shows none of that name');
    return pictureAnswer(kept, {
      'cache-control': 'private, no-store',
      'referrer-policy': 'no-referrer',
      'x-robots-tag': 'noindex, nofollow',
    });
  });
