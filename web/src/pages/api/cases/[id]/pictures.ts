import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../../server/db/client';
import { keepSentPicture } from '../../../../server/picture/door';
import { addPicture } from '../../../../server/picture/service';
import { answer, problem } from '../../../../server/problem';

/**
 * POST: keeps a picture; the body is the file itself, `?id=` its id (UUID version 7, made by the
 * client).
 */
export const POST: APIRoute = ({ params, request, url }) =>
  answer(async () => {
    const [caseId, id] = [
      z.uuid().safeParse(params.id),
      z.uuid().safeParse(url.searchParams.get('id')),
    ];
    if (!caseId.success) return problem(404, 'No such case', 'it is not in this workshop');
    if (!id.success) return problem(422, 'The picture was not kept', 'the picture has no id');
    return keepSentPicture(request, (file) => addPicture(database(), caseId.data, id.data, file));
  });
