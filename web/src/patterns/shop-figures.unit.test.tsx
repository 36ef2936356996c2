// @vitest-environment happy-dom
import { cleanup, render, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { CaseFigures } from '../case/case-figures';
import { Figures } from './FiguresPage';
import { ShopFigures, shopFigures, type FiguredCase } from './shop-figures';

// The shop's own figures, put together from cases.

afterEach(cleanup);

const figured = (
  number: number,
  more: Partial<CaseFigures> = {},
  row: Partial<FiguredCase> = {},
): FiguredCase => ({
  number,
  serial: '',
  openedAt: '2026-01-01T08:00:00.000Z',
  figures: {
    minutes: {},
    policy: 'one',
    turns: [],
    fitted: [],
    givenUp: false,
    price: null,
    returned: '',
    closedAt: '2026-01-10T08:00:00.000Z',
    guaranteeUntil: '2026-07-09T08:00:00.000Z',
    cameBack: false,
    ...more,
  },
  ...row,
});
const open = (number: number, serial: string, openedAt: string): FiguredCase => ({
  number,
  serial,
  openedAt,
  figures: null,
});

describe('what came back', () => {
  const returned = (...rows: FiguredCase[]) =>
    shopFigures(rows).policies.flatMap((one) => one.returned);
  it('is what did not run when asked, or was taken in anew within its guarantee', () => {
    expect(returned(figured(1, { cameBack: true }))).toEqual([1]);
    const own = figured(1, {}, { serial: 'PD3-0214' });
    expect(returned(own, open(2, ' pd3-0214', '2026-03-01T08:00:00.000Z'))).toEqual([1]);
  });
  it.each([
    ['another unit', open(2, 'PD3-0215', '2026-03-01T08:00:00.000Z')],
    ['an earlier visit', open(2, 'PD3-0214', '2025-12-01T08:00:00.000Z')],
    ['a visit after the guarantee', open(2, 'PD3-0214', '2026-07-10T08:00:00.000Z')],
  ])('is not %s', (_, other) => {
    expect(returned(figured(1, {}, { serial: 'PD3-0214' }), other)).toEqual([]);
  });
  it('is not a unit without a serial because another has none either', () => {
    expect(returned(figured(1), open(2, '', '2026-03-01T08:00:00.000Z'))).toEqual([]);
  });
  it('is counted against cases with a guarantee only, with the spread that so few leave', () => {
    const { policies } = shopFigures([
      figured(1, { cameBack: true }),
      ...[2, 3, 4, 5, 6, 7, 8, 9, 10].map((number) => figured(number)),
      figured(11, { guaranteeUntil: null, cameBack: true }),
    ]);
    expect(policies).toHaveLength(1);
    expect(policies[0]).toMatchObject({ policy: 'one', guaranteed: 10, returned: [1] });
    // Clopper-Pearson for 1 of 10: C. J. Clopper, E. S. Pearson, Biometrika 26, 1934.
    expect(policies[0]!.interval.low).toBeCloseTo(0.0025, 4);
    expect(policies[0]!.interval.high).toBeCloseTo(0.445, 3);
  });
});

describe('where the time goes', () => {
  it('is the median of the cases that were in a stage at all, the longest first', () => {
    const { stages } = shopFigures([
      figured(1, { minutes: { trace: 30, repair: 10 } }),
      figured(2, { minutes: { trace: 10 } }),
      figured(3, { minutes: { trace: 50 } }),
      figured(4, { minutes: {} }),
    ]);
    expect(stages).toEqual([
      { stage: 'trace', median: 30, most: 50, share: 0.9, cases: [3, 1, 2] },
      { stage: 'repair', median: 10, most: 10, share: 0.1, cases: [1] },
    ]);
  });
});

it('counts each wrong turn, and each case behind it once', () => {
  const stayed = { kind: 'stayed', words: 'C1' } as const;
  const { turns } = shopFigures([
    figured(1, { turns: [stayed, stayed] }),
    figured(2, { turns: [stayed, { kind: 'cleared', words: 'Q2' }] }),
  ]);
  expect(turns).toEqual([
    { kind: 'stayed', count: 3, cases: [1, 2] },
    { kind: 'cleared', count: 1, cases: [2] },
  ]);
});

it('tells which kinds of parts were in units that came back, against all that they went on in', () => {
  const capacitor = { ref: 'C1', of: 'capacitor electrolytic' };
  const { parts } = shopFigures([
    figured(1, { fitted: [capacitor, { ...capacitor, ref: 'C2' }], cameBack: true }),
    figured(2, { fitted: [capacitor] }),
    figured(3, { fitted: [{ ref: 'Q1', of: 'transistor' }] }),
  ]);
  expect(parts).toEqual([{ of: 'capacitor electrolytic', fitted: 2, came: 1, cases: [1] }]);
});

describe('the page', () => {
  it('says what to do while there is nothing', () => {
    render(<Figures figures={ShopFigures.parse(shopFigures([]))} />);
    expect(screen.getByText(/No case is closed yet/)).toBeTruthy();
    expect(screen.queryByRole('table')).toBeNull();
  });
  it('leads from each figure to the cases behind it', () => {
    const made = shopFigures([
      figured(104, {
        cameBack: true,
        minutes: { trace: 75 },
        turns: [{ kind: 'cleared', words: 'C1' }],
        fitted: [{ ref: 'C1', of: 'capacitor electrolytic' }],
      }),
    ]);
    render(<Figures figures={ShopFigures.parse(made)} />);
    for (const name of [
      'the one part',
      'Trace',
      'a verdict taken back',
      'capacitor electrolytic',
    ]) {
      const row = screen.getByRole('rowheader', { name }).closest('tr')!;
      expect(within(row).getByRole('link', { name: 'case 104' }).getAttribute('href')).toBe(
        '/case/104/hand-back',
      );
    }
    expect(screen.getByText('1 of 1', { selector: 'b' })).toBeTruthy();
  });
});
