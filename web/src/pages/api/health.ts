import type { APIRoute } from 'astro';
import { sql } from 'drizzle-orm';
import { database } from '../../server/db/client';
import { answer, json } from '../../server/problem';

export const GET: APIRoute = () =>
  answer(async () => {
    await database().execute(sql`select 1`);
    return json({ state: 'ready', instance: process.env.HANZAI_INSTANCE ?? '' });
  });
