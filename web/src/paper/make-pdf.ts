import { wrap } from 'comlink';
import type { Paper } from './paper';
import type { PdfWriter } from './pdf.worker';

/** Longer than this no paper takes, milliseconds. */
const PATIENCE = 60_000;

/** A paper as a PDF, made in this browser: no server is asked. Fails where it takes too long. */
export async function makePdf(paper: Paper): Promise<Blob> {
  const worker = new Worker(new URL('./pdf.worker.tsx', import.meta.url), { type: 'module' });
  try {
    return await Promise.race([
      wrap<PdfWriter>(worker).make(paper),
      new Promise<never>((_, reject) => {
        worker.addEventListener('error', () => reject(new Error('the writer failed')));
        setTimeout(() => reject(new Error('it took too long')), PATIENCE);
      }),
    ]);
  } finally {
    worker.terminate();
  }
}
