import type { APIRoute } from 'astro';
import { database } from '../../server/db/client';
import { readiness } from '../../server/health/ready';
import { answer, json } from '../../server/problem';

/**
 * GET: whether work can be sent here: 200 where all checks hold, 503 where one does not; the checks
 * in words.
 */
export const GET: APIRoute = () =>
  answer(async () => {
    const checks = await readiness(database());
    return json({ checks }, checks.every(({ ok }) => ok) ? 200 : 503);
  });
