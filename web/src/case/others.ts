import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from '../store/answers';
import { store } from '../store/store';

/** What other cases say for a decision: what closed ones of this kind took, and what open ones wait for. */
export const OtherCases = z.object({
  /** Bench minutes of closed cases of this kind of unit that were not given up. */
  closedMinutes: z.array(z.number()),
  needs: z.array(z.object({ number: z.number().int(), words: z.string() })),
});
export type OtherCases = z.infer<typeof OtherCases>;

const NONE: OtherCases = { closedMinutes: [], needs: [] };
/** Asked again after so long. */
const FRESH_MILLISECONDS = 5 * 60_000;

/** What other cases say; nothing while the server does not answer. */
export function useOtherCases(caseId: string): OtherCases {
  const { queries } = store();
  const { data } = useQuery(
    {
      queryKey: ['others', caseId],
      staleTime: FRESH_MILLISECONDS,
      queryFn: () => ask(`/api/cases/${caseId}/others`, OtherCases),
    },
    queries,
  );
  return data ?? NONE;
}
