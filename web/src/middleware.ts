import type { APIContext } from 'astro';
import { defineMiddleware } from 'astro:middleware';
import { ENTERED_BY } from './people/entered-by';
import { changes, RENEWED, TOKEN_HEADER } from './people/page-token';
import { mayGo, ROLE_WORDS } from './people/role';
import { database } from './server/db/client';
import { keepErrandsGoing } from './server/errands/running';
import { took } from './server/health/metrics';
import { pagePolicy } from './server/page-policy';
import {
  changesSession,
  isForAnybody,
  whoAsks,
  withAddress,
  type Asker,
} from './server/people/gate';
import { pageToken, type PageToken } from './server/people/page-token';
import { answer, problem } from './server/problem';

// The built application works on errands; the development server leaves them to it.
if (process.env.HANZAI_SERVES_BUILD === '1') keepErrandsGoing();

/**
 * What the service is asked for and does not have is answered in the form of every other wrong
 * request. A page of another site may not write here: its requests carry its own origin.
 */
export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url } = context;
  const begun = performance.now();
  const response = withToken(
    fromElsewhere(request, url) ??
      (await turnedAway(context)) ??
      (await answered(request, url, next)),
    context.locals.newToken,
  );
  took(request.method, url.pathname, response.status, (performance.now() - begun) / 1000);
  return response;
});

/** The answer to a page of another origin that would change something; undefined where it is none. */
function fromElsewhere(request: Request, { pathname }: URL): Response | undefined {
  const origin = request.headers.get('origin');
  if (!pathname.startsWith('/api/') || !changes(request.method) || origin === null)
    return undefined;
  if (origin.replace(/^https?:\/\//, '') === request.headers.get('host')) return undefined;
  return problem(
    403,
    'From elsewhere',
    `a page of ${origin} may not write here; expected a request of this application's own pages`,
  );
}

/**
 * The answer to somebody who may not go where he asks to; undefined where he may. Where the database
 * is away nobody is known: the page or the door itself says so, and shows nothing.
 */
async function turnedAway(context: APIContext): Promise<Response | undefined> {
  const { request, url, locals } = context;
  const { pathname } = url;
  const forAnybody = isForAnybody(pathname) || readsMetrics(request, pathname);
  if (forAnybody && !changesSession(request.method, pathname)) return undefined;
  let asker: Asker;
  let shown: PageToken | undefined;
  try {
    asker = await whoAsks(database(), withAddress(request.headers, context.clientAddress));
    if (asker.who === 'person') shown = await pageToken(database(), request, asker.session);
  } catch (error) {
    // A page shows nothing that it does not ask the database for.
    return pathname.startsWith('/api/') ? answer(() => Promise.reject(error as Error)) : undefined;
  }
  if (asker.who === 'open') return undefined;
  const isDoor = pathname.startsWith('/api/');
  if (asker.who === 'stranger' && forAnybody) return undefined;
  if (asker.who === 'stranger')
    return isDoor
      ? problem(401, 'Not signed in', 'sign in first; what you entered is kept in this browser')
      : context.redirect(`/sign-in?to=${encodeURIComponent(pathname + url.search)}`);
  locals.newToken = shown?.cookie;
  // For later, as every 401 is: the page asks again with the cookie that comes with this answer.
  if (shown?.isOurs !== true)
    return problem(
      401,
      'No page of ours',
      'this did not show that it comes from a page of the workshop; reload the page',
    );
  if (forAnybody) return undefined;
  // What waited in a browser while somebody else signed in is not entered in his name.
  const as = request.headers.get(ENTERED_BY);
  if (as !== null && as !== asker.person.id)
    return problem(
      401,
      'Not yours',
      'somebody else entered this; it is sent when he signs in here again',
    );
  locals.person = asker.person;
  locals.hasCode = asker.hasCode;
  if (mayGo(asker.person.role, request.method, pathname)) return undefined;
  const detail = `this is not for a ${ROLE_WORDS[asker.person.role]}`;
  return isDoor ? problem(403, 'Not yours', detail) : new Response(detail, { status: 403 });
}

/** Counts are read by a program, which has a token of its own where people sign in. */
const readsMetrics = (request: Request, pathname: string): boolean =>
  pathname === '/api/metrics' &&
  (process.env.HANZAI_METRICS_TOKEN ?? '') !== '' &&
  request.headers.get('authorization') === `Bearer ${process.env.HANZAI_METRICS_TOKEN}`;

/** The answer with a new token for the pages of this session, where there is one. */
function withToken(response: Response, cookie: string | undefined): Response {
  if (cookie === undefined) return response;
  // What another part of the service made may not be changed any more.
  const headers = new Headers(response.headers);
  headers.append('set-cookie', cookie);
  headers.set(TOKEN_HEADER, RENEWED);
  const { status, statusText } = response;
  return new Response(response.body, { status, statusText, headers });
}

async function answered(
  request: Request,
  url: URL,
  next: () => Promise<Response>,
): Promise<Response> {
  if (!url.pathname.startsWith('/api/')) return withPolicy(await next());
  const response = await next();
  const isAnswer = (response.headers.get('content-type') ?? '').includes('json') || response.ok;
  if (isAnswer) return response;
  return problem(
    response.status === 405 ? 405 : 404,
    'Not found',
    `there is no ${request.method} ${url.pathname}; the doors are listed in docs/formats/service.md`,
  );
}

/** A page with what it may load and run. */
async function withPolicy(response: Response): Promise<Response> {
  if (!(response.headers.get('content-type') ?? '').startsWith('text/html')) return response;
  const html = await response.text();
  const headers = new Headers(response.headers);
  headers.set('content-security-policy', pagePolicy(html));
  return new Response(html, { status: response.status, headers });
}
