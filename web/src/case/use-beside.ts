import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { z } from 'zod';
import { ask } from '../store/answers';
import { store } from '../store/store';
import { besideBy, BesideReading, type Beside } from './beside';

const NONE: ReadonlyMap<string, Beside> = new Map();
/** What other cases showed is asked again after so long. */
const FRESH_MILLISECONDS = 5 * 60_000;

/**
 * What other boards of this kind showed, by point; nothing without a case, or while the server does
 * not answer.
 */
export function useBeside(caseId: string | undefined): ReadonlyMap<string, Beside> {
  const { queries } = store();
  const { data } = useQuery(
    {
      queryKey: ['beside', caseId],
      enabled: caseId !== undefined,
      staleTime: FRESH_MILLISECONDS,
      queryFn: () => ask(`/api/cases/${caseId}/beside`, z.array(BesideReading)),
    },
    queries,
  );
  return useMemo(() => (data ? besideBy(data) : NONE), [data]);
}
