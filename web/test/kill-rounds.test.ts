import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { afterAll, describe, expect, it } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import { addEntry, caseView, openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';

// The plug is pulled under three who write: nothing that was confirmed is lost, nothing stands
// twice, and the database gets up by itself.

const root = mkdtempSync(join(tmpdir(), 'hanzai-kill-'));
const isRoot = process.getuid?.() === 0;
const base = isRoot
  ? join('/var/lib', `hanzai-${createHash('sha256').update(root).digest('hex').slice(0, 10)}`)
  : join(root, '.pg');
interface Kept {
  url: (database: string) => string;
  stop: () => Promise<void>;
}
const { keepDatabase } = (await import(
  new URL('../../scripts/database.mjs', import.meta.url).href
)) as {
  keepDatabase: (root: string, name: string, say: (line: string) => void) => Promise<Kept>;
};
const postmaster = (): number =>
  Number(readFileSync(join(base, 'try', 'data', 'postmaster.pid'), 'utf8').split('\n')[0]);
const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

afterAll(() => {
  rmSync(base, { recursive: true, force: true });
  rmSync(root, { recursive: true, force: true });
});

const WRITERS = 3;
const ROUNDS = 3;

describe('a database that is killed under writers', () => {
  it('gets up by itself, and every confirmed entry stands once', async () => {
    const said: string[] = [];
    const kept = await keepDatabase(root, 'try', (line) => {
      said.push(line);
      if (process.env.SHOW) process.stdout.write(`${line}\n`);
    });
    const url = kept.url('hanzai');
    await prepareDatabase(url);
    const { db, pool } = openDatabase(url);
    const opened = await openCase(
      db,
      NewCaseRequest.parse({ title: 'killed', unitModel: 'loom lamp' }),
    );
    if (!opened.ok) throw new Error(opened.detail);
    const caseId = opened.value.id;
    const confirmed = new Set<string>();
    let writing = true;
    /** Sends one entry after the other, each until it is confirmed, as the outbox does. */
    const writer = async (who: number): Promise<number> => {
      let count = 0;
      while (writing) {
        const entry = {
          id: v7(),
          madeAt: new Date().toISOString(),
          body: { kind: 'symptom' as const, text: `writer ${who}, line ${count}` },
        };
        for (;;) {
          const answer = await addEntry(db, caseId, entry).catch(() => undefined);
          if (answer?.ok) break;
          await pause(100);
        }
        confirmed.add(entry.id);
        count += 1;
      }
      return count;
    };
    /** Waits until so many are confirmed; where nothing comes any more, tells what was last said. */
    const until = async (count: number): Promise<void> => {
      const patience = Date.now() + 60_000;
      while (confirmed.size < count) {
        if (Date.now() > patience)
          throw new Error(
            `${confirmed.size} of ${count} confirmed; ${pool.totalCount} connections, ` +
              `${pool.waitingCount} wait for one; said: ${said.join('; ')}`,
          );
        await pause(20);
      }
    };
    const writers = Array.from({ length: WRITERS }, (_, who) => writer(who));
    for (let round = 0; round < ROUNDS; round += 1) {
      await until(confirmed.size + 10);
      process.kill(postmaster(), 'SIGKILL');
      // It is up again where something new is confirmed.
      await until(confirmed.size + WRITERS + 1);
    }
    writing = false;
    const counts = await Promise.all(writers);
    const { entries } = (await caseView(db, caseId))!;
    expect(new Set(entries.map(({ id }) => id)).size).toBe(entries.length);
    expect(entries.length).toBe(confirmed.size);
    expect(entries.every(({ id }) => confirmed.has(id))).toBe(true);
    // Each writer's lines in the order in which it wrote them.
    for (let who = 0; who < WRITERS; who += 1) {
      const own = entries.flatMap(({ body }) =>
        body.kind === 'symptom' && body.text.startsWith(`writer ${who},`)
          ? [Number(body.text.split(' ').at(-1))]
          : [],
      );
      expect(own).toEqual(Array.from({ length: counts[who]! }, (_, i) => i));
    }
    expect(said.filter((line) => line.includes('is up again'))).toHaveLength(ROUNDS);
    await pool.end();
    const started = performance.now();
    await kept.stop();
    expect(performance.now() - started).toBeLessThan(20_000);
  }, 200_000);
});
