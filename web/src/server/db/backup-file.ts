import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { z } from 'zod';

// A backup is one file: a line of JSON that says what it is, and behind it the database as pg_dump
// writes it (custom format). docs/formats/backup.md describes it.

/** The line is no longer than this, bytes. */
const MOST_HEAD = 65_536;

/** What a table held: how many rows, and a digest of their keys in order. */
export const TableMark = z.object({ rows: z.number().int().min(0), keys: z.string().max(64) });
export type TableMark = z.infer<typeof TableMark>;

export const BackupHead = z.object({
  format: z.literal('hanzai backup'),
  version: z.literal(1),
  madeAt: z.iso.datetime(),
  /** The moment of the newest migration that it had been through. */
  schema: z.number().int().min(0),
  /** Of the dump behind the line. */
  bytes: z.number().int().min(1),
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  tables: z.record(z.string().max(80), TableMark),
});
export type BackupHead = z.infer<typeof BackupHead>;

export type ReadBackup =
  | { readonly ok: true; readonly head: BackupHead; readonly offset: number }
  | { readonly ok: false; readonly why: string };

/** SHA-256 of a file from an offset on, and how many bytes that are. */
export async function digestOf(
  file: string,
  offset = 0,
): Promise<{ readonly sha256: string; readonly bytes: number }> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const chunk of createReadStream(file, { start: offset })) {
    hash.update(chunk as Buffer);
    bytes += (chunk as Buffer).length;
  }
  return { sha256: hash.digest('hex'), bytes };
}

/** Reads the line at the front of a backup; nothing of what is behind it. */
export async function readHead(file: string): Promise<ReadBackup> {
  const handle = await open(file, 'r').catch(() => undefined);
  if (!handle) return { ok: false, why: `there is no file ${file}` };
  try {
    const buffer = Buffer.alloc(MOST_HEAD);
    const { bytesRead } = await handle.read(buffer, 0, MOST_HEAD, 0);
    const end = buffer.subarray(0, bytesRead).indexOf(0x0a);
    if (end < 0) return { ok: false, why: 'it is no backup of Hanzai: its first line has no end' };
    let content: unknown;
    try {
      content = JSON.parse(buffer.toString('utf8', 0, end));
    } catch {
      return { ok: false, why: 'it is no backup of Hanzai: its first line is not JSON' };
    }
    const head = BackupHead.safeParse(content);
    if (!head.success) {
      const [issue] = head.error.issues;
      return { ok: false, why: `its first line, ${issue!.path.join('.')}: ${issue!.message}` };
    }
    return { ok: true, head: head.data, offset: end + 1 };
  } finally {
    await handle.close();
  }
}

/** Whether the file is whole: what is behind the line is what the line says. */
export async function checkBackup(file: string): Promise<ReadBackup> {
  const read = await readHead(file);
  if (!read.ok) return read;
  const { sha256, bytes } = await digestOf(file, read.offset);
  if (bytes !== read.head.bytes)
    return { ok: false, why: `it is cut off or longer: ${bytes} bytes of ${read.head.bytes}` };
  if (sha256 !== read.head.sha256)
    return { ok: false, why: 'it is spoilt: its checksum is another' };
  return read;
}
