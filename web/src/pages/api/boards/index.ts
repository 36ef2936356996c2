import { MAX_FILE_BYTES } from '@hanzai/core/board';
import type { APIRoute } from 'astro';
import { z } from 'zod';
import { boardChoices, importBoard } from '../../../server/board/service';
import { database } from '../../../server/db/client';
import { answer, json, problem, readBody } from '../../../server/problem';

const ImportRequest = z.object({
  fileName: z.string().min(1).max(200),
  text: z.string().max(MAX_FILE_BYTES, 'a file of at most 20 MB'),
  /** The version that this is the next one of. */
  of: z.uuid().optional(),
});

/** GET: the board sheets that may be chosen for a case. */
export const GET: APIRoute = () => answer(async () => json(await boardChoices(database())));

/**
 * POST: reads a board file and keeps the board, as a sheet of its own or as the next version of one.
 * 422 with every issue where it cannot be read, 409 where a newer version is there.
 */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, ImportRequest);
    if (!body.ok) return body.response;
    const result = await importBoard(
      database(),
      body.value.fileName,
      body.value.text,
      body.value.of,
    );
    if (result.ok) return json(result, 201);
    if ('stale' in result) return problem(409, 'Not the newest version', result.stale);
    return problem(
      422,
      'The board file could not be read',
      `${result.issues.length} thing(s) to mend in ${body.value.fileName}`,
      { issues: result.issues },
    );
  });
