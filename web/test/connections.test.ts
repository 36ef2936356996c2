import { sql } from 'drizzle-orm';
import { createServer, connect, type Socket } from 'node:net';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openDatabase } from '../src/server/db/client';

// A way to the database that can be cut: what the pool does with connections that are lost.

const target = new URL(process.env.DATABASE_URL!);
const sockets = new Set<Socket>();
let cutAtBegin = false;
const way = createServer((near) => {
  const far = connect(Number(target.port), target.hostname);
  for (const socket of [near, far]) {
    sockets.add(socket);
    socket.on('error', () => undefined);
    socket.on('close', () => {
      sockets.delete(socket);
      near.destroy();
      far.destroy();
    });
  }
  near.on('data', (chunk) => {
    if (cutAtBegin && chunk.includes('begin')) near.destroy();
    else far.write(chunk);
  });
  far.pipe(near);
});
let opened: ReturnType<typeof openDatabase>;

beforeAll(async () => {
  await new Promise<void>((resolve) => way.listen(0, '127.0.0.1', resolve));
  const url = new URL(target);
  url.port = String((way.address() as { port: number }).port);
  opened = openDatabase(url.href);
});

afterAll(async () => {
  await opened.pool.end();
  for (const socket of sockets) socket.destroy();
  await new Promise((resolve) => way.close(resolve));
});

it('a connection that is lost where a transaction begins is not missing afterwards', async () => {
  const { db, pool } = opened;
  cutAtBegin = true;
  const most = pool.options.max + 2;
  for (let i = 0; i < most; i += 1)
    await expect(db.transaction((tx) => tx.execute(sql`select 1`))).rejects.toThrow();
  cutAtBegin = false;
  const answer = await db.transaction((tx) => tx.execute<{ two: number }>(sql`select 2 as two`));
  expect(answer.rows).toEqual([{ two: 2 }]);
  expect(pool.waitingCount).toBe(0);
});

it('a transaction that fails leaves nothing behind, and its connection is not used again', async () => {
  const { db, pool } = opened;
  await expect(
    db.transaction(async (tx) => {
      await tx.execute(sql`create table left_behind (id integer)`);
      throw new Error('no more of this');
    }),
  ).rejects.toThrow('no more of this');
  const { rows } = await db.execute<{ name: string | null }>(
    sql`select to_regclass('left_behind') as name`,
  );
  expect(rows).toEqual([{ name: null }]);
  expect(pool.idleCount).toBe(pool.totalCount);
});
