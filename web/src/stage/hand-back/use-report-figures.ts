import { useQuery } from '@tanstack/react-query';
import type { CaseState } from '../../case/use-case';
import type { ReportFigures } from '../../workers/engine-messages';

const NONE: ReportFigures = { readings: {}, weightFor: null };

/**
 * The engine's words on the readings that led to the verdict, worked out beside the page and kept
 * until the case has a new entry.
 */
export function useReportFigures({ engine, engineFailure, entries, view }: CaseState): {
  readonly figures: ReportFigures;
  readonly pending: boolean;
  readonly failure: string | undefined;
} {
  const { data, error } = useQuery({
    queryKey: ['report', view.id, view.board?.id, entries.length, entries.at(-1)?.id],
    enabled: engine !== undefined,
    staleTime: Infinity,
    // Nothing where somebody else asked for other work meanwhile: it is asked again.
    queryFn: async () => {
      const figures = await engine!.door.account(entries);
      if (!figures) throw new Error('the engine was called away');
      return figures;
    },
    retry: 3,
  });
  const failure = engineFailure ?? error?.message;
  return {
    figures: data ?? NONE,
    pending: view.board !== null && !data && !failure,
    failure,
  };
}
