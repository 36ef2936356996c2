import { useQuery } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { v7 } from 'uuid';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../store/answers';
import { store } from '../store/store';
import { Added, Lot, Moved, type Move, type NewLot } from './stock';

const KEY = ['stock'];
const FRESH_MILLISECONDS = 60_000;

export interface StockState {
  readonly lots: readonly Lot[];
  /** Why the last thing was not done; undefined where it was. */
  readonly refusal: string | undefined;
  /** Cases that waited for what was put in last. */
  readonly wakes: readonly number[];
  readonly move: (move: Omit<Move, 'id'>) => Promise<string | undefined>;
  readonly add: (lots: readonly NewLot[]) => Promise<string | undefined>;
  readonly setAside: (lot: Lot) => Promise<void>;
}

/** The stock as the server has it. Movements go to the server at once: what is there is there for all. */
export function useStock(initial?: readonly Lot[]): StockState {
  const { queries } = store();
  const [refusal, setRefusal] = useState<string>();
  const [wakes, setWakes] = useState<readonly number[]>([]);
  const { data, refetch } = useQuery(
    {
      queryKey: KEY,
      staleTime: FRESH_MILLISECONDS,
      queryFn: () => ask('/api/stock', z.array(Lot)),
      ...(initial ? { initialData: [...initial] } : {}),
    },
    queries,
  );
  const tried = useCallback(
    async (work: () => Promise<void>): Promise<string | undefined> => {
      try {
        await work();
        setRefusal(undefined);
        return undefined;
      } catch (error) {
        const why = whyNot(error);
        setRefusal(why);
        // Somebody else may have been faster: what is shown is what is there.
        void refetch();
        return why;
      }
    },
    [refetch],
  );
  return {
    lots: data ?? [],
    refusal,
    wakes,
    move: (move) =>
      tried(async () => {
        const moved = await ask('/api/stock/moves', Moved, withBody('POST', { id: v7(), ...move }));
        queries.setQueryData<Lot[]>(KEY, (now) =>
          now?.map((lot) => (lot.id === moved.lot.id ? moved.lot : lot)),
        );
        setWakes(moved.wakes);
      }),
    add: (lots) =>
      tried(async () => {
        const done = await ask('/api/stock', Added, withBody('POST', lots));
        setWakes(done.wakes);
        await refetch();
      }),
    setAside: async (lot) => {
      await tried(async () => {
        await ask(`/api/stock/${lot.id}`, z.unknown(), withBody('PATCH', { archived: true }));
        queries.setQueryData<Lot[]>(KEY, (now) => now?.filter(({ id }) => id !== lot.id));
      });
    },
  };
}
