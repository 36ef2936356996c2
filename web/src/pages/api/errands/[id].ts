import type { APIRoute } from 'astro';
import { eq } from 'drizzle-orm';
import { database } from '../../../server/db/client';
import { errand } from '../../../server/db/schema/errand';
import { fileOf } from '../../../server/errands/pieces';
import { endErrand } from '../../../server/errands/work';
import { streamed } from '../../../server/open-files/stream';
import { answer, json, pathId, problem } from '../../../server/problem';

const NONE = 'there is no such errand any more: they are kept for a day';

/** GET: the file that an errand made. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const db = database();
    const [row] = await db.select().from(errand).where(eq(errand.id, id.value));
    if (!row) return problem(404, 'Not found', NONE);
    if (row.what !== 'archive' || row.state !== 'done')
      return problem(409, 'No file', 'it has no file to give');
    return new Response(
      streamed(fileOf(db, row.id), () => undefined),
      {
        headers: {
          'content-type': 'application/gzip',
          'cache-control': 'no-store',
          'content-length': String(row.bytes),
          'content-disposition': `attachment; filename="${row.name}"`,
        },
      },
    );
  });

/** DELETE: stops an errand that goes on, forgets one that has ended. */
export const DELETE: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    return (await endErrand(database(), id.value)) ? json({}) : problem(404, 'Not found', NONE);
  });
