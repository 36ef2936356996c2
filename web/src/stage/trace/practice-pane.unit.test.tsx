// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { readPoints, type Attention } from '@hanzai/core/training';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { PracticeLink } from '../../case/practice-link';
import { PracticePane } from './PracticePane';

// Beside the map of an exercise: the small things at the bench, and what is seen without a sheet.

const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN V9 T1A\nC4 V9 0 470u\nC6 V9 0 100u', LIBRARY).board,
);
afterEach(cleanup);

function pane(more: Partial<PracticeLink> = {}) {
  const attend = vi.fn<(deed: Attention) => void>();
  const practice: PracticeLink = {
    help: 'priced',
    minutes: 0,
    boardTitle: 'x',
    level: 'x',
    complaint: 'x',
    damage: [],
    said: [],
    tour: undefined,
    failure: undefined,
    busy: false,
    bench: index,
    hasSheet: true,
    deeds: [],
    points: (text) => readPoints(index, text),
    attend,
    ask: vi.fn(),
    measure: vi.fn(),
    ...more,
  };
  render(<PracticePane practice={practice} home="/practice/x" onTry={vi.fn()} />);
  return attend;
}
const choose = (words: string): Promise<void> =>
  userEvent.selectOptions(screen.getByLabelText('What'), words);
const doIt = (): Promise<void> => userEvent.click(screen.getByRole('button', { name: 'Do it' }));

describe('what is done at the bench of an exercise', () => {
  it('each of the list becomes the action that it says', async () => {
    const attend = pane();
    await doIt();
    await choose('Hold the board flexed');
    await doIt();
    await choose('Let go');
    await doIt();
    await choose('Leave it on, and let it get warm');
    await userEvent.clear(screen.getByLabelText('Minutes'));
    await userEvent.type(screen.getByLabelText('Minutes'), '8{Enter}');
    await choose('Spray a part cold');
    await userEvent.type(screen.getByLabelText('Part'), 'c6{Enter}');
    await choose('Swap two of a kind');
    await userEvent.type(screen.getByLabelText('With'), ' c4{Enter}');
    expect(attend.mock.calls.map(([deed]) => deed)).toEqual([
      { do: 'zero' },
      { do: 'press', ref: '' },
      { do: 'release' },
      { do: 'wait', minutes: 8 },
      { do: 'chill', ref: 'c6' },
      { do: 'swap', ref: 'c6', with: 'c4' },
    ]);
  });
  it.each([
    ['Leave it on, and let it get warm', 'Minutes', '0', '1 to 60 whole minutes'],
    ['Leave it on, and let it get warm', 'Minutes', '2.5', '1 to 60 whole minutes'],
    ['Leave it on, and let it get warm', 'Minutes', '999', '1 to 60 whole minutes'],
    ['Press on a part', 'Part', '  ', 'which part'],
  ])('%s with %s %j is asked for again', async (words, field, typed, why) => {
    const attend = pane();
    await choose(words);
    await userEvent.clear(screen.getByLabelText(field));
    await userEvent.type(screen.getByLabelText(field), typed);
    await doIt();
    expect(screen.getByText(why)).toBeTruthy();
    expect(attend).not.toHaveBeenCalled();
  });
  it('says what was done last', () => {
    pane({ deeds: ['C6 sprayed cold', 'let go'] });
    expect(screen.getByText('Last: let go.')).toBeTruthy();
  });
});

describe('without a sheet', () => {
  it('parts and what is printed on them are seen, and no net', () => {
    pane({ hasSheet: false });
    const seen = screen.getByRole('region', { name: 'What is seen on it' });
    expect(seen.textContent).toContain('C6');
    for (const net of index.nets) expect(seen.textContent).not.toContain(` ${net} `);
    expect(screen.queryByLabelText(/Who can hold net/)?.closest('[hidden]')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Survey/ })).toBeNull();
  });
  it('with one there is no such list', () => {
    pane();
    expect(screen.queryByRole('region', { name: 'What is seen on it' })).toBeNull();
  });
});
