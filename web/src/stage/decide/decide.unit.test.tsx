// @vitest-environment happy-dom
import { coursesOf, quoteOf, USUAL_JOB, type Course } from '@hanzai/core/decide';
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { ARCHETYPES, LIBRARY } from '@hanzai/data';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { keptFigures } from '../../case/kept-figures';
import type { CaseState } from '../../case/use-case';
import type { LineUp, NextStep } from '../../workers/engine-messages';
import { Consent } from './Consent';
import { CourseTable, teachesWords } from './CourseTable';
import type { Lot } from '../../stock/stock';
import { missingFor } from './MissingParts';
import { OwnerMessage } from './OwnerMessage';
import { QuotePanel } from './QuotePanel';
import { Salvage } from './Salvage';
import { limitOf } from '../../case/agreed';
import { stagesAhead, standingOf, suspectsOf, withHistory } from './standing';

const { board } = readSheetLines(
  `J1 9V in: 1=VIN 2=0
C1 VIN 0 47u 16V electrolytic
C2 A 0 47u 16V electrolytic
C3 B 0 100u 16V electrolytic
R1 VIN A 1k
R2 A B 1k`,
  LIBRARY,
);
const index = indexBoard(board);
const model = ARCHETYPES.find(({ name }) => name === 'optical-disc-reader')!;
let clock = Date.now() - 3_600_000;
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((clock += 60_000)).toISOString(),
  body,
});
const journalOf = (bodies: readonly EntryBody[]) => playJournal(bodies.map(entry), index);
const appended = vi.fn((_: EntryBody): string | undefined => undefined);
const VIEW = {
  id: v7(),
  number: 112,
  title: 'a test',
  unitModel: 'CR-40',
  owner: 'Orrin Vale, collector',
  complaint: 'dead',
  spendingLimit: '100.00',
  causeOfDeath: '',
  earlierVisitors: '',
};
const stateOf = (bodies: readonly EntryBody[], more: object = {}): CaseState =>
  ({
    index,
    model,
    journal: journalOf(bodies),
    view: VIEW,
    append: appended,
    ...more,
  }) as unknown as CaseState;

const suspect = (ref: string, probability: number, cleared = false) => ({
  ref,
  title: 'capacitor',
  probability,
  cleared,
});
const lineUp = (...entries: ReturnType<typeof suspect>[]): LineUp =>
  ({ entries }) as unknown as LineUp;
const next = { state: 'measure', proposals: [{ minutes: 1, gainBits: 1 }] } as unknown as NextStep;
const NONE = { closedMinutes: [], needs: [] };
const start = (failedAt: string | null): EntryBody => ({
  kind: 'start',
  failedAt,
  tries: 1,
  sounds: '',
  conditions: [],
});
afterEach(() => {
  cleanup();
  appended.mockReset();
  localStorage.clear();
});

describe('what a decision rests on', () => {
  it('suspects are the condemned, else the line-up without what is cleared', () => {
    const found = lineUp(suspect('C1', 0.6), suspect('C2', 0.2, true), suspect('R1', 0.001));
    expect(suspectsOf(journalOf([]), found).map(({ ref }) => ref)).toEqual(['C1']);
    const condemned: EntryBody = { kind: 'condemn', ref: 'C3', probability: 0.9, reason: '' };
    expect(suspectsOf(journalOf([condemned]), found)).toEqual([
      { ref: 'C3', title: '', probability: 0.9 },
    ]);
    expect(suspectsOf(journalOf([]), undefined)).toEqual([]);
  });

  it('stages ahead are those after the one where it stopped; years on a shelf make them doubtful', () => {
    const at = model.stages[2]!.name;
    const ahead = stagesAhead(model, journalOf([start(at)]), '');
    expect(ahead.map(({ name }) => name)).toEqual(model.stages.slice(3).map(({ name }) => name));
    const stored = stagesAhead(model, journalOf([start(at)]), 'nineteen years of storage');
    expect(stored[0]!.faulty).toBeGreaterThan(ahead[0]!.faulty);
    for (const journal of [journalOf([]), journalOf([start(null)]), journalOf([start('nowhere')])])
      expect(stagesAhead(model, journal, '')).toEqual([]);
    expect(stagesAhead(undefined, journalOf([start(at)]), '')).toEqual([]);
  });

  it('the newest amount agreed is the limit, before it the card', () => {
    const agreed = (limit?: number): EntryBody => ({
      kind: 'consent',
      to: 'go on',
      by: 'O. Vale',
      how: 'telephone',
      ...(limit === undefined ? {} : { limit }),
    });
    expect(limitOf(journalOf([]), VIEW)).toBe(100);
    expect(limitOf(journalOf([agreed(140), agreed()]), VIEW)).toBe(140);
    expect(limitOf(journalOf([agreed(140), agreed(160)]), VIEW)).toBe(160);
    expect(limitOf(journalOf([]), { spendingLimit: null })).toBeUndefined();
  });

  it('a round is what closed cases took, from three of them on', () => {
    expect(withHistory(USUAL_JOB, { ...NONE, closedMinutes: [200, 90] })).toBe(USUAL_JOB);
    expect(withHistory(USUAL_JOB, { ...NONE, closedMinutes: [200, 90, 95] }).roundMinutes).toBe(95);
  });

  it('all together: courses by the sheet, and none of it without one', () => {
    const state = { index, journal: journalOf([]), model, view: VIEW };
    const { courses } = standingOf(
      state,
      { lineUp: lineUp(suspect('C1', 0.6), suspect('C2', 0.3)), next },
      NONE,
      USUAL_JOB,
      true,
    );
    expect(courses.find(({ name }) => name === 'like')!.refs).toEqual(['C1', 'C2']);
    expect(courses.find(({ name }) => name === 'kind')!.refs).toEqual(['C1', 'C2', 'C3']);
    expect(courses.map(({ name }) => name)).toContain('donor');
    const bare = standingOf(
      { ...state, index: undefined },
      { lineUp: undefined, next: undefined },
      NONE,
      USUAL_JOB,
      false,
    );
    expect(bare.courses.map(({ name }) => name)).toEqual(['give-up']);
    expect(Number.isFinite(bare.quote.likely)).toBe(true);
  });

  it('figures that were spoilt in the browser count as not given', () => {
    for (const text of [
      '',
      '{',
      'null',
      '[]',
      '{"minutePrice":"2"}',
      '{"minutePrice":-1}',
      '{"minutePrice":null}',
    ]) {
      localStorage.setItem('k', text);
      expect(keptFigures('k', USUAL_JOB)).toEqual(USUAL_JOB);
    }
    localStorage.setItem('k', '{"minutePrice":2,"other":1}');
    expect(keptFigures('k', USUAL_JOB)).toEqual({ ...USUAL_JOB, minutePrice: 2 });
  });
});

describe('before it is opened', () => {
  const lot = (text: string, quantity: number): Lot => ({
    id: v7(),
    text,
    bin: '',
    supplier: '',
    price: null,
    boughtOn: null,
    quantity,
    reserved: 0,
    minimum: 0,
    donor: '',
    note: '',
    keptFor: [],
  });
  it('names likely parts that nothing free in stock would do for', () => {
    const suspects = [suspect('C1', 0.5), suspect('C3', 0.3), suspect('R1', 0.01)];
    const missing = (...lots: Lot[]) =>
      missingFor(suspects, lots, index, Date.now()).map(({ ref }) => ref);
    expect(missing(lot('47u 25V electrolytic', 1))).toEqual(['C3']);
    expect(missing(lot('47u 25V electrolytic', 0), lot('100u 10V electrolytic', 5))).toEqual([
      'C1',
      'C3',
    ]);
    expect(missing(lot('47u 25V electrolytic', 1), lot('100u 16V electrolytic', 1))).toEqual([]);
  });
});

describe('the screen', () => {
  const courses: readonly Course[] = coursesOf(
    {
      suspects: [{ ref: 'C1', probability: 0.6 }],
      likeOf: () => ['C1', 'C2'],
      kindOf: () => ['C1', 'C2', 'C3'],
      hasDonor: false,
      earlier: '',
    },
    USUAL_JOB,
  );

  it('lays the courses side by side, and asks for the reason', async () => {
    render(<CourseTable state={stateOf([])} courses={courses} />);
    const rows = screen.getAllByRole('row').slice(1);
    expect(rows).toHaveLength(courses.length);
    expect(within(rows[0]!).getByText('least')).toBeTruthy();
    expect(within(rows.at(-1)!).getByText('never')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Choose: replace it and its like' }));
    await userEvent.click(screen.getByRole('button', { name: 'Decide' }));
    expect(appended).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toMatch(/say why/);
    await userEvent.type(screen.getByLabelText(/^Why:/), 'of one age');
    await userEvent.click(screen.getByRole('button', { name: 'Decide' }));
    expect(appended).toHaveBeenCalledWith({
      kind: 'decision',
      course: 'like',
      reason: 'of one age',
    });
    expect(screen.queryByLabelText(/^Why:/)).toBeNull();
  });

  it('what was decided about the fault does not answer a check that may end the job', () => {
    const kill: EntryBody = {
      kind: 'check',
      title: 'beam present',
      block: 'laser',
      good: false,
      kill: true,
    };
    const decide = (course: 'one' | 'go-on'): EntryBody => ({
      kind: 'decision',
      course,
      reason: 'why not',
    });
    expect(journalOf([kill, decide('one')]).undecided).toHaveLength(1);
    expect(journalOf([kill, decide('go-on')]).undecided).toHaveLength(0);
  });

  it('says where to stop and ask', () => {
    const quote = (spentMinutes: number) =>
      quoteOf({
        spentMinutes,
        minutePrice: 1,
        thisFault: 40,
        ahead: [],
        roundPrice: 100,
        closingMinutes: 20,
        limit: 100,
      });
    const { rerender } = render(<QuotePanel quote={quote(10)} closed={[]} />);
    expect(screen.queryByText(/Stop and ask:|Ask first:/)).toBeNull();
    rerender(<QuotePanel quote={quote(50)} closed={[]} />);
    expect(screen.getByText('Ask first:')).toBeTruthy();
    rerender(<QuotePanel quote={quote(80)} closed={[1, 2, 3]} />);
    expect(screen.getByText('Stop and ask:')).toBeTruthy();
    expect(screen.getByText(/middle of 3 closed cases/)).toBeTruthy();
  });

  it('drafts the message, keeps what was changed by hand, and gives the draft back', async () => {
    const quote = quoteOf({
      spentMinutes: 10,
      minutePrice: 1,
      thisFault: 40,
      ahead: [],
      roundPrice: 100,
      closingMinutes: 20,
      limit: 100,
    });
    render(
      <OwnerMessage
        state={stateOf([{ kind: 'finding', text: 'belt glazed' }])}
        courses={courses}
        quote={quote}
        suspects={[{ ref: 'C1', title: '', probability: 0.6 }]}
      />,
    );
    const box = screen.getByLabelText('Message') as HTMLTextAreaElement;
    for (const words of ['Dear Orrin Vale', 'C1', 'belt glazed', '1. '])
      expect(box.value).toContain(words);
    const draft = box.value;
    await userEvent.type(box, ' PS');
    expect(box.value).toBe(`${draft} PS`);
    await userEvent.click(screen.getByRole('button', { name: 'The draft again' }));
    expect(box.value).toBe(draft);
  });

  it('records what was agreed', async () => {
    render(<Consent state={stateOf([])} />);
    await userEvent.type(screen.getByLabelText('Agreed to'), 'replace C1');
    await userEvent.type(screen.getByLabelText('Up to'), 'much');
    await userEvent.click(screen.getByRole('button', { name: 'Enter' }));
    expect(appended).not.toHaveBeenCalled();
    await userEvent.clear(screen.getByLabelText('Up to'));
    await userEvent.type(screen.getByLabelText('Up to'), '120');
    await userEvent.click(screen.getByRole('button', { name: 'Enter' }));
    expect(appended).toHaveBeenCalledWith({
      kind: 'consent',
      to: 'replace C1',
      by: 'Orrin Vale',
      how: 'telephone',
      limit: 120,
    });
  });

  it('given up: keeps what others wait for, never what is suspected, and promises nothing', () => {
    const givenUp: EntryBody = { kind: 'decision', course: 'give-up', reason: 'finished' };
    const needs = [{ number: 102, words: 'C6, 100u 16V, ordered' }];
    const { rerender } = render(<Salvage state={stateOf([])} lineUp={undefined} needs={needs} />);
    expect(screen.queryByText(/waits for one/)).toBeNull();
    rerender(
      <Salvage state={stateOf([givenUp])} lineUp={lineUp(suspect('C1', 0.1))} needs={needs} />,
    );
    expect(screen.getByText(/case 102 waits for one/)).toBeTruthy();
    expect(screen.getByText(/Nothing of it is proven/)).toBeTruthy();
    rerender(
      <Salvage state={stateOf([givenUp])} lineUp={lineUp(suspect('C3', 0.1))} needs={needs} />,
    );
    expect(screen.queryByText(/waits for one/)).toBeNull();
  });

  it('says in words what a course tells', () =>
    expect([1, 0.5, 0.2, 0].map(teachesWords)).toEqual([
      'who it was',
      'much',
      'something',
      'little',
    ]));
});
