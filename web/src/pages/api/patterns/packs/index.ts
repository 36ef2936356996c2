import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../../server/db/client';
import { ownPack } from '../../../../server/learn/learned';
import { patternsOf } from '../../../../server/learn/lessons';
import { takePack } from '../../../../server/learn/packs';
import { answer, json, problem, readBody } from '../../../../server/problem';

/** GET: what this workshop learned, for another: counts alone. */
export const GET: APIRoute = () =>
  answer(async () => {
    const response = json(await ownPack(database()));
    response.headers.set('content-disposition', 'attachment; filename="patterns.json"');
    return response;
  });

/** POST: takes the pack of another workshop in, as the text of its file. */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, z.object({ text: z.string().max(5_000_000) }));
    if (!body.ok) return body.response;
    const why = await takePack(database(), body.value.text);
    return why === undefined
      ? json(await patternsOf(database()), 201)
      : problem(422, 'Not taken', why);
  });
