import type { APIRoute } from 'astro';
import { follow } from '../../server/live';

/** Milliseconds between signs of life: what lies between may close a silent connection. */
const SIGN_MILLISECONDS = 20_000;

/**
 * GET: what happens in the workshop as it happens, as server-sent events: `{"case": id}` where a
 * card was corrected or opened, with `entry` where one was added.
 */
export const GET: APIRoute = ({ request }) => {
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
      const sign = setInterval(() => send(': here\n\n'), SIGN_MILLISECONDS);
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
