import { createGzip } from 'node:zlib';
import { checkBoard, indexBoard } from '@hanzai/core/board';
import { writeReadingsFile } from '@hanzai/core/instrument';
import Papa from 'papaparse';
import type pg from 'pg';
import { pack } from 'tar-stream';
import { Entry } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { boardDeck } from '../board/service';
import { wholeOf, type Kept } from '../picture/kept';
import {
  AFTER_CASES,
  BEFORE_CASES,
  BOARD_PICTURES,
  BOARDS,
  HEAD,
  TO_READ,
  type Row,
  type WorkshopHead,
} from './head';

interface OpenFile {
  readonly name: string;
  readonly bytes: string | Buffer;
}

/** What of a row is nobody's business outside, or is made anew. */
const LEFT_OUT = ['belongs_to', 'sequence'];

/**
 * The rows of a table that are this workshop's, as a table of a query: the owner of the database sees
 * those of all.
 */
const own = (table: string): string =>
  `(select * from ${table} where belongs_to = workshop_here()) as ${table}`;

/** Rows of a query as open JSON; a query gives `row`. */
async function rowsOf(client: pg.ClientBase, query: string, values: unknown[] = []) {
  const { rows } = await client.query<{ row: Row }>(
    `select to_jsonb(t) - $${values.length + 1}::text[] as row from (${query}) t`,
    [...values, LEFT_OUT],
  );
  return rows.map(({ row }) => row);
}

const json = (name: string, value: unknown): OpenFile => ({
  name,
  bytes: `${JSON.stringify(value, undefined, 1)}\n`,
});

/** Without pictures, whose bytes have files of their own. */
const PICTURE_ROW = 'id, case_id, width_px, height_px, taken_at';
const BOARD_PICTURE_ROW = 'id, sheet, side, ties, width_px, height_px, taken_at';
/** How somebody is called here and what he may do, and nothing that he signs in with. */
const READ: Readonly<Record<(typeof TO_READ)[number], string>> = {
  person: `select id, name, role, created_at, left_at from ${own('person')} order by created_at`,
  audit_line: `select at, who, what from ${own('audit_line')} order by id`,
};

/**
 * A workshop as open files, one after the other: JSON by its schemas, decks, CSV, JPEG. client: used
 * for nothing else; all of it is of one moment, so that it belongs together while people work.
 */
async function* workshopFiles(client: pg.ClientBase): AsyncGenerator<OpenFile> {
  await client.query('begin isolation level repeatable read read only');
  const counted = ['board', 'board_picture', 'repair_case', 'case_entry', 'case_picture'];
  const rows: Record<string, number> = {};
  for (const table of [...counted, ...BEFORE_CASES, ...AFTER_CASES]) {
    const { rows: found } = await client.query<{ n: number }>(
      `select count(*)::int as n from ${own(table)}`,
    );
    rows[table] = found[0]!.n;
  }
  const head: WorkshopHead = {
    format: 'hanzai-workshop',
    version: 1,
    madeAt: new Date().toISOString(),
    rows,
  };
  yield json(HEAD, head);
  yield* boardFiles(client);
  for (const table of BEFORE_CASES)
    yield json(`${table}.json`, await rowsOf(client, `select * from ${own(table)} order by 1`));
  yield* caseFiles(client);
  for (const table of AFTER_CASES) {
    const found = await rowsOf(client, `select * from ${own(table)} order by 1, 2`);
    yield json(`${table}.json`, found);
    yield { name: `${table}.csv`, bytes: `${Papa.unparse(found as object[])}\n` };
  }
  for (const table of TO_READ) yield json(`${table}.json`, await rowsOf(client, READ[table]));
}

async function* boardFiles(client: pg.ClientBase): AsyncGenerator<OpenFile> {
  const list = await rowsOf(
    client,
    `select id, sheet, version, made_by, changes, title, source_name, parts, nets, archived_at, created_at
     from ${own('board')} order by created_at, version`,
  );
  yield json(BOARDS, list);
  for (const { id } of list) {
    const { rows } = await client.query<{ content: unknown }>(
      'select content from board where id = $1',
      [id],
    );
    yield json(`boards/${String(id)}.json`, rows[0]!.content);
    const board = checkBoard(rows[0]!.content);
    if (board.ok) yield { name: `boards/${String(id)}.cir`, bytes: boardDeck(board.value) };
  }
  const pictures = await rowsOf(
    client,
    `select ${BOARD_PICTURE_ROW} from ${own('board_picture')} order by taken_at`,
  );
  yield json(BOARD_PICTURES, pictures);
  for (const { id } of pictures) yield await picture(client, 'board_picture', String(id));
}

async function* caseFiles(client: pg.ClientBase): AsyncGenerator<OpenFile> {
  const { rows: cases } = await client.query<{ id: string; number: number; board: string | null }>(
    `select id, number, board_id as board from ${own('repair_case')} order by number`,
  );
  for (const { id, number, board } of cases) {
    const [card] = await rowsOf(client, 'select * from repair_case where id = $1', [id]);
    const entries = await rowsOf(
      client,
      'select * from case_entry where case_id = $1 order by sequence',
      [id],
    );
    const pictures = await rowsOf(
      client,
      `select ${PICTURE_ROW} from case_picture where case_id = $1 order by taken_at`,
      [id],
    );
    yield json(`cases/${number}.json`, {
      format: 'hanzai-case',
      version: 1,
      card,
      entries,
      pictures,
    });
    yield { name: `cases/${number}-readings.csv`, bytes: await readings(client, entries, board) };
    for (const one of pictures) yield await picture(client, 'case_picture', String(one.id));
  }
}

async function picture(client: pg.ClientBase, table: string, id: string): Promise<OpenFile> {
  const { rows } = await client.query<Kept>(
    `select image, kept_at as "keptAt" from ${table} where id = $1`,
    [id],
  );
  return { name: `pictures/${id}.jpg`, bytes: await wholeOf(rows[0]!) };
}

/** The readings of a case that stand, as a readings file. */
async function readings(
  client: pg.ClientBase,
  entries: readonly Row[],
  boardId: string | null,
): Promise<string> {
  const { rows } = await client.query<{ content: unknown }>(
    'select content from board where id = $1',
    [boardId],
  );
  const board = rows[0] && checkBoard(rows[0].content);
  const read = entries.flatMap((row) => {
    const entry = Entry.safeParse({
      id: row.id,
      madeAt: new Date(String(row.made_at)).toISOString(),
      body: row.body,
    });
    return entry.success ? [entry.data] : [];
  });
  return writeReadingsFile(
    playJournal(read, board?.ok ? indexBoard(board.value) : undefined).readings,
  );
}

/** The files as one, tar and gzip. Nothing more of it is in memory than one file. */
export async function* workshopArchive(client: pg.ClientBase): AsyncGenerator<Buffer> {
  const tar = pack();
  const out = tar.pipe(createGzip());
  // Whoever fetches it may be gone when it fails: then nobody is left to be told.
  for (const stream of [tar, out]) stream.on('error', () => undefined);
  const filled = fill(tar, client);
  // What fails while it is filled ends the archive, which is then no whole one.
  filled.catch((error: Error) => out.destroy(error));
  try {
    yield* out as AsyncIterable<Buffer>;
    await filled;
  } finally {
    tar.destroy();
    out.destroy();
  }
}

/** One file after the other: the next is made when this one is taken. */
async function fill(tar: ReturnType<typeof pack>, client: pg.ClientBase): Promise<void> {
  for await (const { name, bytes } of workshopFiles(client))
    await new Promise<void>((resolve, reject) => {
      const size = Buffer.byteLength(bytes);
      const entry = tar.entry({ name, size, mode: 0o644 }, (error) =>
        error ? reject(error) : resolve(),
      );
      entry.end(bytes);
    });
  tar.finalize();
}
