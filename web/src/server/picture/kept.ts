import { Readable } from 'node:stream';
import { sql } from 'drizzle-orm';
import type { Database } from '../db/client';
import { Away, pictureStore } from './store';

/** Where the bytes of a picture are: in its row, or under a key of the picture store. */
export interface Kept {
  readonly image: Buffer | null;
  readonly keptAt: string | null;
}

/**
 * Keeps the bytes of a picture where this workshop keeps them. They stand there before its row does:
 * what is left without a row is of no consequence.
 */
export async function keep(db: Database, id: string, image: Buffer): Promise<Kept> {
  const store = pictureStore();
  if (!store) return { image, keptAt: null };
  const { rows } = await db.execute<{ id: string }>(sql`select workshop_here()::text as id`);
  const keptAt = `${rows[0]!.id}/${id}.jpg`;
  await store.put(keptAt, image);
  return { image: null, keptAt };
}

/** The bytes of a picture as they come. Throws Away where its store is not there. */
export async function open({ image, keptAt }: Kept): Promise<Readable> {
  if (image) return Readable.from([image]);
  const store = pictureStore();
  if (!store || keptAt === null) throw new Away('is not set here (HANZAI_PICTURES)', undefined);
  return store.get(keptAt);
}

/** The whole of a picture. */
export async function wholeOf(kept: Kept): Promise<Buffer> {
  if (kept.image) return kept.image;
  const chunks: Buffer[] = [];
  for await (const chunk of await open(kept)) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

/** An answer with a picture. */
export async function pictureAnswer(
  kept: Kept,
  headers: Readonly<Record<string, string>>,
): Promise<Response> {
  const body = kept.image
    ? new Uint8Array(kept.image)
    : (Readable.toWeb(await open(kept)) as unknown as ReadableStream<Uint8Array>);
  return new Response(body, { headers: { 'content-type': 'image/jpeg', ...headers } });
}

/** A picture never changes: a browser may keep it. */
export const FOR_EVER = { 'cache-control': 'private, max-age=31536000, immutable' };
