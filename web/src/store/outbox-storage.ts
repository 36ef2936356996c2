import { openDB, type IDBPDatabase } from 'idb';
import type { Item } from './outbox';

/** Where an outbox keeps what waits. Each of these fails where the browser lets nothing be kept. */
export interface OutboxStorage {
  all(): Promise<readonly Item[]>;
  put(item: Item): Promise<void>;
  remove(id: string): Promise<void>;
}

const STORE = 'outbox';

/** Kept in the browser, so that neither a closed tab nor a dead network loses anything. */
export class BrowserStorage implements OutboxStorage {
  private db: Promise<IDBPDatabase> | undefined;

  private open(): Promise<IDBPDatabase> {
    this.db ??= openDB('hanzai', 2, {
      upgrade(db, from) {
        if (from < 1) db.createObjectStore(STORE, { keyPath: 'id' });
      },
    });
    return this.db;
  }

  async all(): Promise<readonly Item[]> {
    return (await (await this.open()).getAll(STORE)) as Item[];
  }

  async put(item: Item): Promise<void> {
    await (await this.open()).put(STORE, item);
  }

  async remove(id: string): Promise<void> {
    await (await this.open()).delete(STORE, id);
  }
}
