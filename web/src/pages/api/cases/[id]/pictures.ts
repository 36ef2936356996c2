import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../../server/db/client';
import { addPicture, MOST_PICTURE_BYTES } from '../../../../server/picture/service';
import { answer, json, problem, readLimited } from '../../../../server/problem';

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
    const file = await readLimited(request, MOST_PICTURE_BYTES);
    if (!file)
      return problem(
        413,
        'The picture was not kept',
        `the file is larger than ${MOST_PICTURE_BYTES / 1e6} MB; take it again at a lower resolution`,
      );
    const result = await addPicture(database(), caseId.data, id.data, file);
    return result.ok
      ? json(result.value, 201)
      : problem(result.why === 'missing' ? 404 : 422, 'The picture was not kept', result.detail);
  });
