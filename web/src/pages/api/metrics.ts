import type { APIRoute } from 'astro';
import { metrics } from '../../server/health/metrics';

/** GET: what is counted of this process, in the text format of Prometheus. */
export const GET: APIRoute = async () =>
  new Response(await metrics.metrics(), { headers: { 'content-type': metrics.contentType } });
