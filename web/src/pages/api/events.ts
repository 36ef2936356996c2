import type { APIRoute } from 'astro';
import { database } from '../../server/db/client';
import { follow } from '../../server/live';
import { whoAsks, withAddress } from '../../server/people/gate';

/** Milliseconds between signs of life: what lies between may close a silent connection. */
const SIGN_MILLISECONDS = 20_000;

/**
 * GET: what happens in the workshop as it happens, as server-sent events: `{"case": id}` where a
 * card was corrected or opened, with `entry` where one was added.
 */
export const GET: APIRoute = ({ request, locals, clientAddress }) => {
  const encoder = new TextEncoder();
  let close: () => void = () => undefined;
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string): void => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          close();
        }
      };
      const sign = setInterval(() => {
        send(': here\n\n');
        // Where the database is away nobody is known, and nothing happens either.
        stillHere().catch(() => undefined);
      }, SIGN_MILLISECONDS);
      // Who left, or is to sign in since, hears nothing more; the page asks again, and is told.
      const stillHere = async (): Promise<void> => {
        const asker = await whoAsks(database(), withAddress(request.headers, clientAddress));
        const same = locals.person
          ? asker.who === 'person' && asker.person.id === locals.person.id
          : asker.who === 'open';
        if (same) return;
        close();
        controller.close();
      };
      const leave = follow((news) => send(`data: ${news}\n\n`));
      close = () => {
        clearInterval(sign);
        leave();
      };
      request.signal.addEventListener('abort', close);
      send('retry: 2000\n\n');
    },
    cancel: () => close(),
  });
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
  });
};
