import pg from 'pg';
import { workshopArchive } from './write';

/** The workshop of a connection as an archive, made as it is fetched. url: of the database. */
export async function streamWorkshop(
  url: string | undefined,
  gone: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const client = new pg.Client({ connectionString: url });
  // What is lost on the way ends the archive, not the application.
  client.on('error', () => undefined);
  await client.connect();
  const close = (): void => void client.end().catch(() => undefined);
  gone.addEventListener('abort', close);
  return streamed(workshopArchive(client), close);
}

/** Chunks as they are asked for. close: what ends their source, whoever goes away first. */
export function streamed(
  chunks: AsyncGenerator<Buffer>,
  close: () => void,
): ReadableStream<Uint8Array> {
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
