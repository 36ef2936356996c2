// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import { QueryClient } from '@tanstack/react-query';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ErrandState, goesOn, type Errand } from './errands';
import { errandWords, OpenFiles } from './OpenFiles';

// Errands on the screen: what is said of each, and what can be done.

const store = vi.hoisted(() => vi.fn());
vi.mock('../store/store', () => ({ store }));
let errands: Errand[] = [];
let refuses: { status: number; detail: string } | undefined;
const sent: { path: string; method: string; body: unknown }[] = [];

beforeEach(() => {
  [errands, refuses] = [[], undefined];
  sent.length = 0;
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  store.mockImplementation(() => ({ queries }));
  vi.stubGlobal('fetch', async (path: string, { method = 'GET', body }: RequestInit) => {
    if (method === 'GET') return Response.json({ errands });
    sent.push({ path, method, body });
    return refuses
      ? new Response(JSON.stringify(refuses), {
          status: refuses.status,
          headers: { 'content-type': 'application/problem+json' },
        })
      : Response.json({});
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const one = (over: Partial<Errand>): Errand => ({
  id: '01890000-0000-7000-8000-000000000001',
  what: 'archive',
  state: 'done',
  name: 'w.tar.gz',
  askedBy: 'Mara Voss',
  askedAt: '2026-01-01T03:00:00.000Z',
  bytes: 0,
  worked: 0,
  said: '',
  ...over,
});

describe('what is said of an errand', () => {
  it('is something else in every state, for both kinds, and never more than the whole', () => {
    for (const what of ['archive', 'take-in'] as const) {
      const words = ErrandState.options.map((state) =>
        errandWords(one({ what, state, bytes: 2_000_000, worked: 3_000_000 })),
      );
      expect(new Set(words).size).toBe(words.length);
      expect(words.join()).not.toMatch(/1(?!00 %)[0-9]{2,} %|NaN|undefined/);
    }
    expect(errandWords(one({ what: 'take-in', state: 'working', bytes: 300, worked: 100 }))).toBe(
      'being taken in, 33 %',
    );
  });
  it('only what goes on can be stopped, only what is made can be taken along', async () => {
    errands = ErrandState.options.map((state, i) =>
      one({ state, name: state, id: one({}).id.replace(/1$/, String(i)) }),
    );
    render(<OpenFiles />);
    expect(await screen.findAllByRole('button', { name: /^Stop/ })).toHaveLength(
      ErrandState.options.filter((state) => goesOn({ state })).length,
    );
    expect(screen.getAllByRole('link')).toHaveLength(1);
    // While one goes on, another is not asked for.
    expect(
      screen.getByRole<HTMLButtonElement>('button', { name: 'Make the archive' }).disabled,
    ).toBe(true);
  });
});

describe('the form', () => {
  it('without a file says so and sends nothing', async () => {
    render(<OpenFiles />);
    await userEvent.click(screen.getByRole('button', { name: 'Take it in' }));
    expect(screen.getByText('Choose the archive first.')).toBeTruthy();
    expect(sent).toEqual([]);
  });
  it('sends the file itself under its name, and keeps it where it was refused', async () => {
    refuses = { status: 409, detail: 'one of these goes on already' };
    render(<OpenFiles />);
    const file = new File(['x'], 'spring & loom.tar.gz');
    const field = screen.getByLabelText<HTMLInputElement>('An archive of another workshop');
    await userEvent.upload(field, file, { applyAccept: false });
    await userEvent.click(screen.getByRole('button', { name: 'Take it in' }));
    expect(await screen.findByText(/goes on already/)).toBeTruthy();
    expect(sent).toEqual([
      {
        path: '/api/errands?what=take-in&name=spring%20%26%20loom.tar.gz',
        method: 'POST',
        body: file,
      },
    ]);
    refuses = undefined;
    await userEvent.click(screen.getByRole('button', { name: 'Take it in' }));
    await vi.waitFor(() => expect(sent).toHaveLength(2));
  });
});
