import { z } from 'zod';
import type { CaseView } from './case-view';
import { Entry } from './entry';
import type { Journal } from './journal';

/** A case's evidence as a file: what was entered and stands, as it was entered. */
export const EvidenceFile = z.object({
  format: z.literal('hanzai-evidence'),
  version: z.literal(1),
  case: z.object({ number: z.number().int(), title: z.string(), unit: z.string() }),
  /** Oldest first; what was taken back is left out. */
  entries: z.array(Entry),
});
export type EvidenceFile = z.infer<typeof EvidenceFile>;

export function evidenceFile(
  { number, title, unitModel }: Pick<CaseView, 'number' | 'title' | 'unitModel'>,
  { standing }: Pick<Journal, 'standing'>,
): EvidenceFile {
  return {
    format: 'hanzai-evidence',
    version: 1,
    case: { number, title, unit: unitModel },
    entries: standing.map(({ id, madeAt, body, by }) => ({
      id,
      madeAt,
      body,
      ...(by === undefined ? {} : { by }),
    })),
  };
}
