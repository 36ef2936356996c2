import { createReadStream } from 'node:fs';
import { mkdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, resolve, sep } from 'node:path';
import type { Readable } from 'node:stream';
import { fileURLToPath } from 'node:url';

// Where pictures lie that are not in the database: a folder, or an object store that speaks S3. A row
// of the database says which picture there is, whose it is, and under which key its bytes are.

/** What of a picture store is used. Keys: letters, figures, `-`, `/` and one `.`. */
export interface PictureStore {
  /** Keeps bytes under a key; they stand when it returns. The same key again is the same picture. */
  readonly put: (key: string, bytes: Uint8Array) => Promise<void>;
  /** The bytes of a key as they come. Throws Away where the store or the key is not there. */
  readonly get: (key: string) => Promise<Readable>;
}

/** A store that does not do what it is asked to at the moment: the same request may do it later. */
export class Away extends Error {
  constructor(what: string, cause: unknown) {
    super(`the store of pictures ${what}`, { cause });
    this.name = 'PicturesAway';
  }
}

const KEY = /^[\w-]+(?:\/[\w-]+)*\.jpg$/;

/** A folder, on this machine or shared by several. */
export function folderStore(folder: string): PictureStore {
  const at = (key: string): string => {
    const path = resolve(folder, key);
    if (!KEY.test(key) || !path.startsWith(resolve(folder) + sep))
      throw new RangeError(`${key} is no key`);
    return path;
  };
  return {
    put: async (key, bytes) => {
      const path = at(key);
      // Whole under its name or not there: one that dies meanwhile leaves a part that nobody reads.
      const part = `${path}.${process.pid}.part`;
      try {
        await mkdir(dirname(path), { recursive: true });
        await writeFile(part, bytes, { flush: true, mode: 0o600 });
        await rename(part, path);
      } catch (error) {
        await rm(part, { force: true }).catch(() => undefined);
        throw new Away('took nothing', error);
      }
    },
    get: async (key) => {
      const path = at(key);
      await stat(path).catch((error: unknown) => {
        throw new Away('does not have it', error);
      });
      return createReadStream(path);
    },
  };
}

/**
 * An object store that speaks S3. url: `s3://BUCKET`, or `s3://BUCKET/PREFIX`. Its address is
 * HANZAI_S3_ENDPOINT (none: that of the region), its key that of the environment (AWS_ACCESS_KEY_ID,
 * AWS_SECRET_ACCESS_KEY, AWS_REGION).
 */
export function objectStore(url: string, env = process.env): PictureStore {
  const { hostname: bucket, pathname } = new URL(url);
  const prefix = pathname.replace(/^\/|\/$/g, '');
  const named = (key: string): string => (prefix === '' ? key : `${prefix}/${key}`);
  // Loaded where it is used: most workshops have none.
  const opened = import('@aws-sdk/client-s3').then((s3) => ({
    ...s3,
    client: new s3.S3Client({
      region: env.AWS_REGION ?? 'us-east-1',
      ...(env.HANZAI_S3_ENDPOINT ? { endpoint: env.HANZAI_S3_ENDPOINT, forcePathStyle: true } : {}),
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
      maxAttempts: 2,
      requestHandler: { requestTimeout: 15_000, connectionTimeout: 5000 },
    }),
  }));
  return {
    put: async (key, bytes) => {
      const { client, PutObjectCommand } = await opened;
      const object = new PutObjectCommand({
        Bucket: bucket,
        Key: named(key),
        Body: bytes,
        ContentType: 'image/jpeg',
      });
      await client.send(object).catch((error: unknown) => {
        throw new Away('took nothing', error);
      });
    },
    get: async (key) => {
      const { client, GetObjectCommand } = await opened;
      const { Body } = await client
        .send(new GetObjectCommand({ Bucket: bucket, Key: named(key) }))
        .catch((error: unknown) => {
          throw new Away('does not have it', error);
        });
      return Body as Readable;
    },
  };
}

/** The store that an address names: `s3://…` or `file://…`; undefined: pictures lie in the database. */
export function storeAt(url: string | undefined): PictureStore | undefined {
  if (!url) return undefined;
  const protocol = URL.canParse(url) ? new URL(url).protocol : '';
  if (protocol === 's3:') return objectStore(url);
  if (protocol === 'file:') return folderStore(fileURLToPath(url));
  throw new Away(
    `is not set right: HANZAI_PICTURES is ${url}; expected s3://BUCKET or file:///FOLDER`,
    undefined,
  );
}

let own: { readonly url: string; readonly store: PictureStore } | undefined;

/** The store of this workshop; undefined where its pictures lie in the database. */
export function pictureStore(): PictureStore | undefined {
  const url = process.env.HANZAI_PICTURES ?? '';
  if (url === '') return undefined;
  if (own?.url !== url) own = { url, store: storeAt(url)! };
  return own.store;
}
