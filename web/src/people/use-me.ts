import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from '../store/answers';
import { store } from '../store/store';
import { Person } from './role';

const Me = Person.extend({ hasCode: z.boolean() }).nullable();
export type Me = z.infer<typeof Me>;

/** Who works in this browser; null where nobody signs in, undefined while nobody knows. */
export function useMe(): Me | undefined {
  return useQuery(
    {
      queryKey: ['me'],
      queryFn: () => ask('/api/people/me', Me),
      staleTime: Number.POSITIVE_INFINITY,
    },
    store().queries,
  ).data;
}
