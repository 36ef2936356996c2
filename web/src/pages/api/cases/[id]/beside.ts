import type { APIRoute } from 'astro';
import { readingsBeside } from '../../../../server/case/beside';
import { database } from '../../../../server/db/client';
import { answer, json, pathId } from '../../../../server/problem';

/** GET: what was read on other units of this kind, the newest first. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    return json(await readingsBeside(database(), id.value));
  });
