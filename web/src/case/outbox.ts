import { openDB, type IDBPDatabase } from 'idb';
import type { Entry } from './entry';

interface Kept {
  readonly id: string;
  readonly caseId: string;
  readonly entry: Entry;
}

/**
 * Entries that the server has not confirmed yet, kept in the browser so that neither a closed tab
 * nor a dead network loses one.
 */
export class Outbox {
  private db: Promise<IDBPDatabase> | undefined;

  constructor(private readonly caseId: string) {}

  private open(): Promise<IDBPDatabase> {
    this.db ??= openDB('hanzai', 1, {
      upgrade(db) {
        db.createObjectStore('outbox', { keyPath: 'id' }).createIndex('case', 'caseId');
      },
    });
    return this.db;
  }

  async add(entry: Entry): Promise<void> {
    await (
      await this.open()
    ).put('outbox', { id: entry.id, caseId: this.caseId, entry } satisfies Kept);
  }

  async remove(id: string): Promise<void> {
    await (await this.open()).delete('outbox', id);
  }

  /**
   * What waits for this case, in the order made: ids are UUIDs of version 7, which sort by time.
   */
  async waiting(): Promise<readonly Entry[]> {
    const kept = (await (
      await this.open()
    ).getAllFromIndex('outbox', 'case', this.caseId)) as Kept[];
    return kept.map(({ entry }) => entry).sort((a, b) => (a.id < b.id ? -1 : 1));
  }
}

/**
 * refused: never to be taken. failed: a mistake of the server, which may pass. unreachable: nobody
 * answered, or the database is away.
 */
export type SendResult =
  | { readonly state: 'stored' }
  | { readonly state: 'refused'; readonly detail: string }
  | { readonly state: 'failed'; readonly detail: string }
  | { readonly state: 'unreachable' };

/**
 * So often the server may make a mistake over an entry before it steps aside for those behind it.
 */
export const MOST_FAILURES = 3;

/** Answers of a server whose database, disk or way is not there at the moment. */
const AWAY: readonly number[] = [408, 421, 429, 502, 503, 504, 507];

/**
 * Sends one entry. `unreachable` covers a dead network, a stopped server and a database that does
 * not answer: all worth trying again.
 */
export async function sendEntry(caseId: string, entry: Entry): Promise<SendResult> {
  try {
    const response = await fetch(`/api/cases/${caseId}/entries`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(entry),
      signal: AbortSignal.timeout(8000),
    });
    // Something between here and the workshop may answer in its place.
    if (!(response.headers.get('content-type') ?? '').includes('json'))
      return { state: 'unreachable' };
    if (response.ok) return { state: 'stored' };
    if (AWAY.includes(response.status)) return { state: 'unreachable' };
    const body = (await response.json().catch(() => ({}))) as { detail?: string };
    return {
      state: response.status >= 500 ? 'failed' : 'refused',
      detail: body.detail ?? `the server answered ${response.status}`,
    };
  } catch {
    return { state: 'unreachable' };
  }
}
