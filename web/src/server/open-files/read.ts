import { Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import type pg from 'pg';
import sharp from 'sharp';
import { extract } from 'tar-stream';
import { z } from 'zod';
import { develop } from '../picture/service';
import {
  AFTER_CASES,
  BEFORE_CASES,
  BOARD_PICTURES,
  BOARDS,
  CaseFile,
  HEAD,
  Row,
  WorkshopHead,
} from './head';

/** The largest single file that is taken, bytes, and the largest whole, unpacked. */
const MOST_BYTES = 60_000_000;
const MOST_IN_ALL = 200_000_000_000;

/** What is wrong with a file, in words that name it. */
export class Unreadable extends Error {}

/** What an import did. */
export interface Imported {
  /** Rows that came in, by table. */
  readonly added: Readonly<Record<string, number>>;
  /** Rows that were here before. */
  readonly known: number;
  /** Cases whose number was another's here: [theirs, ours]. */
  readonly renumbered: readonly (readonly [number, number])[];
}

interface Run {
  readonly client: pg.ClientBase;
  readonly added: Record<string, number>;
  known: number;
  readonly renumbered: (readonly [number, number])[];
  /** Rows of pictures whose bytes are still to come, by their id. */
  readonly awaited: Map<string, { readonly table: string; readonly row: Row }>;
  /** Boards whose content is still to come. */
  readonly boards: Map<string, Row>;
  readonly columns: Map<string, ReadonlySet<string>>;
}

/**
 * Takes a workshop of open files in: what is here already stays as it is, so the same files twice
 * are taken once. client: within a transaction, which a failure has to end.
 * @throws Unreadable where a file is not what it should be
 */
export async function takeWorkshop(
  client: pg.ClientBase,
  archive: AsyncIterable<Uint8Array>,
): Promise<Imported> {
  const run: Run = {
    client,
    added: {},
    known: 0,
    renumbered: [],
    awaited: new Map(),
    boards: new Map(),
    columns: new Map(),
  };
  let head: WorkshopHead | undefined;
  for await (const { name, bytes } of filesOf(archive)) {
    if (name === HEAD) head = readJson(name, bytes, WorkshopHead);
    else if (!head)
      throw new Unreadable(`the first file is ${name}; expected ${HEAD} of a whole workshop`);
    else await takeFile(run, name, bytes);
  }
  if (!head) throw new Unreadable('there is no file in it; expected a whole workshop');
  const [missing] = [...run.awaited.keys(), ...run.boards.keys()];
  if (missing !== undefined)
    throw new Unreadable(`${missing} is spoken of and did not come: the files are not whole`);
  await numbersGoOn(client);
  return { added: run.added, known: run.known, renumbered: run.renumbered };
}

async function* filesOf(
  archive: AsyncIterable<Uint8Array>,
): AsyncGenerator<{ name: string; bytes: Buffer }> {
  const source = Readable.from(archive);
  const gunzip = createGunzip();
  const tar = extract();
  source.on('error', (error) => gunzip.destroy(error));
  gunzip.on('error', (error) => tar.destroy(error));
  source.pipe(gunzip).pipe(tar);
  let all = 0;
  try {
    for await (const entry of tar) {
      const { name, size = 0, type } = entry.header;
      if (size > MOST_BYTES)
        throw new Unreadable(
          `${name} has ${Math.round(size / 1e6)} MB; expected at most ${MOST_BYTES / 1e6}`,
        );
      if ((all += size) > MOST_IN_ALL) throw new Unreadable('it unfolds into more than is taken');
      const chunks: Buffer[] = [];
      for await (const chunk of entry) chunks.push(chunk as Buffer);
      if (type === 'file') yield { name, bytes: Buffer.concat(chunks) };
    }
  } catch (error) {
    if (error instanceof Unreadable) throw error;
    const { code, message } = error as Error & { code?: string };
    // What the database says is no fault of the archive.
    if (code !== undefined && /^[0-9A-Z]{5}$/.test(code)) throw error;
    throw new Unreadable(`it cannot be unpacked (${message}); expected tar and gzip, whole`);
  } finally {
    source.destroy();
    gunzip.destroy();
  }
}

function readJson<T extends z.ZodType>(name: string, bytes: Buffer, schema: T): z.infer<T> {
  let value: unknown;
  try {
    value = JSON.parse(bytes.toString('utf8'));
  } catch {
    throw new Unreadable(`${name} is not JSON`);
  }
  const read = schema.safeParse(value);
  if (read.success) return read.data as z.infer<T>;
  const [issue] = read.error.issues;
  throw new Unreadable(`${name}: ${issue?.path.join('.')}: ${issue?.message}`);
}

const Rows = z.array(Row);
const PLAIN: readonly string[] = [...BEFORE_CASES, ...AFTER_CASES];

/** Takes one file; what is there to be read by people alone is passed over. */
async function takeFile(run: Run, name: string, bytes: Buffer): Promise<void> {
  const table = name.replace(/\.json$/, '');
  const [, board] = /^boards\/([0-9a-f-]{36})\.json$/.exec(name) ?? [];
  const [, picture] = /^pictures\/([0-9a-f-]{36})\.jpg$/.exec(name) ?? [];
  if (name === BOARDS)
    for (const row of readJson(name, bytes, Rows)) run.boards.set(String(row.id), row);
  else if (name === BOARD_PICTURES)
    for (const row of readJson(name, bytes, Rows))
      run.awaited.set(String(row.id), { table: 'board_picture', row });
  else if (board !== undefined) await takeBoard(run, name, board, bytes);
  else if (picture !== undefined) await takePicture(run, name, picture, bytes);
  else if (/^cases\/\d+\.json$/.test(name))
    await takeCase(run, name, readJson(name, bytes, CaseFile));
  else if (PLAIN.includes(table))
    for (const row of readJson(name, bytes, Rows)) await insert(run, name, table, row);
}

async function takeBoard(run: Run, name: string, id: string, bytes: Buffer): Promise<void> {
  const row = run.boards.get(id);
  if (!row) throw new Unreadable(`${name} is not spoken of in ${BOARDS}`);
  run.boards.delete(id);
  const content = readJson(name, bytes, Row);
  await insert(run, name, 'board', { ...row, content });
}

async function takePicture(run: Run, name: string, id: string, bytes: Buffer): Promise<void> {
  const waiting = run.awaited.get(id);
  if (!waiting) throw new Unreadable(`${name} is not spoken of in any case or sheet before it`);
  run.awaited.delete(id);
  const made = await develop(bytes);
  if (!made) throw new Unreadable(`${name} is no picture that can be read`);
  // One that has nothing beside the picture stays to the last bit.
  const { format, exif, xmp, iptc } = await sharp(bytes).metadata();
  const isBare = format === 'jpeg' && !exif && !xmp && !iptc;
  const own = Number(waiting.row.width_px) === made.widthPx;
  await insert(run, name, waiting.table, {
    ...waiting.row,
    width_px: made.widthPx,
    height_px: made.heightPx,
    image: `\\x${(isBare && own ? bytes : made.image).toString('hex')}`,
    thumbnail: `\\x${made.thumbnail.toString('hex')}`,
  });
}

async function takeCase(run: Run, name: string, file: CaseFile): Promise<void> {
  const { id, number } = file.card;
  const here = await run.client.query('select from repair_case where id = $1', [id]);
  const added = await insert(run, name, 'repair_case', file.card);
  // Its number is another's, perhaps one of another workshop, which is not to be seen from here.
  if (!added && here.rowCount === 0) {
    run.known -= 1;
    const next = await run.client.query<{ n: number }>(
      `select nextval(pg_get_serial_sequence('repair_case', 'number'))::int as n`,
    );
    const ours = next.rows[0]!.n;
    if (!(await insert(run, name, 'repair_case', { ...file.card, number: ours })))
      throw new Unreadable(`${name}: case ${id} cannot be kept: its id is another's`);
    run.renumbered.push([number, ours]);
  }
  for (const entry of file.entries) {
    if (entry.case_id !== file.card.id)
      throw new Unreadable(`${name}: entry ${String(entry.id)} is of another case`);
    await insert(run, name, 'case_entry', entry);
  }
  for (const row of file.pictures) {
    if (row.case_id !== file.card.id)
      throw new Unreadable(`${name}: picture ${String(row.id)} is of another case`);
    run.awaited.set(String(row.id), { table: 'case_picture', row });
  }
}

/** Columns that the database fills in itself. */
const OWN_COLUMNS = ['belongs_to', 'sequence'];

async function columnsOf({ client, columns }: Run, table: string): Promise<ReadonlySet<string>> {
  const known = columns.get(table);
  if (known) return known;
  const { rows } = await client.query<{ name: string }>(
    `select attname as name from pg_attribute where attrelid = $1::regclass and attnum > 0 and not attisdropped`,
    [table],
  );
  const names = new Set(rows.map(({ name }) => name).filter((name) => !OWN_COLUMNS.includes(name)));
  columns.set(table, names);
  return names;
}

/**
 * Adds a row, or leaves the one that is here and returns false; a column of another version is passed
 * over.
 */
async function insert(run: Run, file: string, table: string, row: Row): Promise<boolean> {
  const known = await columnsOf(run, table);
  const columns = Object.keys(row).filter((column) => known.has(column));
  if (columns.length === 0) throw new Unreadable(`${file}: a row of ${table} says nothing`);
  const names = columns.map((name) => `"${name}"`).join(', ');
  try {
    const { rowCount } = await run.client.query(
      `insert into "${table}" (${names}) overriding system value
       select ${names} from jsonb_populate_record(null::"${table}", $1) on conflict do nothing`,
      [JSON.stringify(row)],
    );
    if (rowCount === 1) run.added[table] = (run.added[table] ?? 0) + 1;
    else run.known += 1;
    return rowCount === 1;
  } catch (error) {
    const { code = '', message } = error as Error & { code?: string };
    // 22: not of its type; 23: it speaks of what is not here, or leaves out what has to be there.
    if (!/^2[23]/.test(code)) throw error;
    throw new Unreadable(`${file}: a row of ${table} cannot be kept (${message})`);
  }
}

/** The next case gets a number after all that came in. */
async function numbersGoOn(client: pg.ClientBase): Promise<void> {
  await client.query(
    `select setval(pg_get_serial_sequence('repair_case', 'number'),
       greatest((select coalesce(max(number), 100) from repair_case), (select last_value from repair_case_number_seq)))`,
  );
}
