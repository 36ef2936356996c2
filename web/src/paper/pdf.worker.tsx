import { pdf } from '@react-pdf/renderer';
import { expose } from 'comlink';
import plain from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import figures from '@fontsource/commit-mono/files/commit-mono-latin-400-normal.woff?url';
import type { Paper } from './paper';
import { PaperPdf, registerFonts } from './paper-pdf';

// Lays a paper out beside the page: it takes a while, and the page itself may run no such code.

const here = (path: string): string => new URL(path, self.location.href).href;

const writer = {
  async make(paper: Paper): Promise<Blob> {
    registerFonts({ plain: here(plain), bold: here(bold), figures: here(figures) });
    return pdf(<PaperPdf paper={paper} />).toBlob();
  },
};
export type PdfWriter = typeof writer;

expose(writer);
