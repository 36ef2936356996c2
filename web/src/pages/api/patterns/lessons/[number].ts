import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../../server/db/client';
import { patternsOf, setTeaches } from '../../../../server/learn/lessons';
import { answer, json, problem, readBody } from '../../../../server/problem';

const Change = z.object({ teaches: z.boolean() });

/** PATCH: lets a closed case teach, or not. */
export const PATCH: APIRoute = ({ params, request }) =>
  answer(async () => {
    const number = z.coerce.number().int().min(1).max(2_147_483_647).safeParse(params.number);
    if (!number.success) return problem(404, 'Not found', 'expected the number of a case');
    const body = await readBody(request, Change);
    if (!body.ok) return body.response;
    return (await setTeaches(database(), number.data, body.value.teaches))
      ? json(await patternsOf(database()))
      : problem(404, 'Not found', 'no such case');
  });
