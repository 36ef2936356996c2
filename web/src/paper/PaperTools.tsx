import Printer from 'lucide-react/icons/printer';
import { useState } from 'react';
import { Refused } from '../form/EntryForm';
import { Button } from '../ui/Button';
import { saveFile } from '../ui/save-file';
import type { Paper } from './paper';

/** Prints a paper that is on the screen, and saves it as a PDF. */
export function PaperTools({
  paper,
  waits = false,
  print = waits,
}: {
  paper: Paper;
  /** Something on it is still being worked out. */
  waits?: boolean;
  print?: boolean;
}) {
  const [refusal, setRefusal] = useState<string>();
  async function savePdf(): Promise<void> {
    // The writer of PDF files is large, and most who look at a paper want none.
    const { makePdf } = await import('./make-pdf');
    try {
      saveFile(
        `${paper.kind.replaceAll(/[^\w]+/g, '-').toLowerCase()}.pdf`,
        'application/pdf',
        await makePdf(paper),
      );
      setRefusal(undefined);
    } catch {
      setRefusal('the PDF could not be made here; print it into a file instead');
    }
  }
  return (
    <>
      <Button disabled={print} onClick={() => window.print()}>
        <Printer size={18} aria-hidden="true" /> Print it
      </Button>
      <Button disabled={waits} onClick={() => void savePdf()}>
        Save as PDF
      </Button>
      <Refused words={refusal} />
    </>
  );
}
