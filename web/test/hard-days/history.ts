import pg from 'pg';
import { prepareDatabase } from '../../src/server/db/prepare';
import { closePools } from '../../src/server/reckoning/pool';
import { keepDatabase, pause, place, say, serve } from './common';

// A workshop with years of closed cases: every page and every door for reading, one after the other, and
// how long anybody else waits meanwhile.

/** What is looked at; ids stand for those of the newest closed case and of the largest sheet. */
const PATHS = [
  '/',
  '/?find=belt',
  '/case/new',
  ...['take-in', 'open-up', 'look', 'trace', 'repair', 'prove', 'hand-back'].map(
    (stage) => `/case/NUMBER/${stage}`,
  ),
  '/boards',
  '/boards/BOARD',
  '/patterns',
  '/figures',
  '/stock',
  '/instruments',
  '/workshop',
  '/practice',
  '/batch?name=stores%20shelf%202',
  '/api/cases?most=500',
  '/api/cases?find=belt&most=500',
  '/api/cases?from=4000',
  '/api/cases/CASE',
  '/api/cases/CASE/others',
  '/api/cases/CASE/beside',
  '/api/cases/CASE/evidence.json',
  '/api/cases/CASE/readings.csv',
  '/api/cases/by-number/NUMBER',
  '/api/boards',
  '/api/boards/BOARD',
  '/api/patterns',
  '/api/patterns/lessons',
  '/api/patterns/lessons?before=3000',
  '/api/patterns/board/BOARD',
  '/api/patterns/packs',
  '/api/stock',
  '/api/stock/needs',
  '/api/instruments',
  '/api/ready',
  '/api/metrics',
];

/** Copies every closed case of the demo so many times, with its journal, each a unit of its own. */
async function copyCases(url: string, copies: number): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const columns = async (table: string, but: readonly string[]): Promise<string> =>
    (
      await client.query<{ names: string }>(
        `select string_agg(quote_ident(column_name), ', ') as names from information_schema.columns
         where table_name = $1 and is_generated = 'NEVER' and is_identity = 'NO' and column_name <> all($2)`,
        [table, but],
      )
    ).rows[0]!.names;
  const card = await columns('repair_case', ['id', 'number', 'serial']);
  const line = await columns('case_entry', ['id', 'case_id', 'sequence']);
  const summary = await columns('case_summary', ['case_id']);
  await client.query(
    `create temp table copied as select s.case_id as of, gen_random_uuid() as id
     from case_summary s, generate_series(1, ${copies}) where s.closed`,
  );
  await client.query(
    `insert into repair_case (id, serial, ${card}) select copied.id, 'S-' || copied.id, ${card}
     from repair_case c join copied on copied.of = c.id`,
  );
  await client.query(
    `insert into case_entry (id, case_id, ${line}) select gen_random_uuid(), copied.id, ${line}
     from case_entry e join copied on copied.of = e.case_id order by e.sequence`,
  );
  await client.query(
    `insert into case_summary (case_id, ${summary}) select copied.id, ${summary}
     from case_summary s join copied on copied.of = s.case_id`,
  );
  await client.query('vacuum analyze');
  await client.end();
}

export async function history(copies: number): Promise<void> {
  const kept = await keepDatabase(place, 'hard', () => undefined);
  const url = kept.url('hanzai');
  await prepareDatabase(url, { demo: true });
  await closePools();
  await copyCases(url, copies);
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<Record<string, string>>(
    `select (select count(*) from case_summary where closed) as closed, (select count(*) from case_entry) as entries,
       c.id as "CASE", c.number as "NUMBER",
       (select id from board order by parts desc nulls last limit 1) as "BOARD"
     from repair_case c join case_summary s on s.case_id = c.id where s.closed order by c.number desc limit 1`,
  );
  await client.end();
  const { closed, entries, ...ids } = rows[0]!;
  say(`${closed} closed cases with ${entries} entries, one process`);
  const served = await serve(url, 1);
  // Somebody else, who only wants to know whether it is alive.
  let longest = 0;
  let goesOn = true;
  const other = (async () => {
    while (goesOn) {
      const begun = performance.now();
      await fetch(`${served.base}/api/health`).then((it) => it.text());
      longest = Math.max(longest, performance.now() - begun);
      await pause(20);
    }
  })();
  for (const round of ['the first time', 'again']) {
    say(`  ${round}: ms until it is there, ms that another one waited at most, kB`);
    for (const path of PATHS) {
      longest = 0;
      const begun = performance.now();
      const answer = await fetch(
        served.base + path.replace(/[A-Z]{4,}/g, (name) => ids[name] ?? name),
      );
      const { byteLength } = await answer.arrayBuffer();
      const took = performance.now() - begun;
      await pause(50);
      const row = [took, longest, byteLength / 1000].map((n) => n.toFixed(0).padStart(6)).join(' ');
      say(`  ${row}  ${path}${answer.ok ? '' : ` ANSWERED ${answer.status}`}`);
    }
  }
  goesOn = false;
  await other;
  await served.stop();
  await kept.stop();
}
