import type { APIRoute } from 'astro';
import { OwnPattern } from '../../../../patterns/patterns';
import { database } from '../../../../server/db/client';
import { patternsOf } from '../../../../server/learn/lessons';
import { addOwnPattern } from '../../../../server/learn/own-patterns';
import { answer, json, readBody } from '../../../../server/problem';

/** POST: a pattern that the workshop wrote down itself. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, OwnPattern);
    if (!body.ok) return body.response;
    await addOwnPattern(database(), body.value);
    return json(await patternsOf(database()), 201);
  });
