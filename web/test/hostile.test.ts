import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { APIRoute } from 'astro';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { EntryBody } from '../src/case/entry';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { closePools } from '../src/server/reckoning/pool';

// Every door of the application, found by its file, under whatever somebody may send: each answer
// comes soon, says what was wrong in the form of every other, and never that the server made a
// mistake. FUZZ_RUNS: tries of each door.

const RUNS = Number(process.env.FUZZ_RUNS ?? 25);
/** An answer that takes longer is a fault, milliseconds. Generous: a busy machine is slow, not wrong. */
const SOON = 20_000;
/** What a circuit says of all that is seen of it: some seconds on a large board, once a board. */
const LONG = 'patterns/circuit/[id].ts';
const LONG_MILLISECONDS = 180_000;

const root = fileURLToPath(new URL('../src/pages/api/', import.meta.url));
/** Doors that do not end, or that are another's: the package that signs people in has its own tests. */
const PASSED_OVER = ['events.ts', 'auth/[...all].ts', 'open-files.ts'];
const doors = readdirSync(root, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !PASSED_OVER.includes(file))
  .flatMap((file) => {
    const methods = readFileSync(join(root, file), 'utf8').matchAll(
      /export const (GET|POST|PATCH|PUT|DELETE)\b/g,
    );
    return [...methods].map(([, method]) => [file, method!] as const);
  });

/** Ids that are here, so that what is sent is looked at and not only turned away. */
const here: string[] = [];
beforeAll(async () => {
  await prepareDatabase(process.env.DATABASE_URL!, { demo: true });
  const { pool } = openDatabase(process.env.DATABASE_URL!);
  for (const table of ['repair_case', 'board', 'stock_lot', 'case_entry', 'case_picture']) {
    const { rows } = await pool.query<{ id: string }>(`select id from ${table} limit 3`);
    here.push(...rows.map(({ id }) => id));
  }
  await pool.end();
});
afterAll(closePools);

const nasty = fc.constantFrom<unknown>(
  null, '', ' ', 0, -1, 1e308, -0, 2 ** 53, 0.1, true, [], {}, [[]], '\u0000', '\ud800', '٣', 'NaN', '1e999', '../../x',
  "'; drop table board; --", '<script>', '%s%n', 'a'.repeat(20_000), '2026-02-30', '0001-01-01T00:00:00Z', '275760-09-13T00:00:00.000Z',
  '+275760-09-13T00:00:00.000Z', '__proto__', 'constructor', { toString: 1 }, { $gt: '' }, Array.from({ length: 3000 }, () => 0),
); // prettier-ignore
const id = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom(0).chain(() => fc.constantFrom(...here)) },
  { weight: 1, arbitrary: fc.constant(v7()) },
  { weight: 1, arbitrary: fc.string() },
);
/** Names that the doors' bodies have, with values that fit now and then. */
const NAMES: Readonly<Record<string, unknown>> = {
  title: 'a case', unitModel: 'CR-40', complaint: 'dead', version: 1, boardId: null, promisedOn: '2026-12-24', spendingLimit: '20.00',
  madeAt: new Date().toISOString(), fileName: 'x.cir', text: 'x\nV1 A 0 5\nR1 A 0 1k\n.end', of: null, archived: true,
  lot: null, kind: 'take', count: 1, case: null, note: '', quantity: 3, minimum: 0, bin: 'B2', price: 1.5,
  name: 'Wren', role: 'trainee', leaves: true, newCode: true, current: 'x', password: 'long enough 123',
  unitType: 'card-disc-reader', code: '3-1', stage: 'spin', meaning: 'no spin', kinds: ['voltage'], profile: {},
  host: '127.0.0.1', port: 1, message: '*IDN?', isQuery: true, days: 3, forWhom: 'Ilse', showsPictures: true,
  on: true, trust: 0.5, seen: 'x', suspects: 'C1', because: 'x', side: 'top', ties: [], x: 1, sheet: null, workshop: null,
}; // prettier-ignore
const named = fc
  .tuple(
    fc.subarray(Object.keys(NAMES)),
    fc.dictionary(fc.constantFrom(...Object.keys(NAMES), 'id'), nasty, { maxKeys: 3 }),
    id,
  )
  .map(([names, wrong, own]) => ({
    id: own,
    ...Object.fromEntries(names.map((name) => [name, NAMES[name]])),
    ...wrong,
  }));
/** An entry of some kind, its fields of nearly the right sort. */
const entry = fc
  .tuple(
    fc.constantFrom(...EntryBody.options),
    fc.array(fc.oneof(nasty, fc.constantFrom('C1', 'VM', 'on', 'voltage', 3.3, 'spin')), {
      minLength: 12,
      maxLength: 12,
    }),
    id,
  )
  .map(([option, values, own]) => ({
    id: fc.sample(fc.uuid({ version: 7 }), 1)[0],
    madeAt: NAMES.madeAt,
    body: {
      ...Object.fromEntries(Object.keys(option.shape).map((name, i) => [name, values[i % 12]])),
      kind: option.shape.kind.value,
      ...('entry' in option.shape ? { entry: own } : {}),
    },
  }));
const body = fc.oneof(
  named.map((one) => JSON.stringify(one)),
  entry.map((one) => JSON.stringify(one)),
  fc.array(named, { maxLength: 3 }).map((some) => JSON.stringify(some)),
  fc.json(),
  fc.string(),
  fc.constant('['.repeat(50_000)),
  fc.constant(`{"a":${'{"a":'.repeat(5000)}1${'}'.repeat(5001)}`),
);
const query = fc.oneof(
  fc.constant(''),
  fc.webQueryParameters().map((text) => `?${text}`),
  fc.constantFrom(
    '?find=%00', '?find=%25_%5C&from=-1', '?most=1e9&from=1e9', '?from=NaN', '?id=x', '?side=left', '?small', `?find=${'a '.repeat(2000)}`, '?find=%ED%A0%80',
  ),
); // prettier-ignore
const type = fc.constantFrom(
  'application/json',
  'application/json',
  'application/json',
  'text/plain',
  'image/jpeg',
  '',
);

describe('whatever is sent', () => {
  it('every door was found', () => {
    expect(doors.length).toBeGreaterThan(40);
  });
  it.each(doors)(
    '%s %s answers soon, and in words',
    async (file, method) => {
      const route = (
        (await import(/* @vite-ignore */ join(root, file))) as Record<string, APIRoute>
      )[method]!;
      const names = [...file.matchAll(/\[(\w+)\]/g)].map(([, name]) => name!);
      const asked = fc.record({
        body,
        query,
        type,
        ids: fc.array(id, { minLength: 2, maxLength: 2 }),
      });
      await fc.assert(
        fc.asyncProperty(asked, async (sent) => {
          const url = `http://127.0.0.1/api/${file}${sent.query}`;
          const request = new Request(url, {
            method,
            ...(method === 'GET'
              ? {}
              : { body: sent.body, headers: { 'content-type': sent.type } }),
          });
          const params = Object.fromEntries(names.map((name, i) => [name, sent.ids[i % 2]]));
          const begun = performance.now();
          const answer = await route({
            request,
            params,
            url: new URL(url),
            locals: {},
            clientAddress: '127.0.0.1',
          } as unknown as Parameters<APIRoute>[0]);
          expect(performance.now() - begun).toBeLessThan(file === LONG ? LONG_MILLISECONDS : SOON);
          const said = Buffer.from(await answer.arrayBuffer());
          // 502 to 504: another machine, or the start command, is not there.
          if (answer.status >= 400 && ![502, 503, 504].includes(answer.status)) {
            expect({ status: answer.status, said: said.toString().slice(0, 300) }).toMatchObject({
              status: expect.toSatisfy((status: number) => status < 500) as unknown as number,
            });
            expect(answer.headers.get('content-type')).toContain('json');
            expect(
              (JSON.parse(said.toString()) as { detail: string }).detail.length,
            ).toBeGreaterThan(3);
          }
        }),
        { numRuns: file === LONG ? 5 : RUNS, endOnFailure: false },
      );
    },
    300_000 + RUNS * 2000,
  );
});
