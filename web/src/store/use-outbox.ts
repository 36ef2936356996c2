import { useSyncExternalStore } from 'react';
import type { OutboxState } from './outbox';
import { store } from './store';

/** What a page shows before it has come to life. */
const QUIET: OutboxState = {
  waiting: [],
  aside: [],
  stored: new Map(),
  reachable: true,
  keeps: true,
};

const subscribe = (watcher: () => void): (() => void) => store().outbox.subscribe(watcher);
const snapshot = (): OutboxState => store().outbox.snapshot();

/** What waits to be stored, of all cases. */
export const useOutbox = (): OutboxState => useSyncExternalStore(subscribe, snapshot, () => QUIET);
