import { MAX_FILE_BYTES } from '@hanzai/core/board';
import type { APIRoute } from 'astro';
import { z } from 'zod';
import { previewBoard } from '../../../server/board/service';
import { answer, json, problem, readBody } from '../../../server/problem';

const ReadRequest = z.object({
  fileName: z.string().min(1).max(200),
  text: z.string().max(MAX_FILE_BYTES, 'a file of at most 20 MB'),
});

/**
 * POST: what a board file says, as a bench sheet, with what became of each part. Nothing is stored.
 * 422 with every issue where it cannot be read.
 */
export const POST: APIRoute = ({ request }) =>
  answer(async () => {
    const body = await readBody(request, ReadRequest);
    if (!body.ok) return body.response;
    const result = await previewBoard(body.value.fileName, body.value.text);
    if (result.ok) return json(result);
    return problem(
      422,
      'The board file could not be read',
      `${result.issues.length} thing(s) to mend in ${body.value.fileName}`,
      { issues: result.issues },
    );
  });
