import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../server/db/client';
import { archiveInstrument } from '../../../server/instrument/profiles';
import { answer, json, pathId, problem, readBody } from '../../../server/problem';

const Change = z.object({ archived: z.boolean() });

/** PATCH: sets an instrument aside, or takes it back. Cases keep what they were read with. */
export const PATCH: APIRoute = ({ params, request }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const body = await readBody(request, Change);
    if (!body.ok) return body.response;
    const { archived } = body.value;
    return (await archiveInstrument(database(), id.value, archived ? new Date() : null))
      ? json({ archived })
      : problem(404, 'Not found', 'no such instrument');
  });
