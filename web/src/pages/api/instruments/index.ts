import type { APIRoute } from 'astro';
import { Instrument } from '../../../instruments/instrument';
import { database } from '../../../server/db/client';
import { keepInstrument, listInstruments } from '../../../server/instrument/profiles';
import { answer, json, readBody } from '../../../server/problem';

/** GET: the workshop's instruments, without those set aside. */
export const GET: APIRoute = () => answer(async () => json(await listInstruments(database())));

/** POST: keeps an instrument, or what is known of it now. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, Instrument);
    if (!body.ok) return body.response;
    return json(await keepInstrument(database(), body.value), 201);
  });
