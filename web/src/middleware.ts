import { defineMiddleware } from 'astro:middleware';
import { took } from './server/health/metrics';
import { pagePolicy } from './server/page-policy';
import { problem } from './server/problem';

/**
 * What the service is asked for and does not have is answered in the form of every other wrong
 * request. A page of another site may not write here: its requests carry its own origin.
 */
export const onRequest = defineMiddleware(async (context, next) => {
  const { request, url } = context;
  const begun = performance.now();
  const response = await answered(request, url, next);
  took(request.method, url.pathname, response.status, (performance.now() - begun) / 1000);
  return response;
});

async function answered(
  request: Request,
  url: URL,
  next: () => Promise<Response>,
): Promise<Response> {
  if (!url.pathname.startsWith('/api/')) return withPolicy(await next());
  const origin = request.headers.get('origin');
  const reads = request.method === 'GET' || request.method === 'HEAD';
  if (
    !reads &&
    origin !== null &&
    origin.replace(/^https?:\/\//, '') !== request.headers.get('host')
  ) {
    return problem(
      403,
      'From elsewhere',
      `a page of ${origin} may not write here; expected a request of this application's own pages`,
    );
  }
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
