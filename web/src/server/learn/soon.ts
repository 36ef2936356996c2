import type { Database } from '../db/client';
import { errandsHere } from '../errands/running';
import { logger, told } from '../logger';
import { isUpToDate, learnAnew } from './learned';

/** So long whoever asks waits for what is being worked out, milliseconds. */
const PATIENCE = 2000;
const LOOKS_EVERY = 100;

const going = new WeakMap<Database, Promise<void>>();

/** Here and now, once at a time: each that waits for another's would keep a connection from it. */
function here(db: Database): Promise<void> {
  const known = going.get(db);
  if (known) return known;
  const run = learnAnew(db).finally(() => going.delete(db));
  going.set(db, run);
  return run;
}

/** Has it worked out: by the queue where this process works on it, else here and now. */
async function setGoing(db: Database): Promise<void> {
  const worker = await errandsHere();
  await (worker ? worker.learn() : here(db));
}

const failed = (error: unknown): void =>
  logger.warn({ from: 'learning', ...told(error) }, 'learning is put off');

/** Something was closed or changed: it is worked in soon, and nobody waits for it. */
export function learnSoon(db: Database): void {
  setGoing(db).catch(failed);
}

/**
 * Whether what was learned is of all that there is. Where it is not it is set going, and waited for a
 * moment: most workshops have it within that.
 */
export async function soonUpToDate(db: Database): Promise<boolean> {
  if (await isUpToDate(db)) return true;
  const until = Date.now() + PATIENCE;
  learnSoon(db);
  while (Date.now() < until) {
    await new Promise((done) => setTimeout(done, LOOKS_EVERY));
    if (await isUpToDate(db)) return true;
  }
  return false;
}
