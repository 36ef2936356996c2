import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { v7 } from 'uuid';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Entry } from '../case/entry';
import { Outbox, type Item, type News } from './outbox';
import { BrowserStorage, type OutboxStorage } from './outbox-storage';
import type { SendResult } from './send';

// What is filed must neither be lost nor stored twice, whatever server, browser and other pages do.

const STORED: SendResult = { state: 'stored' };
const AWAY: SendResult = { state: 'unreachable' };

let clock = 0;
function item(caseId: string, text: string, more: Partial<Item> = {}): Item {
  // Ids of one millisecond sort by chance; a person does not file two things in one.
  const id = v7({ msecs: 1_700_000_000_000 + (clock += 1) });
  const entry: Entry = {
    id,
    madeAt: '2026-11-27T12:00:00.000Z',
    body: { kind: 'symptom', text },
  };
  return { id, caseId, entry, ...more };
}
const words = (items: readonly Item[]): string[] =>
  items.map(({ entry: { body } }) => (body.kind === 'symptom' ? body.text : body.kind));

/** A server that keeps what it took, and answers as it is told. */
class FakeServer {
  readonly taken = new Map<string, string>();
  answer: (item: Item) => SendResult | Promise<SendResult> = () => STORED;
  tries = 0;

  readonly send = async (one: Item): Promise<SendResult> => {
    this.tries += 1;
    const result = await this.answer(one);
    if (result.state === 'stored') this.taken.set(one.id, words([one])[0]!);
    return result;
  };
}

let server: FakeServer;
beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
  server = new FakeServer();
});
const page = (more: Partial<ConstructorParameters<typeof Outbox>[0]> = {}): Outbox =>
  new Outbox({ storage: new BrowserStorage(), send: server.send, ...more });

/** What is kept in the browser and the server has not confirmed. */
const unconfirmed = async (): Promise<readonly Item[]> =>
  (await new BrowserStorage().all()).filter(({ storedAt }) => storedAt === undefined);

describe('the outbox', () => {
  it('shows an item at once, sends it, and says that it is stored', async () => {
    const outbox = page();
    const seen: string[][] = [];
    outbox.subscribe(() => seen.push(words(outbox.snapshot().waiting)));
    const adding = outbox.add(item('a', 'dead'));
    expect(words(outbox.snapshot().waiting)).toEqual(['dead']);
    await adding;
    expect(outbox.snapshot().waiting).toEqual([]);
    expect(
      outbox
        .snapshot()
        .stored.get('a')!
        .map(({ body }) => body),
    ).toEqual([{ kind: 'symptom', text: 'dead' }]);
    expect(seen[0]).toEqual(['dead']);
  });

  it('keeps what the server confirmed until an answer has it, and sends it once', async () => {
    const first = page();
    const [one, two] = [item('a', 'came off'), item('a', 'went on')];
    await first.add(one);
    await first.add(two);
    // Another page opens, the server being away: what it shows of the case is older than both.
    const next = page();
    await next.recall();
    await next.flush();
    expect(next.snapshot().waiting).toEqual([]);
    expect(
      next
        .snapshot()
        .stored.get('a')!
        .map(({ id }) => id),
    ).toEqual([one.id, two.id]);
    expect(server.tries).toBe(2);
    await next.answered('a', new Set([one.id]));
    await next.answered('b', new Set([two.id]));
    const last = page();
    await last.recall();
    expect(
      last
        .snapshot()
        .stored.get('a')!
        .map(({ id }) => id),
    ).toEqual([two.id]);
    vi.setSystemTime(Date.now() + 8 * 86_400_000);
    const later = page();
    await later.recall();
    vi.useRealTimers();
    expect(later.snapshot().stored.size).toBe(0);
    expect(await new BrowserStorage().all()).toEqual([]);
  });

  it('survives a day without the server and a closed page, and keeps the order', async () => {
    server.answer = () => AWAY;
    const first = page();
    for (const text of ['one', 'two', 'three']) await first.add(item('a', text));
    expect(first.snapshot()).toMatchObject({ reachable: false, keeps: true });
    const next = page();
    await next.recall();
    expect(words(next.snapshot().waiting)).toEqual(['one', 'two', 'three']);
    server.answer = () => STORED;
    await next.flush();
    expect([...server.taken.values()]).toEqual(['one', 'two', 'three']);
    expect(next.snapshot()).toMatchObject({ waiting: [], reachable: true });
  });

  it('brings a day off of a tablet home: 300 entries and 20 pictures, over a line that comes and goes', async () => {
    const DAY = { entries: 300, pictures: 20, closed: 6 };
    server.answer = () => AWAY;
    const made: string[] = [];
    let outbox = page();
    for (let i = 0; i < DAY.entries; i += 1) {
      // The tablet is put away and taken up again, now and then.
      if (i % Math.floor(DAY.entries / DAY.closed) === 0) {
        outbox = page();
        await outbox.recall();
      }
      const picture = i % (DAY.entries / DAY.pictures) === 0;
      const text = `${picture ? 'picture' : 'line'} ${i}`;
      await outbox.add(
        item(`case ${i % 3}`, text, picture ? { picture: new Blob([text]) } : undefined),
      );
      made.push(text);
    }
    expect(await unconfirmed()).toHaveLength(DAY.entries);
    // Back home: some answers get lost although the server took what was sent, some times it is busy.
    let asked = 0;
    const first: string[] = [];
    const pictures = new Map<string, string>();
    server.answer = async (one) => {
      asked += 1;
      if (asked % 7 === 0) return AWAY;
      const [text] = words([one]);
      if (!first.includes(text!)) first.push(text!);
      if (one.picture) pictures.set(text!, await one.picture.text());
      return asked % 11 === 0 ? AWAY : STORED;
    };
    for (let i = 0; i < 500 && outbox.snapshot().waiting.length > 0; i += 1) await outbox.flush();
    expect(outbox.snapshot()).toMatchObject({ waiting: [], reachable: true });
    expect(first).toEqual(made);
    expect(server.taken.size).toBe(DAY.entries);
    expect(pictures.size).toBe(DAY.pictures);
    for (const [text, bytes] of pictures) expect(bytes).toBe(text);
    expect(await unconfirmed()).toEqual([]);
  });

  it('lets what is refused step aside with its reason, and the rest goes on', async () => {
    server.answer = (one) =>
      words([one])[0] === 'bad' ? { state: 'refused', detail: 'no part U9' } : STORED;
    const outbox = page();
    for (const text of ['good', 'bad', 'better']) await outbox.add(item('a', text));
    expect([...server.taken.values()]).toEqual(['good', 'better']);
    expect(outbox.snapshot().aside).toMatchObject([{ aside: 'no part U9' }]);
    // It stays over a reload, is not sent again by itself, and goes when somebody has seen why.
    const next = page();
    await next.recall();
    const tries = server.tries;
    await next.flush();
    expect([words(next.snapshot().aside), server.tries]).toEqual([['bad'], tries]);
    await next.dismiss(next.snapshot().aside[0]!.id);
    expect([next.snapshot().aside, await unconfirmed()]).toEqual([[], []]);
  });

  it('takes an item that stepped aside up again where somebody asks', async () => {
    server.answer = () => ({ state: 'refused', detail: 'closed' });
    const outbox = page();
    await outbox.add(item('a', 'late'));
    server.answer = () => STORED;
    await outbox.again(outbox.snapshot().aside[0]!.id);
    expect([...server.taken.values()]).toEqual(['late']);
    expect(outbox.snapshot()).toMatchObject({ aside: [], waiting: [] });
  });

  it('holds the rest of a case behind a mistake of the server, not other cases, and no more than three times', async () => {
    server.answer = (one) =>
      words([one])[0] === 'stone' ? { state: 'failed', detail: 'number 0a1b' } : STORED;
    const outbox = page();
    await outbox.add(item('a', 'stone'));
    await outbox.add(item('b', 'elsewhere'));
    expect([...server.taken.values()]).toEqual(['elsewhere']);
    await outbox.add(item('a', 'behind'));
    expect(outbox.snapshot().aside).toMatchObject([{ aside: 'number 0a1b' }]);
    expect([...server.taken.values()]).toEqual(['elsewhere', 'behind']);
  });

  it('sends one at a time, however often it is asked', async () => {
    let under = 0;
    let most = 0;
    server.answer = async () => {
      most = Math.max(most, (under += 1));
      await new Promise((resolve) => setTimeout(resolve, 2));
      under -= 1;
      return STORED;
    };
    const outbox = page();
    await Promise.all(
      ['a', 'b', 'c', 'd'].map((text) =>
        Promise.all([outbox.add(item('x', text)), outbox.flush()]),
      ),
    );
    await outbox.flush();
    expect([most, server.taken.size, server.tries]).toEqual([1, 4, 4]);
  });

  it('goes on where the sending itself breaks', async () => {
    server.answer = () => {
      throw new TypeError('a mistake in the page');
    };
    const outbox = page();
    await outbox.add(item('a', 'kept'));
    expect(words(outbox.snapshot().waiting)).toEqual(['kept']);
    server.answer = () => STORED;
    await outbox.flush();
    expect([...server.taken.values()]).toEqual(['kept']);
  });

  it.each([
    ['denied', 'SecurityError'],
    ['full', 'QuotaExceededError'],
  ])('says so where the storage is %s, and sends all the same', async (_, name) => {
    const deny = (): Promise<never> => Promise.reject(new DOMException('no', name));
    const storage: OutboxStorage = { all: deny, put: deny, remove: deny };
    server.answer = () => AWAY;
    const outbox = page({ storage });
    await outbox.recall();
    await outbox.add(item('a', 'in this page alone'));
    expect(outbox.snapshot()).toMatchObject({ keeps: false });
    // Neither a recall nor another page's news makes it forget what only it holds.
    await outbox.heard({ what: 'changed' });
    expect(words(outbox.snapshot().waiting)).toEqual(['in this page alone']);
    server.answer = () => STORED;
    await outbox.flush();
    expect([...server.taken.values()]).toEqual(['in this page alone']);
  });

  it('keeps a picture with its entry', async () => {
    server.answer = () => AWAY;
    await page().add(item('a', 'with a picture', { picture: new Blob(['jpeg']) }));
    const [kept] = await new BrowserStorage().all();
    expect(kept!.picture).toBeDefined();
  });
});

describe('two people at one browser', () => {
  it('each has what he entered sent when he is there, and in nobody else’s name', async () => {
    let who: string | undefined = 'ada';
    const own = page({ who: () => who });
    const sent: [string | undefined, string][] = [];
    server.answer = (one) => {
      sent.push([one.by, words([one])[0]!]);
      return STORED;
    };
    const away = server.answer;
    server.answer = () => AWAY;
    await own.add(item('a', 'of Ada'));
    who = 'ben';
    await own.add(item('a', 'of Ben'));
    server.answer = away;
    await own.flush();
    expect(sent).toEqual([['ben', 'of Ben']]);
    expect(words(own.snapshot().waiting)).toEqual(['of Ada']);
    // Another page, a day later: whose it is was kept with it.
    who = 'ada';
    const later = page({ who: () => who });
    await later.recall();
    await later.flush();
    expect(sent).toEqual([
      ['ben', 'of Ben'],
      ['ada', 'of Ada'],
    ]);
  });
  it('what stepped aside is still his who made it when it is tried again', async () => {
    const own = page({ who: () => 'ada' });
    server.answer = () => ({ state: 'refused', detail: 'not now' });
    const refused = item('a', 'of Ada');
    await own.add(refused);
    server.answer = () => AWAY;
    await own.again(refused.id);
    expect(own.snapshot().waiting).toMatchObject([{ by: 'ada' }]);
    expect(own.snapshot().waiting[0]).not.toHaveProperty('aside');
  });
  it('where nobody signs in, nobody’s name is kept and everything is sent', async () => {
    const own = page({ who: () => undefined });
    await own.add(item('a', 'of whoever'));
    expect([...server.taken.values()]).toEqual(['of whoever']);
    expect((await new BrowserStorage().all())[0]).not.toHaveProperty('by');
  });
});

describe('two pages of one browser', () => {
  /** Two outboxes on one storage that tell each other what they do. */
  function pair(): [Outbox, Outbox] {
    const pages: Outbox[] = [];
    let busy = false;
    const alone = async (work: () => Promise<void>): Promise<void> => {
      if (busy) return;
      busy = true;
      await work().finally(() => (busy = false));
    };
    for (const own of [0, 1])
      pages.push(
        page({ alone, tell: (news: News) => void pages[1 - own]?.heard(structuredClone(news)) }),
      );
    return [pages[0]!, pages[1]!];
  }

  it('see what the other filed, and what the server took of it', async () => {
    const [one, other] = pair();
    server.answer = () => AWAY;
    await one.add(item('a', 'from one'));
    await vi.waitFor(() => expect(words(other.snapshot().waiting)).toEqual(['from one']));
    server.answer = () => STORED;
    await other.flush();
    await vi.waitFor(() => expect(one.snapshot().waiting).toEqual([]));
    expect(one.snapshot().stored.get('a')).toHaveLength(1);
    expect(server.taken.size).toBe(1);
  });

  it('lose nothing and store nothing twice when both file at once', async () => {
    const [one, other] = pair();
    server.answer = async () => {
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 3));
      return Math.random() < 0.3 ? AWAY : STORED;
    };
    await Promise.all(
      Array.from({ length: 30 }, (_, i) => (i % 2 ? one : other).add(item('a', `n${i}`))),
    );
    server.answer = () => STORED;
    await vi.waitFor(async () => {
      await Promise.all([one.flush(), other.flush()]);
      expect(server.taken.size).toBe(30);
    });
    await vi.waitFor(() =>
      expect([one.snapshot().waiting, other.snapshot().waiting]).toEqual([[], []]),
    );
    expect(await unconfirmed()).toEqual([]);
  });
});
