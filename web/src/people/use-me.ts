import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { ask } from '../store/answers';
import { store } from '../store/store';
import { sawPerson } from './entered-by';
import { Person } from './role';

const Me = Person.extend({ hasCode: z.boolean() }).nullable();
export type Me = z.infer<typeof Me>;

/** Who works in this browser; null where nobody signs in, undefined while nobody knows. */
export function useMe(): Me | undefined {
  return useQuery(
    {
      queryKey: ['me'],
      queryFn: async () => {
        const me = await ask('/api/people/me', Me);
        sawPerson(me?.id);
        return me;
      },
      staleTime: Number.POSITIVE_INFINITY,
    },
    store().queries,
  ).data;
}
