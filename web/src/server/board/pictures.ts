import { asc, eq } from 'drizzle-orm';
import type { Tie } from '@hanzai/core/board';
import type { Database } from '../db/client';
import { boardPicture } from '../db/schema/board';
import type { Outcome } from '../outcome';
import { keep, type Kept } from '../picture/kept';
import { develop, MOST_PICTURE_BYTES } from '../picture/service';
import { boardVersion } from './repository';

export type Side = 'top' | 'bottom';

/** A picture of a board, without its bytes. */
export interface BoardPictureRow {
  readonly id: string;
  readonly side: Side;
  readonly ties: readonly Tie[];
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Keeps a picture of a board's side. The same id sent twice is stored once. */
export async function addBoardPicture(
  db: Database,
  boardId: string,
  { id, side }: { readonly id: string; readonly side: Side },
  file: Uint8Array,
): Promise<Outcome<BoardPictureRow>> {
  const version = await boardVersion(db, boardId);
  if (!version) return { ok: false, why: 'missing', detail: 'no such board sheet' };
  if (file.byteLength > MOST_PICTURE_BYTES)
    return {
      ok: false,
      why: 'refused',
      detail: `the file has ${Math.round(file.byteLength / 1e6)} MB; expected at most ${MOST_PICTURE_BYTES / 1e6} MB`,
    };
  const made = await develop(file);
  if (!made)
    return {
      ok: false,
      why: 'refused',
      detail: 'this is not a picture that can be read; expected a JPEG, PNG or WebP file',
    };
  await db
    .insert(boardPicture)
    .values({ id, sheet: version.sheet, side, ...made, ...(await keep(db, id, made.image)) })
    .onConflictDoNothing();
  const stored = (await listBoardPictures(db, boardId)).find((one) => one.id === id);
  return stored
    ? { ok: true, value: stored }
    : { ok: false, why: 'refused', detail: 'this picture id belongs to another board' };
}

/** The pictures of the sheet that a board is a version of, the oldest first. */
export async function listBoardPictures(
  db: Database,
  boardId: string,
): Promise<readonly BoardPictureRow[]> {
  const version = await boardVersion(db, boardId);
  if (!version) return [];
  return db
    .select({
      id: boardPicture.id,
      side: boardPicture.side,
      ties: boardPicture.ties,
      widthPx: boardPicture.widthPx,
      heightPx: boardPicture.heightPx,
    })
    .from(boardPicture)
    .where(eq(boardPicture.sheet, version.sheet))
    .orderBy(asc(boardPicture.takenAt), asc(boardPicture.id));
}

/** Lays a picture on its board; false where there is no such picture. */
export async function tieBoardPicture(
  db: Database,
  id: string,
  ties: readonly Tie[],
): Promise<boolean> {
  const changed = await db
    .update(boardPicture)
    .set({ ties })
    .where(eq(boardPicture.id, id))
    .returning({ id: boardPicture.id });
  return changed.length > 0;
}

/** Where the bytes of a picture are, or its small one; undefined where there is none. */
export async function boardPictureKept(
  db: Database,
  id: string,
  small: boolean,
): Promise<Kept | undefined> {
  const [row] = await db
    .select({
      image: small ? boardPicture.thumbnail : boardPicture.image,
      keptAt: boardPicture.keptAt,
    })
    .from(boardPicture)
    .where(eq(boardPicture.id, id));
  return row;
}
