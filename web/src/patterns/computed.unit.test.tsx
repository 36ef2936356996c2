// @vitest-environment happy-dom
import { ARCHETYPES } from '@hanzai/data';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { store } from '../store/store';
import { firstTests } from './first-tests';
import { FromCircuit, withLearned } from './FromCircuit';

// What a circuit says of what is seen, and what can be tried first.

vi.stubGlobal(
  'EventSource',
  class {
    addEventListener(): void {}
    close(): void {}
  },
);
afterEach(() => {
  cleanup();
  store().queries.clear();
});

const BOARD = '01890000-0000-7000-8000-000000000002';
const boards = [{ id: BOARD, title: 'CR40-SRV', parts: 60 }];
const json = (body: unknown, status = 200) =>
  Promise.resolve(
    new Response(JSON.stringify(body), {
      status,
      headers: { 'content-type': status < 400 ? 'application/json' : 'application/problem+json' },
    }),
  );
function server(circuit: () => Promise<Response>, factors: Record<string, number> = {}) {
  const fetch = vi.fn((path: string, _options: RequestInit) =>
    path.includes('/circuit/') ? circuit() : json({ factors, ends: [], cases: 3, behind: false }),
  );
  vi.stubGlobal('fetch', fetch);
  return fetch;
}
const row = {
  name: 'lamp',
  title: 'the power lamp is lit',
  healthy: 'yes',
  share: 0.2,
  suspects: [
    { ref: 'J1', probability: 0.6 },
    { ref: 'D6', probability: 0.3 },
  ],
};
const choose = () =>
  fireEvent.change(screen.getByLabelText('Board sheet'), { target: { value: BOARD } });

describe('odds with what was learned', () => {
  it('are the circuit’s where nothing was learned, in the same order', () => {
    expect(withLearned(row.suspects, {})).toEqual([
      { ref: 'J1', before: 0.6, now: 0.6 },
      { ref: 'D6', before: 0.3, now: 0.3 },
    ]);
  });
  it('are multiplied and made whole again with those that are not told: by hand', () => {
    // 0.6, 0.3 x 4 and a rest of 0.1: 1.9 in all.
    const [first, second] = withLearned(row.suspects, { D6: 4 });
    expect(first).toMatchObject({ ref: 'D6', before: 0.3 });
    expect(first!.now).toBeCloseTo(1.2 / 1.9, 12);
    expect(second!.now).toBeCloseTo(0.6 / 1.9, 12);
  });
  it('are nothing where nothing does it', () => {
    expect(withLearned([], { J1: 3 })).toEqual([]);
  });
});

describe('the panel', () => {
  it('asks nothing before a board is chosen, then shows what its circuit says', async () => {
    const fetch = server(() => json([row]), { D6: 4 });
    render(<FromCircuit boards={boards} said="" />);
    expect(fetch).not.toHaveBeenCalled();
    choose();
    expect(await screen.findByText(/Being worked out/)).toBeTruthy();
    expect(await screen.findByRole('heading', { name: /power lamp is lit: not so/ })).toBeTruthy();
    expect(await screen.findByText('1 in 3 by the circuit alone')).toBeTruthy();
    expect(screen.queryByText(/Being worked out/)).toBeNull();
  });
  it('keeps to what somebody said is seen', async () => {
    server(() => json([row]));
    const { rerender } = render(<FromCircuit boards={boards} said="lamp" />);
    choose();
    expect(await screen.findByRole('heading', { name: /power lamp/ })).toBeTruthy();
    rerender(<FromCircuit boards={boards} said="hums" />);
    expect(screen.getByText('Nothing that is seen of this board is like that.')).toBeTruthy();
  });
  it('can be stopped, and says why where there is no answer', async () => {
    server(() => new Promise(() => undefined));
    render(<FromCircuit boards={boards} said="" />);
    choose();
    fireEvent.click(await screen.findByRole('button', { name: 'Stop' }));
    expect(screen.queryByText(/Being worked out/)).toBeNull();
    expect((screen.getByLabelText('Board sheet') as HTMLSelectElement).value).toBe('');
    server(() => json({ title: 'x', detail: 'the sheet is broken' }, 422));
    choose();
    expect(await screen.findByText(/the sheet is broken/)).toBeTruthy();
  });
  it('says what is missing: no sheet, or a sheet of which nothing is seen', async () => {
    server(() => json([]));
    const { unmount } = render(<FromCircuit boards={[]} said="" />);
    expect(screen.getByText(/import one under Boards/)).toBeTruthy();
    unmount();
    render(<FromCircuit boards={boards} said="" />);
    choose();
    expect(await screen.findByText(/name observables/)).toBeTruthy();
  });
});

describe('first tests of a pattern', () => {
  const test = (name: string, block: string, minutes: number, coverage: number) => ({
    name,
    title: name,
    block,
    minutes,
    coverage,
    finished: 'it',
    worthSaving: 'all',
  });
  const suspect = (name: string, share: number) => ({
    name,
    title: name,
    share,
    before: share,
    interval: { low: 0, high: 1 },
    seen: 0,
  });
  it('are those of its suspects, by what a minute tells', () => {
    const tests = firstTests(
      { suspects: [suspect('laser', 0.6), suspect('motor', 0.3)] },
      {
        killChecks: [
          test('slow', 'laser', 20, 0.9),
          test('quick', 'motor', 2, 0.5),
          test('elsewhere', 'host', 1, 0.9),
        ],
        firstAid: [{ name: 'clean', title: 'clean', block: 'laser', minutes: 5, cures: 0.3 }],
      },
    );
    // 0.3 x 0.5 / 2, 0.6 x 0.3 / 5, 0.6 x 0.9 / 20.
    expect(tests.map(({ title }) => title)).toEqual(['quick', 'clean', 'slow']);
  });
  it('carry their caution, in every kind of unit that ships', () => {
    for (const model of ARCHETYPES) {
      const tests = firstTests(
        { suspects: model.blocks.map(({ name, prior }) => suspect(name, prior)) },
        model,
      );
      const all = [...model.killChecks, ...(model.firstAid ?? [])];
      expect(tests).toHaveLength(all.length);
      for (const one of all.filter(({ caution }) => caution !== undefined))
        expect(tests.find(({ title }) => title === one.title)!.caution).toBe(one.caution);
    }
  });
});
