import { v7 } from 'uuid';

/** Largest file that is sent, bytes: the server takes no more. */
const MOST_BYTES = 25_000_000;
const LONGEST_PX = 2400;

export type Sent =
  | { readonly ok: true; readonly id: string }
  | { readonly ok: false; readonly detail: string; readonly again: boolean };

/**
 * Sends a picture of a case, made smaller in the browser where it can be. again: trying once more
 * may help.
 */
export async function sendPicture(caseId: string, file: Blob, id: string = v7()): Promise<Sent> {
  const small = await shrink(file);
  if (small.size > MOST_BYTES)
    return {
      ok: false,
      again: false,
      detail: `the file has ${Math.round(file.size / 1e6)} MB and cannot be made smaller here; expected a JPEG, PNG or WebP picture of at most ${MOST_BYTES / 1e6} MB`,
    };
  try {
    const response = await fetch(`/api/cases/${caseId}/pictures?id=${id}`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream' },
      body: small,
    });
    if (response.ok) return { ok: true, id };
    const body = (await response.json().catch(() => ({}))) as { detail?: string };
    return {
      ok: false,
      again: response.status >= 500,
      detail: body.detail ?? `the server answered ${response.status}`,
    };
  } catch {
    return {
      ok: false,
      again: true,
      detail: 'the workshop server does not answer; the picture is kept here until it does',
    };
  }
}

/**
 * The picture no larger than is kept anyway; the file as it is where the browser cannot read it.
 */
async function shrink(file: Blob): Promise<Blob> {
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
