import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../../server/db/client';
import { patternsOf } from '../../../../server/learn/lessons';
import { changePack } from '../../../../server/learn/packs';
import { answer, json, pathId, problem, readBody } from '../../../../server/problem';

const Change = z
  .object({
    trust: z.number().min(0).max(1).optional(),
    archived: z.boolean().optional(),
  })
  .refine(
    ({ trust, archived }) => trust !== undefined || archived !== undefined,
    'trust, archived, or both',
  );

/** PATCH: how far a pack is believed, or that it is set aside. */
export const PATCH: APIRoute = ({ params, request }) =>
  answer(async () => {
    const workshop = pathId(params.workshop);
    if (!workshop.ok) return workshop.response;
    const body = await readBody(request, Change);
    if (!body.ok) return body.response;
    return (await changePack(database(), workshop.value, body.value))
      ? json(await patternsOf(database()))
      : problem(404, 'Not found', 'no pack of such a workshop');
  });
