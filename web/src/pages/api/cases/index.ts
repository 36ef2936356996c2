import type { APIRoute } from 'astro';
import { NewCaseRequest, openCase } from '../../../server/case/service';
import { database } from '../../../server/db/client';
import { answer, json, problem, readBody } from '../../../server/problem';

/** POST: opens a case. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, NewCaseRequest);
    if (!body.ok) return body.response;
    const result = await openCase(database(), body.value);
    return result.ok
      ? json(result.value, 201)
      : problem(422, 'The case could not be opened', result.detail);
  });
