// @vitest-environment happy-dom
import { ARCHETYPES } from '@hanzai/data';
import { learnPatterns } from '@hanzai/core/learn';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { store } from '../store/store';
import { CaseLinks } from './CaseLinks';
import { Exchange } from './Exchange';
import { findPatterns, matchOf } from './find';
import { PatternCard } from './PatternCard';
import { isUsual, type PatternsAnswer, type TaughtCase, type TaughtPattern } from './patterns';
import { PatternsPage } from './PatternsPage';
import { Teaching } from './Teaching';
import type { PatternsState } from './use-patterns';

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

const PATTERNS: TaughtPattern[] = ARCHETYPES.flatMap((model) =>
  learnPatterns(model, [], new Map()).map((pattern) => ({
    ...pattern,
    unitTitle: model.title,
    suspects: pattern.suspects.map((one) => ({
      ...one,
      title: model.blocks.find(({ name }) => name === one.name)!.title,
    })),
    parts: [],
    repairMinutes: null,
    cases: [],
  })),
);
const known = (more: Partial<PatternsAnswer> = {}): PatternsAnswer => ({
  setting: { on: true, since: null },
  closed: 0,
  counting: 0,
  behind: false,
  workedOutAt: '2026-05-02T09:30:00.000Z',
  rates: [],
  modes: [],
  patterns: PATTERNS,
  ends: [],
  own: [],
  packs: [],
  disagreements: [],
  ...more,
});

describe('a pattern is found by what is seen', () => {
  it('in the trade’s words and in the owner’s', () => {
    expect(findPatterns(known(), 'no movement')[0]!.name).toBe('no-movement');
    // What an owner says of it.
    expect(findPatterns(known(), 'dead').map(({ name }) => name)).toContain('no-movement');
    expect(findPatterns(known(), 'it buzzes')[0]!.name).toBe('hums-stands');
    expect(findPatterns(known(), 'xyzzy')).toEqual([]);
  });
  it('shows all where nothing is said, those with cases first', () => {
    const [first, ...others] = PATTERNS;
    const some = [...others, { ...first!, cases: [101, 102] }];
    expect(findPatterns(known({ patterns: some }), '  ')[0]).toMatchObject({ cases: [101, 102] });
    expect(findPatterns(known(), '')).toHaveLength(PATTERNS.length);
    expect(matchOf(PATTERNS[0]!, '')).toBe(1);
  });
  it('every pattern that ships is found by its own words', () => {
    for (const pattern of PATTERNS)
      expect(
        findPatterns(known(), pattern.seen).some(({ name }) => name === pattern.name),
        pattern.seen,
      ).toBe(true);
  });
});

describe('a pattern on the screen', () => {
  it('says what is from practice alone, and what before beside what was learned', () => {
    const [pattern] = PATTERNS;
    const { rerender } = render(<PatternCard pattern={pattern!} />);
    expect(screen.getByText(/common practice/)).toBeTruthy();
    expect(screen.getByText('No case of ours yet.')).toBeTruthy();
    expect(screen.queryByText(/before$/)).toBeNull();
    const [first, ...rest] = pattern!.suspects;
    rerender(
      <PatternCard
        pattern={{
          ...pattern!,
          suspects: [{ ...first!, before: 0.25, share: 0.5, seen: 3.33 }, ...rest],
          cases: [104, 107, 110, 112],
        }}
      />,
    );
    expect(screen.getByText(/^3\.3 of 4 here \(\d+ to \d+ %\), 1 in 4 before$/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'case 107' }).getAttribute('href')).toBe(
      '/case/107/hand-back',
    );
  });
  it('leads to cases, and says how many more there are', () => {
    render(<CaseLinks numbers={Array.from({ length: 11 }, (_, i) => 101 + i)} />);
    expect(screen.getAllByRole('link')).toHaveLength(8);
    expect(screen.getByText(/and 3 more/)).toBeTruthy();
  });
  it('is the usual end only where more than every second case is sure', () => {
    expect(isUsual({ interval: { low: 0.54, high: 1 } })).toBe(true);
    expect(isUsual({ interval: { low: 0.29, high: 1 } })).toBe(false);
  });
});

const lesson = (number: number, more: Partial<TaughtCase> = {}): TaughtCase => ({
  number,
  title: 'reader',
  closedAt: '2026-01-02T00:00:00.000Z',
  teaches: true,
  grade: 'shared',
  board: 'A',
  cures: [
    { words: 'C1 (capacitor)', share: 0.75 },
    { words: 'L1 (inductor)', share: 0.25 },
  ],
  ...more,
});

const state = (more: Partial<PatternsAnswer> = {}) => ({
  known: known({ closed: 3, counting: 1, ...more }),
  refusal: undefined,
  setTeaches: vi.fn(async () => undefined),
  setLearning: vi.fn(async () => undefined),
  add: vi.fn(async () => undefined),
  setAside: vi.fn(async () => undefined),
  takePack: vi.fn(async () => undefined),
  changePack: vi.fn(async () => undefined),
});

/** A server with these answers, by path; what is undefined fails, until it is given. */
function server(answers: Record<string, unknown>) {
  const fetch = vi.fn(async (path: string) => {
    if (path in answers && answers[path] === undefined) throw new Error('no network');
    return new Response(JSON.stringify(answers[path] ?? []), {
      headers: { 'content-type': 'application/json' },
    });
  });
  vi.stubGlobal('fetch', fetch);
  return fetch;
}
/** Opens the list, as a browser does where its words are pressed. */
function openList() {
  const fold = screen.getByText('Case by case').closest('details')!;
  fold.open = true;
  fireEvent(fold, new Event('toggle'));
}

describe('what it is learned from', () => {
  it('is doubted, switched off and begun anew', () => {
    const one = state();
    const { rerender } = render(<Teaching state={one satisfies PatternsState} />);
    expect(screen.getByText(/1 of 3 closed cases count/)).toBeTruthy();
    fireEvent.click(screen.getByRole('checkbox', { name: /go by closed cases/ }));
    expect(one.setLearning).toHaveBeenCalledWith({ on: false, since: null });
    fireEvent.click(screen.getByRole('button', { name: 'Begin anew' }));
    expect(one.setLearning).toHaveBeenLastCalledWith({
      on: true,
      since: expect.any(String) as string,
    });
    const anew = state({ setting: { on: true, since: '2026-03-01T00:00:00.000Z' }, counting: 0 });
    rerender(<Teaching state={anew} />);
    expect(screen.getByText(/0 of 3 closed cases count/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: /Count the earlier ones/ }));
    expect(anew.setLearning).toHaveBeenCalledWith({ on: true, since: null });
  });

  it('is seen case by case, a page at a time, and asked for when somebody looks', async () => {
    const fetch = server({
      '/api/patterns/lessons': [lesson(122), lesson(121, { grade: 'unproven' })],
      '/api/patterns/lessons?before=121': [lesson(120, { teaches: false })],
    });
    const one = state();
    render(<Teaching state={one} />);
    expect(fetch).not.toHaveBeenCalled();
    openList();
    const row = await screen.findByRole('row', { name: /122/ });
    expect(within(row).getByText(/C1 \(capacitor\) 75 %; L1 \(inductor\) 25 %/)).toBeTruthy();
    expect(screen.getByRole('row', { name: /121.*never proven: counts nothing/ })).toBeTruthy();
    fireEvent.click(within(row).getByRole('checkbox'));
    expect(one.setTeaches).toHaveBeenCalledWith(122, false);
    fireEvent.click(screen.getByRole('button', { name: 'Earlier ones, 1 more' }));
    const last = await screen.findByRole('row', { name: /120/ });
    expect(within(last).getByRole<HTMLInputElement>('checkbox').checked).toBe(false);
    // All three are here: nothing more is offered.
    await vi.waitFor(() => expect(screen.queryByText('Looking them up.')).toBeNull());
    expect(screen.queryByRole('button', { name: /Earlier/ })).toBeNull();
  });

  it('says why cases are not here, keeps those that are, and tries again', async () => {
    const answers: Record<string, unknown> = {
      '/api/patterns/lessons': [lesson(122)],
      '/api/patterns/lessons?before=122': undefined,
    };
    server(answers);
    render(<Teaching state={state()} />);
    openList();
    fireEvent.click(await screen.findByRole('button', { name: 'Earlier ones, 2 more' }));
    // It is tried again twice before that is said.
    expect(await screen.findByText(/Not all are here/, {}, { timeout: 20_000 })).toBeTruthy();
    expect(screen.getByRole('row', { name: /122/ })).toBeTruthy();
    answers['/api/patterns/lessons?before=122'] = [lesson(119), lesson(118)];
    fireEvent.click(screen.getByRole('button', { name: /Earlier ones/ }));
    expect(await screen.findByRole('row', { name: /118/ })).toBeTruthy();
    expect(screen.queryByText(/Not all are here/)).toBeNull();
  });
});

describe('while closed cases are being worked in', () => {
  const page = (more: Partial<PatternsAnswer>) => (
    <PatternsPage known={known(more)} boards={[]} find="" />
  );
  it('says of when the page is, and shows what came of it as soon as it is there', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    const fetch = server({ '/api/patterns': known({ closed: 41, counting: 40 }) });
    render(page({ behind: true, closed: 40, counting: 39 }));
    expect(screen.getByText(/What you see is of 2 May 2026/)).toBeTruthy();
    expect(screen.getByText(/39 of 40 closed cases count/)).toBeTruthy();
    await vi.advanceTimersByTimeAsync(2500);
    expect(await screen.findByText(/40 of 41 closed cases count/)).toBeTruthy();
    expect(screen.queryByText(/being worked in/)).toBeNull();
    // And nothing is asked for any more.
    const asked = fetch.mock.calls.length;
    await vi.advanceTimersByTimeAsync(10_000);
    expect(fetch.mock.calls).toHaveLength(asked);
    vi.useRealTimers();
  });
  it('never calls the table alone what was learned here', () => {
    server({});
    render(page({ behind: true, workedOutAt: null, closed: 0, counting: 0 }));
    expect(screen.getByText(/the rate table and common practice alone/)).toBeTruthy();
  });
});

describe('other workshops', () => {
  it('are weighed and set aside, and what does not meet is told', async () => {
    const workshop = '01890000-0000-7000-8000-00000000000b';
    const one = state({
      packs: [
        { workshop, madeAt: '2026-05-02T00:00:00.000Z', cases: 40, trust: 0.5, similarity: 0.62 },
      ],
      disagreements: [{ of: 'fuse', workshop, own: 0.4, factor: 6 }],
    });
    render(<Exchange state={one} />);
    expect(screen.getByText(/62 % of its work is like ours/)).toBeTruthy();
    expect(screen.getByText(/here 0.40 times the table, at 01890000 6.00 times/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText(/How far 01890000 is believed/), {
      target: { value: '1' },
    });
    expect(one.changePack).toHaveBeenCalledWith(workshop, { trust: 1 });
    fireEvent.click(screen.getByRole('button', { name: 'Set aside: 01890000' }));
    expect(one.changePack).toHaveBeenLastCalledWith(workshop, { archived: true });
    const file = new File(['{"format":"x"}'], 'patterns.json', { type: 'application/json' });
    fireEvent.change(screen.getByLabelText('Take a pack in'), { target: { files: [file] } });
    await vi.waitFor(() => expect(one.takePack).toHaveBeenCalledWith('{"format":"x"}'));
  });
});
