// npm run bench:docket: a docket of 10,000 cases with their entries on the test database: how long
// its first page takes and weighs, a search, and fifty people at once.
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { caseEntry, repairCase } from '../src/server/db/schema/case';
import { docketPage } from '../src/server/case/docket';
import { completeSummaries } from '../src/server/case/service';
import { closePools } from '../src/server/reckoning/pool';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { startDatabase } from '../../scripts/database.mjs';

const CASES = Number(process.argv[2] ?? 10_000);
const ENTRIES = 6;
const root = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');
const database = await startDatabase(root, 'test');
const url = database.url(`hanzai_docket_${Date.now()}`);
await prepareDatabase(url);
const { db, pool } = openDatabase(url);
const at = (n: number): Date => new Date(Date.UTC(2026, 0, 1) + n * 600_000);
for (let from = 0; from < CASES; from += 500) {
  const rows = Array.from({ length: Math.min(500, CASES - from) }, (_, i) => ({
    id: v7(),
    title: `case ${from + i}, loses steps when warm`,
    unitModel: `unit ${(from + i) % 37}`,
    owner: `owner ${(from + i) % 811}`,
    openedAt: at(from + i),
    promisedOn: (from + i) % 3 === 0 ? '2026-12-24' : null,
    waitsFor: (from + i) % 5 === 0 ? 'a belt' : '',
  }));
  await db.insert(repairCase).values(rows);
  await db.insert(caseEntry).values(
    rows.flatMap(({ id }, i) =>
      Array.from({ length: ENTRIES }, (_, k) => ({
        id: v7(),
        caseId: id,
        kind: 'symptom',
        body: { kind: 'symptom', text: `line ${k} of it` },
        madeAt: at(from + i),
      })),
    ),
  );
}
async function timed<T>(work: () => Promise<T> | T): Promise<[T, number]> {
  const started = performance.now();
  const result = await work();
  return [result, performance.now() - started];
}
await completeSummaries(db);
const { heapUsed } = process.memoryUsage();
const [page, first] = await timed(() => docketPage(db));
const [, again] = await timed(() => docketPage(db));
const [{ found }, searched] = await timed(() => docketPage(db, { find: 'warm 811 belt' }));
const [, together] = await timed(() =>
  Promise.all(Array.from({ length: 50 }, () => docketPage(db))),
);
process.stdout.write(
  `${page.total} cases, ${ENTRIES} entries each: first page ${first.toFixed(0)} ms, again ${again.toFixed(0)} ms, ${(JSON.stringify(page).length / 1e3).toFixed(0)} kB; `,
);
process.stdout.write(
  `a search ${searched.toFixed(0)} ms (${found} found); 50 at once ${together.toFixed(0)} ms; heap ${(heapUsed / 1e6).toFixed(0)} MB\n`,
);
await pool.end();
await closePools();
await database.stop();
