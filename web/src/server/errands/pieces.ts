import { and, eq, max } from 'drizzle-orm';
import type { Database } from '../db/client';
import { errand, errandPiece } from '../db/schema/errand';

/** Bytes of a piece: what is in memory of a file, whatever its size. */
const PIECE = 1 << 20;

/** Chunks as pieces of even size; the last one is what remains. */
export async function* evenly(
  chunks: AsyncIterable<Uint8Array>,
  size = PIECE,
): AsyncGenerator<Buffer> {
  let kept: Uint8Array[] = [];
  let length = 0;
  for await (const chunk of chunks) {
    kept.push(chunk);
    length += chunk.byteLength;
    if (length < size) continue;
    const all = Buffer.concat(kept);
    let from = 0;
    for (; from + size <= all.length; from += size) yield all.subarray(from, from + size);
    kept = from < all.length ? [all.subarray(from)] : [];
    length = all.length - from;
  }
  if (length > 0) yield Buffer.concat(kept);
}

/** Keeps a file of an errand, in the place of what was kept of it before. Its bytes. */
export async function keepFile(
  db: Database,
  id: string,
  chunks: AsyncIterable<Uint8Array>,
  most = Number.POSITIVE_INFINITY,
): Promise<number> {
  await db.delete(errandPiece).where(eq(errandPiece.errandId, id));
  let [nth, bytes] = [0, 0];
  for await (const piece of evenly(chunks)) {
    bytes += piece.length;
    if (bytes > most) throw new RangeError(`it is larger than ${Math.round(most / 1e6)} MB`);
    await db.insert(errandPiece).values({ errandId: id, nth, bytes: piece });
    await db.update(errand).set({ bytes }).where(eq(errand.id, id));
    nth += 1;
  }
  return bytes;
}

/** The file of an errand, piece by piece; a piece that is missing ends it with an error. */
export async function* fileOf(db: Database, id: string): AsyncGenerator<Buffer> {
  const [last] = await db
    .select({ nth: max(errandPiece.nth) })
    .from(errandPiece)
    .where(eq(errandPiece.errandId, id));
  const count = (last?.nth ?? -1) + 1;
  for (let nth = 0; nth < count; nth += 1) {
    const [piece] = await db
      .select({ bytes: errandPiece.bytes })
      .from(errandPiece)
      .where(and(eq(errandPiece.errandId, id), eq(errandPiece.nth, nth)));
    if (!piece) throw new Error('a piece of the file is not here any more');
    yield piece.bytes;
  }
}
