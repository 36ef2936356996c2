import { useInfiniteQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { ask, whyNot } from '../store/answers';
import { store } from '../store/store';
import { TaughtCase } from './patterns';

export const LESSONS_KEY = ['lessons'];

export interface LessonsState {
  readonly lessons: readonly TaughtCase[];
  readonly hasMore: boolean;
  readonly isLoading: boolean;
  /** Why they are not here; undefined where they are. */
  readonly refusal: string | undefined;
  readonly more: () => void;
}

/** Closed cases with what they teach, the newest first, a page at a time. */
export function useLessons(): LessonsState {
  const { queries } = store();
  const { data, error, isFetching, hasNextPage, fetchNextPage } = useInfiniteQuery(
    {
      queryKey: LESSONS_KEY,
      initialPageParam: null as number | null,
      queryFn: ({ pageParam }) =>
        ask(
          `/api/patterns/lessons${pageParam === null ? '' : `?before=${pageParam}`}`,
          z.array(TaughtCase),
        ),
      // An empty page is the last one.
      getNextPageParam: (page) => page.at(-1)?.number,
    },
    queries,
  );
  return {
    lessons: data?.pages.flat() ?? [],
    hasMore: hasNextPage,
    isLoading: isFetching,
    refusal: error ? whyNot(error) : undefined,
    more: () => void fetchNextPage(),
  };
}
