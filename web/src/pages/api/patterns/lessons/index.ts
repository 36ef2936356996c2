import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database } from '../../../../server/db/client';
import { lessonsBefore } from '../../../../server/learn/lessons';
import { answer, json, problem } from '../../../../server/problem';

/** Of the integers that the database has. */
const CaseNumber = z.coerce.number().int().min(1).max(2_147_483_647);

/** GET: closed cases with what they teach, the newest first: those before the number `before`. */
export const GET: APIRoute = ({ url }) =>
  answer(async () => {
    const before = CaseNumber.safeParse(url.searchParams.get('before') ?? 2_147_483_647);
    return before.success
      ? json(await lessonsBefore(database(), before.data))
      : problem(422, 'Not understood', 'expected in "before" the number of a case');
  });
