import type { DocketLine } from '../server/case/service';

/** What a search looks at, put together once a case. */
export function searchText(line: DocketLine): string {
  const batch = line.batch && batchWords(line.batch);
  return `${line.number} ${line.title} ${line.unitModel} ${line.serial} ${line.owner} ${line.waitsFor} ${line.state} ${batch} ${line.progress.nextAction}`.toLowerCase();
}

/** What is looked for: words, and between quotation marks words that stand together. */
export function searchTerms(search: string): readonly string[] {
  return [...search.toLowerCase().matchAll(/"([^"]*)"?|\S+/g)]
    .map(([whole, together]) => (together ?? whole).trim())
    .filter(Boolean);
}

/** The search that finds a batch. */
export function batchSearch(batch: string): string {
  return `"${batchWords(batch)}"`;
}

function batchWords(batch: string): string {
  return `batch: ${batch.replaceAll('"', ' ')}`;
}
