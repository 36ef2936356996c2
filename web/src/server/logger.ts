import pino from 'pino';

/**
 * The server's log: one JSON line an event, to standard error. Parameters of queries never go in.
 */
export const logger = pino({ level: process.env.LOG_LEVEL ?? 'warn' }, pino.destination(2));
