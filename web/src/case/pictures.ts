/** Largest file that is sent, bytes: the server takes no more. */
const MOST_BYTES = 25_000_000;
const LONGEST_PX = 2400;

/** Why a picture cannot be sent; undefined where it can. small: as it would be sent. */
export function tooLarge(file: Blob, small: Blob): string | undefined {
  return small.size > MOST_BYTES
    ? `the file has ${Math.round(file.size / 1e6)} MB and cannot be made smaller here; expected a JPEG, PNG or WebP picture of at most ${MOST_BYTES / 1e6} MB`
    : undefined;
}

/**
 * The picture no larger than is kept anyway; the file as it is where the browser cannot read it.
 */
export async function shrink(file: Blob): Promise<Blob> {
  try {
    const bitmap = await createImageBitmap(file);
    const scale = Math.min(1, LONGEST_PX / Math.max(bitmap.width, bitmap.height));
    if (scale === 1 && file.size < 4_000_000) return file;
    const canvas = new OffscreenCanvas(
      Math.round(bitmap.width * scale),
      Math.round(bitmap.height * scale),
    );
    canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    return await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
  } catch {
    return file;
  }
}
