import pg from 'pg';
import { logger } from './logger';

type Follower = (news: string) => void;

/** Milliseconds before the connection to the database is tried again. */
const AGAIN_MILLISECONDS = 2000;

const followers = new Set<Follower>();
let listening: pg.Client | undefined;

/**
 * Tells of everything that is added to the database from now on, whichever server added it. Returns
 * what ends it. One connection listens for all followers, while there are any.
 */
export function follow(follower: Follower): () => void {
  followers.add(follower);
  if (!listening) listen();
  return () => {
    followers.delete(follower);
    if (followers.size > 0) return;
    const last = listening;
    listening = undefined;
    void last?.end().catch(() => undefined);
  };
}

function listen(): void {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL, keepAlive: true });
  listening = client;
  let lost = false;
  const again = (): void => {
    if (lost) return;
    lost = true;
    void client.end().catch(() => undefined);
    if (listening !== client) return;
    listening = undefined;
    setTimeout(() => {
      if (!listening && followers.size > 0) listen();
    }, AGAIN_MILLISECONDS);
  };
  client.on('error', again);
  client.on('end', again);
  client.on('notification', ({ payload }) => {
    if (payload) for (const follower of followers) follower(payload);
  });
  client
    .connect()
    .then(() => client.query<{ channel: string }>(`select 'hanzai ' || workshop_here() as channel`))
    .then(({ rows }) => client.query(`listen ${client.escapeIdentifier(rows[0]!.channel)}`))
    .catch((error: Error) => {
      logger.warn({ name: error.name }, 'live news wait for the database');
      again();
    });
}
