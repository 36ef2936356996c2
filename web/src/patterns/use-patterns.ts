import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../store/answers';
import { store } from '../store/store';
import { LESSONS_KEY } from './use-lessons';
import { BoardLearned, PatternsAnswer, type LearningSetting, type OwnPattern } from './patterns';

const KEY = ['patterns'];
const FRESH_MILLISECONDS = 60_000;
/** While something is being worked in, it is asked for again after this long, milliseconds. */
const AGAIN_MILLISECONDS = 2000;
const whileBehind = ({
  state,
}: {
  readonly state: { readonly data?: { readonly behind: boolean } | undefined };
}): number | false => (state.data?.behind === true ? AGAIN_MILLISECONDS : false);

export interface PatternsState {
  readonly known: PatternsAnswer;
  /** Why the last thing was not done; undefined where it was. */
  readonly refusal: string | undefined;
  readonly setTeaches: (number: number, teaches: boolean) => Promise<void>;
  readonly setLearning: (setting: LearningSetting) => Promise<void>;
  readonly add: (pattern: OwnPattern) => Promise<string | undefined>;
  readonly setAside: (id: string) => Promise<void>;
  /** Takes the pack of another workshop in. */
  readonly takePack: (text: string) => Promise<void>;
  readonly changePack: (
    workshop: string,
    change: { readonly trust?: number; readonly archived?: boolean },
  ) => Promise<void>;
}

/** What the workshop knows of what fails, as the server has it. */
export function usePatterns(initial: PatternsAnswer): PatternsState {
  const { queries } = store();
  const [refusal, setRefusal] = useState<string>();
  const { data } = useQuery(
    {
      queryKey: KEY,
      staleTime: FRESH_MILLISECONDS,
      refetchInterval: whileBehind,
      queryFn: () => ask('/api/patterns', PatternsAnswer),
      initialData: initial,
    },
    queries,
  );
  const changed = async (work: () => Promise<PatternsAnswer>): Promise<string | undefined> => {
    try {
      queries.setQueryData(KEY, await work());
      // Line-ups go by it.
      void queries.invalidateQueries({ queryKey: ['learned'] });
      void queries.invalidateQueries({ queryKey: LESSONS_KEY });
      setRefusal(undefined);
      return undefined;
    } catch (error) {
      const why = whyNot(error);
      setRefusal(why);
      return why;
    }
  };
  return {
    known: data,
    refusal,
    setTeaches: async (number, teaches) => {
      await changed(() =>
        ask(`/api/patterns/lessons/${number}`, PatternsAnswer, withBody('PATCH', { teaches })),
      );
    },
    setLearning: async (setting) => {
      await changed(() => ask('/api/patterns', PatternsAnswer, withBody('PATCH', setting)));
    },
    add: (pattern) =>
      changed(() => ask('/api/patterns/own', PatternsAnswer, withBody('POST', pattern))),
    takePack: async (text) => {
      await changed(() => ask('/api/patterns/packs', PatternsAnswer, withBody('POST', { text })));
    },
    changePack: async (workshop, change) => {
      await changed(() =>
        ask(`/api/patterns/packs/${workshop}`, PatternsAnswer, withBody('PATCH', change)),
      );
    },
    setAside: async (id) => {
      await changed(async () => {
        await ask(`/api/patterns/own/${id}`, z.unknown(), withBody('PATCH', { archived: true }));
        return ask('/api/patterns', PatternsAnswer);
      });
    },
  };
}

/** What was learned of a board; undefined while it is fetched, or where nothing answers. */
export function useLearned(boardId: string | undefined): BoardLearned | undefined {
  const { queries } = store();
  const { data } = useQuery(
    {
      queryKey: ['learned', boardId],
      enabled: boardId !== undefined,
      staleTime: FRESH_MILLISECONDS,
      refetchInterval: whileBehind,
      queryFn: () => ask(`/api/patterns/board/${boardId}`, BoardLearned),
    },
    queries,
  );
  return data;
}
