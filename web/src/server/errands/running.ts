import { connections, database } from '../db/client';
import { logger } from '../logger';
import { startErrands, type Worker } from './work';

/** After a failure it is tried again: the database may only be away, milliseconds. */
const AGAIN = 5000;
let worker: Promise<Worker> | undefined;

/** The worker of this process, begun where there is none yet. */
export function errands(): Promise<Worker> {
  worker ??= startErrands(database(), connections(), process.env.DATABASE_URL!).catch(
    (error: Error) => {
      worker = undefined;
      throw error;
    },
  );
  return worker;
}

/** The same; undefined in a process that works on none, or whose queue waits for the database. */
export const errandsHere = async (): Promise<Worker | undefined> => worker?.catch(() => undefined);

/** Works on errands from now on, as soon as the database lets it. */
export function keepErrandsGoing(): void {
  errands().catch((error: Error) => {
    logger.warn({ from: 'errands', name: error.name }, 'errands wait for the database');
    setTimeout(keepErrandsGoing, AGAIN).unref();
  });
}
