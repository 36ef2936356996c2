import { createWorker, type Worker } from 'tesseract.js';
import languageUrl from '@tesseract.js-data/eng/4.0.0_best_int/eng.traineddata.gz?url';
import coreUrl from 'tesseract.js-core/tesseract-core-simd-lstm.wasm.js?url';
import workerUrl from 'tesseract.js/dist/worker.min.js?url';

let reader: Promise<Worker> | undefined;

/** The reader, started once, from files that ship with the application. */
function startReader(): Promise<Worker> {
  reader ??= (async () => {
    // The reader puts the language's own file name behind where it is: as a question, which says nothing.
    const langPath = `${new URL(languageUrl, window.location.href).href}?as=`;
    // 1: the neural reader alone, which is what this language was made for.
    const worker = await createWorker('eng', 1, {
      langPath,
      workerPath: new URL(workerUrl, window.location.href).href,
      corePath: new URL(coreUrl, window.location.href).href,
      workerBlobURL: false,
      cacheMethod: 'none',
      errorHandler: () => undefined,
    });
    await worker.setParameters({
      tessedit_char_whitelist: 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789.-/+',
    });
    return worker;
  })();
  reader.catch(() => {
    reader = undefined;
  });
  return reader;
}

/** Letters are read best at about so many pixels. */
const WIDTH_PX = 720;

/** A piece of a picture, larger, turned, in grey with its contrast stretched. at, size: 0 to 1 of it. */
async function piece(
  href: string,
  at: readonly [number, number],
  size: readonly [number, number],
  quarterTurns: number,
): Promise<HTMLCanvasElement> {
  const image = new Image();
  image.src = href;
  await image.decode();
  const [w, h] = [size[0] * image.naturalWidth, size[1] * image.naturalHeight];
  const scale = WIDTH_PX / w;
  const canvas = document.createElement('canvas');
  const upright = quarterTurns % 2 === 0;
  const [width, height] = [w * scale, h * scale];
  [canvas.width, canvas.height] = upright ? [width, height] : [height, width];
  const context = canvas.getContext('2d')!;
  context.filter = 'grayscale(1) contrast(1.6)';
  context.translate(canvas.width / 2, canvas.height / 2);
  context.rotate((-quarterTurns * Math.PI) / 2);
  context.drawImage(
    image,
    at[0] * image.naturalWidth - w / 2,
    at[1] * image.naturalHeight - h / 2,
    w,
    h,
    -width / 2,
    -height / 2,
    width,
    height,
  );
  return canvas;
}

/** The text about a place of a picture, as it is read in each way that a part may lie. */
export async function readTextAt(
  href: string,
  at: readonly [number, number],
  size: readonly [number, number],
): Promise<string> {
  const worker = await startReader();
  const texts: string[] = [];
  for (const turns of [0, 1, 3]) {
    const { data } = await worker.recognize(await piece(href, at, size, turns));
    texts.push(data.text);
  }
  return texts.join('\n');
}
