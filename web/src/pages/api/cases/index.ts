import type { APIRoute } from 'astro';
import { z } from 'zod';
import { NewCaseRequest } from '../../../case/case-card';
import { docketPage, MOST_LINES } from '../../../server/case/docket';
import { openCase } from '../../../server/case/service';
import { database } from '../../../server/db/client';
import { answer, json, problem, readBody } from '../../../server/problem';

const Query = z.object({
  find: z.string().max(300).default(''),
  from: z.coerce.number().int().min(0).max(10_000_000).default(0),
  most: z.coerce.number().int().min(1).max(MOST_LINES).default(60),
});

/**
 * GET: a page of the docket, the most urgent first. `find`: words that must stand in a case, those
 * between quotation marks together. `from`, `most`: which lines.
 */
export const GET: APIRoute = ({ url }) =>
  answer(async () => {
    const query = Query.safeParse(Object.fromEntries(url.searchParams));
    if (!query.success)
      return problem(
        422,
        'Not as expected',
        'expected find (words), from (a whole number) and most (at most 500)',
      );
    return json(await docketPage(database(), query.data));
  });

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
