import type { APIRoute } from 'astro';
import { database } from '../../../../server/db/client';
import { circuitPatterns } from '../../../../server/learn/circuit';
import { answer, json, pathId, problem } from '../../../../server/problem';

/** GET: what a board's circuit says of all that is seen of it. May take a minute the first time. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const computed = await circuitPatterns(database(), id.value);
    return computed ? json(computed) : problem(404, 'Not found', 'no such board sheet');
  });
