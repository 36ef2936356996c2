import sharp from 'sharp';
import { findCase } from '../case/repository';
import type { Database } from '../db/client';
import type { Outcome } from '../outcome';
import { keep } from './kept';
import { caseOfPicture, insertPicture } from './repository';

/** Largest file that is taken, bytes: what a phone's camera makes, with room. */
export const MOST_PICTURE_BYTES = 25_000_000;
/** Sides of what is kept, px. */
const LONGEST_PX = 2400;
const THUMBNAIL_PX = 360;
/** Larger pictures than this are refused before they are unpacked, px in all. */
const MOST_PIXELS = 120_000_000;

/**
 * Keeps a picture of a case: upright, no larger than needed, without what the camera wrote beside
 * it. The same id sent twice is stored once.
 */
export async function addPicture(
  db: Database,
  caseId: string,
  id: string,
  file: Uint8Array,
): Promise<Outcome<{ widthPx: number; heightPx: number }>> {
  if (!(await findCase(db, caseId))) return { ok: false, why: 'missing', detail: 'no such case' };
  const owner = await caseOfPicture(db, id);
  if (owner !== undefined && owner !== caseId)
    return { ok: false, why: 'refused', detail: 'this picture id belongs to another case' };
  if (file.byteLength > MOST_PICTURE_BYTES)
    return {
      ok: false,
      why: 'refused',
      detail: `the file has ${Math.round(file.byteLength / 1e6)} MB; expected at most ${MOST_PICTURE_BYTES / 1e6} MB. Take it again at a lower resolution`,
    };
  const made = await develop(file);
  if (!made)
    return {
      ok: false,
      why: 'refused',
      detail: 'this is not a picture that can be read; expected a JPEG, PNG or WebP file',
    };
  await insertPicture(db, { id, caseId, ...made, ...(await keep(db, id, made.image)) });
  return { ok: true, value: { widthPx: made.widthPx, heightPx: made.heightPx } };
}

/** The picture as it is kept, with a small one; undefined where the bytes are not a picture. */
export async function develop(
  file: Uint8Array,
): Promise<{ image: Buffer; thumbnail: Buffer; widthPx: number; heightPx: number } | undefined> {
  try {
    const source = sharp(file, { limitInputPixels: MOST_PIXELS, failOn: 'error' });
    const { format } = await source.metadata();
    if (format !== 'jpeg' && format !== 'png' && format !== 'webp') return undefined;
    const upright = source.rotate();
    const { data: image, info } = await upright
      .clone()
      .resize({ width: LONGEST_PX, height: LONGEST_PX, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 82 })
      .toBuffer({ resolveWithObject: true });
    const thumbnail = await sharp(image)
      .resize({
        width: THUMBNAIL_PX,
        height: THUMBNAIL_PX,
        fit: 'inside',
        withoutEnlargement: true,
      })
      .jpeg({ quality: 76 })
      .toBuffer();
    return { image, thumbnail, widthPx: info.width, heightPx: info.height };
  } catch {
    return undefined;
  }
}
