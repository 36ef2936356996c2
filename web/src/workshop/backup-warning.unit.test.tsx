// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import { QueryClient } from '@tanstack/react-query';
import { renderToString } from 'react-dom/server';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { BackupWarning } from './BackupWarning';
import type { Backups } from './backups';

// Whether the masthead warns, and that a page that is made on the server can hold it.

let queries = new QueryClient();
const store = vi.hoisted(() => vi.fn());
vi.mock('../store/store', () => ({ store }));
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function answers(known: Backups | undefined): void {
  queries = new QueryClient();
  store.mockImplementation(() => ({ queries }));
  vi.stubGlobal('fetch', async () =>
    known ? Response.json(known) : new Response('', { status: 503 }),
  );
}
const one = {
  name: 'w-20260101-030000.hanzai-backup',
  madeAt: '2026-01-01T03:00:00.000Z',
  bytes: 9,
};

describe('the warning of an old backup', () => {
  it('is asked for by no page that is made on the server', () => {
    store.mockImplementation(() => {
      throw new Error('there is no store here');
    });
    expect(renderToString(<BackupWarning />)).toBe('');
  });
  it('leads to the backups where the newest is old, or there is none', async () => {
    answers({ isScheduled: true, picturesElsewhere: false, backups: [one], isOld: true });
    render(<BackupWarning />);
    const link = await screen.findByText('last backup is old');
    expect(link.getAttribute('href')).toBe('/workshop');
    cleanup();
    answers({ isScheduled: true, picturesElsewhere: false, backups: [], isOld: true });
    render(<BackupWarning />);
    expect(await screen.findByText('no backup yet')).toBeTruthy();
  });
  it('says nothing where all is well, or nobody answers', async () => {
    for (const known of [
      { isScheduled: true, picturesElsewhere: false, backups: [one], isOld: false },
      undefined,
    ]) {
      answers(known);
      const { container } = render(<BackupWarning />);
      await vi.waitFor(() => expect(queries.isFetching()).toBe(0));
      expect(container.textContent).toBe('');
      cleanup();
    }
  });
});
