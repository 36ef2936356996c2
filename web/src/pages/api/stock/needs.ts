import type { APIRoute } from 'astro';
import { database } from '../../../server/db/client';
import { answer, json } from '../../../server/problem';
import { stockNeeds } from '../../../server/stock/lots';

/** GET: what open cases need, off the board or condemned. */
export const GET: APIRoute = () => answer(async () => json(await stockNeeds(database())));
