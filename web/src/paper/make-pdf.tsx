import { pdf } from '@react-pdf/renderer';
import plain from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url';
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url';
import figures from '@fontsource/commit-mono/files/commit-mono-latin-400-normal.woff?url';
import type { Paper } from './paper';
import { PaperPdf, registerFonts } from './paper-pdf';

/** A paper as a PDF, made in this browser: no server is asked. */
export function makePdf(paper: Paper): Promise<Blob> {
  registerFonts({ plain, bold, figures });
  return pdf(<PaperPdf paper={paper} />).toBlob();
}
