import { defineMiddleware } from 'astro:middleware';
import { problem } from './server/problem';

/** What the service is asked for and does not have is answered in the form of every other wrong request. A page of another site may not write here:
 *  its requests carry its own origin. */
export const onRequest = defineMiddleware(async ({ request, url }, next) => {
  if (!url.pathname.startsWith('/api/')) return next();
  const origin = request.headers.get('origin');
  const reads = request.method === 'GET' || request.method === 'HEAD';
  if (!reads && origin !== null && origin.replace(/^https?:\/\//, '') !== request.headers.get('host')) {
    return problem(403, 'From elsewhere', `a page of ${origin} may not write here; expected a request of this application's own pages`);
  }
  const response = await next();
  const answered = (response.headers.get('content-type') ?? '').includes('json') || response.ok;
  if (answered) return response;
  return problem(
    response.status === 405 ? 405 : 404,
    'Not found',
    `there is no ${request.method} ${url.pathname}; the doors are listed in docs/formats/service.md`,
  );
});
