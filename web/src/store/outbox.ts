import type { Entry } from '../case/entry';
import type { OutboxStorage } from './outbox-storage';
import type { SendResult } from './send';

/** Something that waits to be stored by the server: an entry, with its picture where it has one. */
export interface Item {
  /** The entry's id: a UUID of version 7, which sorts by time. */
  readonly id: string;
  readonly caseId: string;
  readonly entry: Entry;
  readonly picture?: Blob;
  /** Who entered it, by his id; left out where nobody signs in. It is sent in nobody else's name. */
  readonly by?: string;
  /** Why the server will not take it: it stepped aside, and stays until somebody has seen why. */
  readonly aside?: string;
  /**
   * When the server confirmed it (ISO 8601). It stays in the browser until an answer of the server
   * has it: until then the copy of the case that is shown while the server is away lacks it.
   */
  readonly storedAt?: string;
}

/** What an outbox shows. A new object with every change. */
export interface OutboxState {
  /** In the order made. */
  readonly waiting: readonly Item[];
  /** What will never be stored, with the reason. */
  readonly aside: readonly Item[];
  /** Entries stored since this page was opened, by case: a reload under way may not have them. */
  readonly stored: ReadonlyMap<string, readonly Entry[]>;
  /** False while the server cannot be reached. */
  readonly reachable: boolean;
  /** False where this browser lets nothing be kept: what waits is lost with the page. */
  readonly keeps: boolean;
}

/** What pages of one browser tell each other. */
export type News =
  | { readonly what: 'stored'; readonly caseId: string; readonly entry: Entry }
  | { readonly what: 'changed' };

export interface OutboxWays {
  readonly storage: OutboxStorage;
  readonly send: (item: Item) => Promise<SendResult>;
  /** Who works in this browser now, by his id; undefined where nobody signs in, or nobody knows. */
  readonly who?: () => string | undefined;
  /** Runs work while no other page does; does nothing where another page is at it. */
  readonly alone?: (work: () => Promise<void>) => Promise<void>;
  /** Tells the other pages. */
  readonly tell?: (news: News) => void;
}

/** Whether somebody made an item, as far as anybody knows. who: his id. */
export const isOf = ({ by }: Item, who: string | undefined): boolean =>
  by === undefined || who === undefined || by === who;

/**
 * So often the server may make a mistake over an item before it steps aside for those behind it.
 */
const MOST_FAILURES = 3;

/**
 * Confirmed entries of cases that nobody opens again are kept as long as the copies of cases are.
 */
const STORED_DAYS = 7;

/**
 * What the server has not confirmed yet, of all cases, sent in the order made. An item that the
 * server will never take steps aside, and the rest goes on.
 */
export class Outbox {
  private items: readonly Item[] = [];
  private state: OutboxState = {
    waiting: [],
    aside: [],
    stored: new Map(),
    reachable: true,
    keeps: true,
  };
  private readonly watching = new Set<() => void>();
  private readonly failures = new Map<string, number>();
  private sending: Promise<void> | undefined;
  /** Ids of items that are just being kept. */
  private readonly writing = new Set<string>();

  constructor(private readonly ways: OutboxWays) {}

  readonly subscribe = (watcher: () => void): (() => void) => {
    this.watching.add(watcher);
    return () => void this.watching.delete(watcher);
  };

  readonly snapshot = (): OutboxState => this.state;

  /** Takes an item in: it shows at once, is kept, then sent. */
  async add(made: Item): Promise<void> {
    const by = this.ways.who?.();
    const item = by === undefined ? made : { ...made, by };
    this.hold([...this.items, item]);
    await this.keep(item);
    this.ways.tell?.({ what: 'changed' });
    await this.flush();
  }

  /** Somebody has seen why an item was not stored, and lets go of it. */
  async dismiss(id: string): Promise<void> {
    this.hold(this.items.filter((item) => item.id !== id));
    await this.kept(() => this.ways.storage.remove(id));
    this.ways.tell?.({ what: 'changed' });
  }

  /** Tries an item that stepped aside once more. */
  async again(id: string): Promise<void> {
    const item = this.items.find((one) => one.id === id);
    if (!item) return;
    const { caseId, entry, picture, by } = item;
    this.failures.delete(id);
    await this.replace({
      id,
      caseId,
      entry,
      ...(picture ? { picture } : {}),
      ...(by === undefined ? {} : { by }),
    });
    await this.flush();
  }

  /** Takes in what was kept, also by pages that are closed since. */
  async recall(): Promise<void> {
    const kept = await this.kept(() => this.ways.storage.all());
    if (!kept) return;
    const here = new Map<string, Item>();
    for (const item of kept)
      if (item.storedAt === undefined) here.set(item.id, item);
      else if (Date.now() - Date.parse(item.storedAt) < STORED_DAYS * 86_400_000)
        this.confirm(item.caseId, item.entry);
      else await this.kept(() => this.ways.storage.remove(item.id));
    // What only this page holds, or is just being kept, must not be forgotten over it.
    for (const item of this.items)
      if (!this.state.keeps || this.writing.has(item.id)) here.set(item.id, item);
    // Nor does what the server has come back while it is being removed.
    const isStored = ({ id, caseId }: Item): boolean =>
      this.state.stored.get(caseId)?.some((entry) => entry.id === id) === true;
    this.hold([...here.values()].filter((item) => !isStored(item)));
  }

  /**
   * An answer of the server has these entries of a case: what was confirmed and is among them need
   * not be kept any longer. Called with every answer.
   */
  async answered(caseId: string, ids: ReadonlySet<string>): Promise<void> {
    const seen = this.state.stored.get(caseId)?.filter(({ id }) => ids.has(id)) ?? [];
    for (const { id } of seen) await this.kept(() => this.ways.storage.remove(id));
  }

  /** Another page of this browser did something. */
  async heard(news: News): Promise<void> {
    if (news.what === 'stored') this.confirm(news.caseId, news.entry);
    await this.recall();
  }

  /** Something else saw whether the server answers. */
  sawServer(reachable: boolean): void {
    if (reachable !== this.state.reachable) this.show({ reachable });
  }

  /** Sends what waits. One at a time, however often it is asked. */
  flush(): Promise<void> {
    this.sending ??= (this.ways.alone ?? ((work) => work()))(() => this.sendAll())
      // The next try begins anew; what waits is kept.
      .catch(() => undefined)
      .finally(() => {
        this.sending = undefined;
      });
    return this.sending;
  }

  private async sendAll(): Promise<void> {
    /** Cases whose next item has to wait: what comes behind it may rest on it. */
    const held = new Set<string>();
    for (;;) {
      const item = this.state.waiting.find(
        (one) => !held.has(one.caseId) && isOf(one, this.ways.who?.()),
      );
      if (!item) return;
      const result = await this.ways.send(item);
      this.sawServer(result.state !== 'unreachable');
      if (result.state === 'unreachable') return;
      if (result.state === 'stored') await this.stored(item);
      else if (result.state === 'refused' || this.failedTooOften(item.id))
        await this.replace({ ...item, aside: result.detail });
      else held.add(item.caseId);
    }
  }

  private failedTooOften(id: string): boolean {
    const times = (this.failures.get(id) ?? 0) + 1;
    this.failures.set(id, times);
    return times >= MOST_FAILURES;
  }

  private async stored(item: Item): Promise<void> {
    this.confirm(item.caseId, item.entry);
    this.hold(this.items.filter(({ id }) => id !== item.id));
    const { id, caseId, entry } = item;
    const storedAt = new Date().toISOString();
    await this.kept(() => this.ways.storage.put({ id, caseId, entry, storedAt }));
    this.ways.tell?.({ what: 'stored', caseId: item.caseId, entry: item.entry });
  }

  private confirm(caseId: string, entry: Entry): void {
    const known = this.state.stored.get(caseId) ?? [];
    if (known.some(({ id }) => id === entry.id)) return;
    this.show({ stored: new Map(this.state.stored).set(caseId, [...known, entry]) });
  }

  private async replace(item: Item): Promise<void> {
    this.hold(this.items.map((one) => (one.id === item.id ? item : one)));
    await this.keep(item);
    this.ways.tell?.({ what: 'changed' });
  }

  private async keep(item: Item): Promise<void> {
    this.writing.add(item.id);
    await this.kept(() => this.ways.storage.put(item));
    this.writing.delete(item.id);
  }

  private hold(items: readonly Item[]): void {
    this.items = [...items].sort((a, b) => (a.id < b.id ? -1 : 1));
    this.show({
      waiting: this.items.filter(({ aside }) => aside === undefined),
      aside: this.items.filter(({ aside }) => aside !== undefined),
    });
  }

  /** Does something with the storage; where that fails, says that nothing is kept here. */
  private async kept<T>(work: () => Promise<T>): Promise<T | undefined> {
    try {
      return await work();
    } catch {
      this.show({ keeps: false });
      return undefined;
    }
  }

  private show(change: Partial<OutboxState>): void {
    this.state = { ...this.state, ...change };
    for (const watcher of this.watching) watcher();
  }
}
