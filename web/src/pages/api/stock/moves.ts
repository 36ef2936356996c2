import type { APIRoute } from 'astro';
import { database } from '../../../server/db/client';
import { answer, json, problem, readBody } from '../../../server/problem';
import { moveStock } from '../../../server/stock/lots';
import { Move } from '../../../stock/stock';

/** POST: takes, puts, counts, reserves or releases parts of a lot. 409 where fewer are there. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, Move);
    if (!body.ok) return body.response;
    const moved = await moveStock(database(), body.value);
    return moved.ok ? json(moved.value) : problem(moved.status, 'Not moved', moved.detail);
  });
