import { useQuery } from '@tanstack/react-query';
import { ask } from '../store/answers';
import { store } from '../store/store';
import { Backups } from './backups';

export const BACKUPS_KEY = ['backups'];
const FRESH_MILLISECONDS = 10 * 60_000;

/** The backups of the workshop; undefined while they are fetched, or where nothing answers. */
export function useBackups(): Backups | undefined {
  const { queries } = store();
  const { data } = useQuery(
    {
      queryKey: BACKUPS_KEY,
      staleTime: FRESH_MILLISECONDS,
      retry: false,
      queryFn: () => ask('/api/backups', Backups),
    },
    queries,
  );
  return data;
}
