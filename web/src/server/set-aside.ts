import type { APIRoute } from 'astro';
import { z } from 'zod';
import { database, type Database } from './db/client';
import { answer, json, pathId, problem, readBody } from './problem';

const Change = z.object({ archived: z.boolean() });

/**
 * A door that sets something aside, or takes it back. what: its name in words; archive: tells
 * whether there is one.
 */
export function setAsideDoor(
  what: string,
  archive: (db: Database, id: string, at: Date | null) => Promise<boolean>,
): APIRoute {
  return ({ params, request }) =>
    answer(async () => {
      const id = pathId(params.id);
      if (!id.ok) return id.response;
      const body = await readBody(request, Change);
      if (!body.ok) return body.response;
      const { archived } = body.value;
      return (await archive(database(), id.value, archived ? new Date() : null))
        ? json({ archived })
        : problem(404, 'Not found', `no such ${what}`);
    });
}
