import type { APIRoute } from 'astro';
import { otherCases } from '../../../../server/case/others';
import { database } from '../../../../server/db/client';
import { answer, json, pathId } from '../../../../server/problem';

/** GET: what closed cases of this kind took, and which parts open cases wait for. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    return json(await otherCases(database(), id.value));
  });
