import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../server/db/client';
import { answer, json, readBody } from '../../../server/problem';
import { addLots, listLots } from '../../../server/stock/lots';
import { NewLot } from '../../../stock/stock';

/** GET: every lot that is not set aside. */
export const GET: APIRoute = () => answer(async () => json(await listLots(database())));

/** POST: adds lots, one or many. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, z.array(NewLot).min(1).max(2000));
    if (!body.ok) return body.response;
    return json(await addLots(database(), body.value), 201);
  });
