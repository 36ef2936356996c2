import type { APIRoute } from 'astro';
import { caseViewByNumber } from '../../../../server/case/service';
import { database } from '../../../../server/db/client';
import { answer, json, problem } from '../../../../server/problem';

/** GET: the case with this number, with its whole journal; its board sheet comes by its own id. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const number = /^\d{1,9}$/.test(params.number ?? '') ? Number(params.number) : undefined;
    const view = number === undefined ? undefined : await caseViewByNumber(database(), number);
    return view ? json(view) : problem(404, 'Not found', 'no such case');
  });
