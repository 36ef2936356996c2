import type { QueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import type { Outbox } from './outbox';

/** What the server tells as it happens: something of a case is new. */
export const ServerNews = z.object({
  case: z.uuid(),
  /** The entry that was added; absent where the card was corrected. */
  entry: z.uuid().optional(),
});

/**
 * Follows what happens in the workshop: what others enter is fetched at once, and whether the
 * server answers shows at once.
 */
export function followEvents(
  queries: QueryClient,
  outbox: Outbox,
  source: EventSource = new EventSource('/api/events'),
): void {
  source.onopen = () => {
    const wasAway = !outbox.snapshot().reachable;
    outbox.sawServer(true);
    void outbox.flush();
    // What happened meanwhile was not told.
    if (wasAway) void queries.invalidateQueries();
  };
  source.onerror = () => outbox.sawServer(false);
  source.onmessage = ({ data }: MessageEvent<string>) => {
    const news = ServerNews.safeParse(tryJson(data));
    if (!news.success) return;
    const own = outbox
      .snapshot()
      .stored.get(news.data.case)
      ?.some(({ id }) => id === news.data.entry);
    if (!own)
      void queries.invalidateQueries({
        predicate: ({ queryKey, state }) =>
          queryKey[0] === 'case' &&
          (state.data as { id?: string } | undefined)?.id === news.data.case,
      });
    void queries.invalidateQueries({ queryKey: ['docket'] });
  };
}

function tryJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
