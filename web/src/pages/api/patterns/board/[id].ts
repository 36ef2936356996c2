import type { APIRoute } from 'astro';
import { database } from '../../../../server/db/client';
import { learnedOn } from '../../../../server/learn/lessons';
import { answer, json, pathId, problem } from '../../../../server/problem';

/** GET: what was learned, for the line-up of one board. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const learned = await learnedOn(database(), id.value);
    return learned ? json(learned) : problem(404, 'Not found', 'no such board sheet');
  });
