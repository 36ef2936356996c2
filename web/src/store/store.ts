import { QueryClient } from '@tanstack/react-query';
import type { CaseView } from '../case/case-view';
import { personHere } from '../people/entered-by';
import { AnswerError } from './answers';
import { followEvents } from './live';
import { Outbox, type News } from './outbox';
import { BrowserStorage } from './outbox-storage';
import { send } from './send';

/** Milliseconds between tries to send what waits. */
const RETRY_MILLISECONDS = 3000;

/** What every island of a page shares: the outbox, and the answers of the server. */
export interface Store {
  readonly outbox: Outbox;
  readonly queries: QueryClient;
}

let shared: Store | undefined;

/** The store of this page; made, and brought to life, by the first island that asks. */
export function store(): Store {
  shared ??= open();
  return shared;
}

function open(): Store {
  const channel = 'BroadcastChannel' in globalThis ? new BroadcastChannel('hanzai') : undefined;
  const outbox = new Outbox({
    storage: new BrowserStorage(),
    send,
    who: personHere,
    ...(navigator.locks ? { alone: (work) => alone(work) } : {}),
    tell: (news) => channel?.postMessage(news),
  });
  const queries = new QueryClient({
    defaultOptions: {
      queries: {
        // The workshop is often on this very machine: whether there is a network says nothing.
        networkMode: 'always',
        staleTime: 10_000,
        retry: (times, error) => error instanceof AnswerError && error.again && times < 2,
      },
    },
  });
  if (channel) channel.onmessage = ({ data }: MessageEvent<News>) => void outbox.heard(data);
  const flush = (): void => void outbox.flush();
  void outbox.recall().then(flush);
  setInterval(() => outbox.snapshot().waiting.length > 0 && flush(), RETRY_MILLISECONDS);
  window.addEventListener('online', flush);
  // What only this page holds is gone with it.
  window.addEventListener('beforeunload', (event) => {
    const { keeps, waiting } = outbox.snapshot();
    if (!keeps && waiting.length > 0) event.preventDefault();
  });
  followEvents(queries, outbox);
  forgetWhatIsAnswered(queries, outbox);
  // Without it everything works but going on without the server: nothing to trouble anybody with.
  keepForAway(queries).catch(() => undefined);
  return { outbox, queries };
}

/** Whenever a case was fetched, what it has need not be kept beside it any longer. */
function forgetWhatIsAnswered(queries: QueryClient, outbox: Outbox): void {
  queries.getQueryCache().subscribe(({ type, query }) => {
    if (type !== 'updated' || query.queryKey[0] !== 'case') return;
    const view = query.state.data as CaseView | undefined;
    if (view) void outbox.answered(view.id, new Set(view.entries.map(({ id }) => id)));
  });
}

/**
 * Has the browser keep the application and the cases lately opened, for when the server is away.
 */
async function keepForAway(queries: QueryClient): Promise<void> {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return;
  const { Workbox } = await import('workbox-window');
  const worker = new Workbox('/sw.js');
  // What was fetched before it was at work is not kept yet.
  worker.addEventListener('controlling', () => void queries.invalidateQueries());
  await worker.register();
}

/** Runs work while no other page of this browser does. */
async function alone(work: () => Promise<void>): Promise<void> {
  await navigator.locks.request('hanzai outbox', { ifAvailable: true }, async (lock) => {
    if (lock) await work();
  });
}
