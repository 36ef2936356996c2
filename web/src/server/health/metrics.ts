import { collectDefaultMetrics, Histogram, Registry } from 'prom-client';

/**
 * What is counted of this process, in the text format of Prometheus. Nothing personal: no names, no
 * ids.
 */
export const metrics = new Registry();
collectDefaultMetrics({ register: metrics, prefix: 'hanzai_' });

const requests = new Histogram({
  name: 'hanzai_request_seconds',
  help: 'How long answers took, by method, door and status',
  labelNames: ['method', 'door', 'status'],
  buckets: [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
  registers: [metrics],
});

/**
 * A path without what is of one case or one file: `/api/cases/ID/entries`. What is none of ours is
 * one door: who tries names must not fill the memory.
 */
export function doorOf(path: string): string {
  if (!path.startsWith('/api/')) return 'page';
  const door = path
    .split('/')
    .map((word) => (/^[0-9a-f]{8}-[0-9a-f-]{27}$|^\d+$/i.test(word) ? 'ID' : word))
    .join('/');
  return /^(\/(?:[a-z-]{1,20}|ID)){2,5}(\/[a-z]{1,10}\.[a-z]{2,5})?$/.test(door) && isKnown(door)
    ? door
    : 'other';
}

/** At most so many doors are told apart. */
const MOST_DOORS = 80;
const known = new Set<string>();
function isKnown(door: string): boolean {
  if (known.size < MOST_DOORS) known.add(door);
  return known.has(door);
}

/** Takes down how long an answer took. */
export function took(method: string, path: string, status: number, seconds: number): void {
  requests.observe(
    { method: /^[A-Z]{3,7}$/.test(method) ? method : 'OTHER', door: doorOf(path), status },
    seconds,
  );
}
