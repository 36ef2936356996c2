import type { APIRoute } from 'astro';
import pg from 'pg';
import { workshopArchive } from '../../server/open-files/write';
import { answer } from '../../server/problem';

/**
 * GET: the whole workshop as open files, tar and gzip, as it stands at this moment. It is written
 * while it is fetched; one that breaks off is no whole archive, and is fetched again.
 */
export const GET: APIRoute = ({ request }) =>
  answer(async () => {
    const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
    // What is lost on the way ends the archive, not the application.
    client.on('error', () => undefined);
    await client.connect();
    const close = (): void => void client.end().catch(() => undefined);
    request.signal.addEventListener('abort', close);
    try {
      await client.query('begin isolation level repeatable read read only');
    } catch (error) {
      close();
      throw error;
    }
    const day = new Date().toISOString().slice(0, 10);
    return new Response(streamed(workshopArchive(client), close), {
      headers: {
        'content-type': 'application/gzip',
        'cache-control': 'no-store',
        'content-disposition': `attachment; filename="hanzai-workshop-${day}.tar.gz"`,
      },
    });
  });

/** Chunks as they are asked for. close: what ends their source, whoever goes away first. */
function streamed(chunks: AsyncGenerator<Buffer>, close: () => void): ReadableStream<Uint8Array> {
  return new ReadableStream({
    async pull(controller) {
      try {
        const { done, value } = await chunks.next();
        if (!done) return controller.enqueue(new Uint8Array(value));
        close();
        controller.close();
      } catch (error) {
        close();
        controller.error(error);
      }
    },
    cancel() {
      close();
      void chunks.return(undefined).catch(() => undefined);
    },
  });
}
