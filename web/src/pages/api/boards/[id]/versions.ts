import type { APIRoute } from 'astro';
import { listVersions } from '../../../../server/board/repository';
import { database } from '../../../../server/db/client';
import { answer, json, pathId, problem } from '../../../../server/problem';

/** GET: all versions of the sheet that this board is one of, the newest first. */
export const GET: APIRoute = ({ params }) =>
  answer(async () => {
    const id = pathId(params.id);
    if (!id.ok) return id.response;
    const versions = await listVersions(database(), id.value);
    return versions.length === 0
      ? problem(404, 'Not found', 'no such board sheet')
      : json(versions);
  });
