import { createReadStream } from 'node:fs';
import { createGunzip, gzipSync } from 'node:zlib';
import { extract, pack } from 'tar-stream';

// Archives of open files, for tests that look into them or make some.

/** The files of an archive, by name. */
export async function unpack(from: string): Promise<Map<string, Buffer>> {
  const files = new Map<string, Buffer>();
  const tar = createReadStream(from).pipe(createGunzip()).pipe(extract());
  for await (const entry of tar) {
    const chunks: Buffer[] = [];
    for await (const chunk of entry) chunks.push(chunk as Buffer);
    files.set(entry.header.name, Buffer.concat(chunks));
  }
  return files;
}

/** An archive of files. */
export async function packed(files: Iterable<readonly [string, string | Buffer]>): Promise<Buffer> {
  const tar = pack();
  for (const [name, bytes] of files) tar.entry({ name }, bytes as Buffer);
  tar.finalize();
  const chunks: Buffer[] = [];
  for await (const chunk of tar) chunks.push(chunk as Buffer);
  return gzipSync(Buffer.concat(chunks));
}
