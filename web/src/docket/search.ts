/** What is looked for: words, and between quotation marks words that stand together. */
export function searchTerms(search: string): readonly string[] {
  return [...search.toLowerCase().matchAll(/"([^"]*)"?|\S+/g)]
    .map(([whole, together]) => (together ?? whole).trim())
    .filter(Boolean);
}

/** The batch that a search is for; undefined where it is for something else. */
export const batchSearched = (search: string): string | undefined =>
  /^"batch: ([^"]+)"$/.exec(search.trim())?.[1];

/** The search that finds a batch. */
export function batchSearch(batch: string): string {
  return `"${batchWords(batch)}"`;
}

function batchWords(batch: string): string {
  return `batch: ${batch.replaceAll('"', ' ')}`;
}
