// npm run bench:docket: a docket of 10,000 cases with their entries on the test database: how long
// it takes to put together, what it weighs, how long a search takes.
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { caseEntry, repairCase } from '../src/server/db/schema/case';
import { docket } from '../src/server/case/service';
import { searchText } from '../src/docket/search';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { startDatabase } from '../../scripts/database.mjs';

const CASES = Number(process.argv[2] ?? 10_000);
const ENTRIES = 6;
const root = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');
const database = await startDatabase(root, 'test');
const url = database.url(`hanzai_docket_${Date.now()}`);
await prepareDatabase(url, false);
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
const [lines, first] = await timed(() => docket(db));
const [, again] = await timed(() => docket(db));
const [texts, prepared] = await timed(() => lines.map(searchText));
const [found, searched] = await timed(
  () => texts.filter((text) => ['warm', '811', 'belt'].every((word) => text.includes(word))).length,
);
process.stdout.write(
  `${lines.length} cases, ${ENTRIES} entries each: docket ${first.toFixed(0)} ms, again ${again.toFixed(0)} ms, ${(JSON.stringify(lines).length / 1e6).toFixed(1)} MB; `,
);
process.stdout.write(
  `search texts ${prepared.toFixed(0)} ms, one search ${searched.toFixed(1)} ms (${found} found)\n`,
);
await pool.end();
await database.stop();
