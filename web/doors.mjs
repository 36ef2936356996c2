// Who is let in at the door, before anything of the application runs: plain JavaScript, used by
// server.mjs.
import { hostname, networkInterfaces } from 'node:os';

/** Headers of every answer, pages, data and files alike. */
export const SAFE_HEADERS = {
  'x-content-type-options': 'nosniff',
  'x-frame-options': 'DENY',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
};

/**
 * Names under which the application may be called. A page of another site that has its own name
 * point here (DNS rebinding) comes with that name, and is turned away.
 */
export function allowedHosts(env = process.env) {
  const names = ['127.0.0.1', 'localhost', '::1'];
  if (env.HOST && !['0.0.0.0', '::'].includes(env.HOST)) names.push(env.HOST);
  if (env.HANZAI_PUBLIC_URL && URL.canParse(env.HANZAI_PUBLIC_URL))
    names.push(new URL(env.HANZAI_PUBLIC_URL).hostname);
  if (env.HANZAI_ALLOW_NETWORK === '1')
    names.push(
      hostname(),
      ...Object.values(networkInterfaces()).flatMap((addresses) =>
        (addresses ?? []).map(({ address }) => address),
      ),
      ...(env.HANZAI_HOSTS ?? '')
        .split(',')
        .map((name) => name.trim())
        .filter(Boolean),
    );
  return new Set(names.map((name) => name.toLowerCase()));
}

/** The name in a Host header, without its port and brackets; undefined where it is none. */
export function nameOf(header) {
  const match = /^(?:\[([0-9a-f:.]+)\]|([^\s:[\]/@?#]+))(?::\d{1,5})?$/i.exec(header ?? '');
  return match && (match[1] ?? match[2]).toLowerCase();
}

/**
 * Puts the door before a server's own listeners: who is not let in is answered and goes no further.
 */
export function guard(server, env = process.env) {
  const allowed = allowedHosts(env);
  const inside = server.listeners('request');
  server.removeAllListeners('request');
  server.on('request', (request, response) => {
    for (const [name, value] of Object.entries(SAFE_HEADERS)) response.setHeader(name, value);
    const name = nameOf(request.headers.host);
    if (name === undefined || name === null || !allowed.has(name)) {
      response.writeHead(421, { 'content-type': 'application/problem+json' });
      const detail =
        'this workshop is not known under that name; expected the address that the start command printed';
      return void response.end(
        JSON.stringify({ type: 'about:blank', title: 'Not here', status: 421, detail }),
      );
    }
    for (const listener of inside) listener.call(server, request, response);
  });
}
