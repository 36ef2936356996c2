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

/** Who asks, where a proxy of the workshop's own stands between: HANZAI_PROXY, addresses with commas. */
export function proxiesOf(env = process.env) {
  return new Set(
    (env.HANZAI_PROXY ?? '')
      .split(',')
      .map((one) => plainAddress(one.trim()))
      .filter(Boolean),
  );
}

/** An address of version 4 in the clothes of version 6 is the same. */
const plainAddress = (address) => (address ?? '').replace(/^::ffff:(?=\d+\.)/i, '');

/**
 * Where a request comes from stands in its connection. What it says of itself there is dropped, or
 * every guess of a password would come from another address; a proxy of the workshop's own is
 * believed the last one that it names, which it has seen itself.
 */
function settleAddress(request, proxies) {
  const said = String(request.headers['x-forwarded-for'] ?? '')
    .split(',')
    .at(-1)
    .trim();
  for (const name of ['x-forwarded-for', 'x-forwarded-host', 'x-forwarded-proto', 'forwarded'])
    delete request.headers[name];
  if (said && proxies.has(plainAddress(request.socket.remoteAddress)))
    request.headers['x-forwarded-for'] = said;
}

/** Requests that one process works on at a time, before it says "later" to the next. */
const MOST_AT_ONCE = 64;
/** What costs next to nothing, or stays open on purpose, is not counted. */
const UNCOUNTED =
  /^\/(?:api\/(?:events|health|ready|metrics)(?:$|\?)|_astro\/|fonts\/|[\w.-]+\.(?:js|svg|png|webmanifest)(?:$|\?))/;

const said = (response, status, title, detail, headers = {}) => {
  response.writeHead(status, { 'content-type': 'application/problem+json', ...headers });
  response.end(JSON.stringify({ type: 'about:blank', title, status, detail }));
};

/** The same for whoever opened a page: it asks again by itself. */
const comeAgain = (response) => {
  response.writeHead(429, { 'content-type': 'text/html', 'retry-after': '1', refresh: '2' });
  response.end(
    '<!doctype html><html lang="en"><title>A moment</title><h1>A moment</h1><p>More is asked for than can be answered at once. This page asks again by itself.</p></html>',
  );
};

/**
 * Puts the door before a server's own listeners: who is not let in is answered and goes no further,
 * and of many at once some are told to come again, rather than all to wait.
 */
export function guard(server, env = process.env) {
  const allowed = allowedHosts(env);
  const proxies = proxiesOf(env);
  const most = Number(env.HANZAI_MOST_AT_ONCE) || MOST_AT_ONCE;
  const inside = server.listeners('request');
  let atWork = 0;
  server.removeAllListeners('request');
  server.on('request', (request, response) => {
    for (const [name, value] of Object.entries(SAFE_HEADERS)) response.setHeader(name, value);
    const name = nameOf(request.headers.host);
    if (name === undefined || name === null || !allowed.has(name))
      return void said(
        response,
        421,
        'Not here',
        'this workshop is not known under that name; expected the address that the start command printed',
      );
    settleAddress(request, proxies);
    if (!UNCOUNTED.test(request.url ?? '')) {
      if (atWork >= most && (request.headers.accept ?? '').includes('text/html'))
        return void comeAgain(response);
      if (atWork >= most)
        return void said(
          response,
          429,
          'Much at once',
          'more is asked for than can be answered at once; nothing was changed. Try again in a moment',
          { 'retry-after': '1' },
        );
      atWork += 1;
      response.once('close', () => (atWork -= 1));
    }
    for (const listener of inside) listener.call(server, request, response);
  });
}
