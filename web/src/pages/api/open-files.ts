import type { APIRoute } from 'astro';
import { streamWorkshop } from '../../server/open-files/stream';
import { answer } from '../../server/problem';

/**
 * GET: the whole workshop as open files, tar and gzip, as it stands at this moment. It is written
 * while it is fetched; one that breaks off is no whole archive, and is fetched again.
 */
export const GET: APIRoute = ({ request }) =>
  answer(async () => {
    const day = new Date().toISOString().slice(0, 10);
    return new Response(await streamWorkshop(process.env.DATABASE_URL, request.signal), {
      headers: {
        'content-type': 'application/gzip',
        'cache-control': 'no-store',
        'content-disposition': `attachment; filename="hanzai-workshop-${day}.tar.gz"`,
      },
    });
  });
