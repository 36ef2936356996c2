import pino from 'pino';

/**
 * The server's log: one JSON line an event, to standard error. Parameters of queries never go in: an
 * error that may come from one is told by `told`.
 */
export const logger = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));

/** How the message of a query that failed begins; what follows is the query and what was in it. */
const QUERY = /^failed query/i;

/**
 * What may be said of an error, in the log and to the queue. Of a failed query neither its words nor its
 * values: somebody's case may stand in both, and they are long.
 */
export function told(error: unknown): Readonly<Record<'name' | 'why' | 'code', string>> {
  if (!(error instanceof Error)) return { name: typeof error, why: '', code: '' };
  const { cause } = error as { cause?: Error & { code?: string } };
  const code = cause?.code ?? (error as { code?: string }).code ?? '';
  const why = QUERY.test(error.message) ? 'a query failed' : error.message;
  return { name: error.name, why, code };
}
