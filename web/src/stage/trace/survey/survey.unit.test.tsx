// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import Papa from 'papaparse';
import { v7 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../../../case/entry';
import { playJournal } from '../../../case/journal';
import { keptFigures } from '../../../case/kept-figures';
import { entryObjection } from '../../../case/rules';
import type { CaseState } from '../../../case/use-case';
import { Engine } from '../../../workers/engine';
import { stepsOf, listsOf, SURVEY, type RunningSequence } from '../use-sequence';
import { brotherFrames, decades, dotsOf } from './EsrChart';
import SurveyPane from './SurveyPane';
import { surveyCsv } from './survey-file';
import type { SurveyRow } from './use-survey';
import { USUAL_FIGURES } from '@hanzai/core/survey';

const { board } = readSheetLines(
  `J1 9V in: 1=VIN 2=0
C1 A 0 47u 16V electrolytic pos=10,10
C2 B 0 47u 16V electrolytic pos=20,10
C3 C 0 47u 16V electrolytic pos=30,10
R1 A B 1k
R2 B C 1k
R3 VIN A 1k`,
  LIBRARY,
);
const index = indexBoard(board);
const esr = (ref: string, value: number): EntryBody => ({
  kind: 'reading',
  setup: 'off',
  quantity: 'esr',
  at: `${ref}.1`,
  to: `${ref}.2`,
  value,
  typed: `${ref} ${value} esr`,
});
const entry = (body: EntryBody): Entry => ({ id: v7(), madeAt: new Date().toISOString(), body });
const appended = vi.fn((_: EntryBody): string | undefined => undefined);

function stateOf(bodies: readonly EntryBody[]): CaseState {
  const entries = bodies.map(entry);
  const engine = new Engine(board);
  return {
    index,
    entries,
    journal: playJournal(entries, index),
    view: { number: 7, title: 'a test' },
    append: appended,
    engine: {
      door: { survey: (request: unknown) => Promise.resolve(engine.parts.survey(request)) },
    },
  } as unknown as CaseState;
}
/** The same, with an engine that lets so many questions go because something newer was asked. */
function busyStateOf(bodies: readonly EntryBody[], letGo: number): CaseState {
  const state = stateOf(bodies);
  const { door } = state.engine!;
  let left = letGo;
  const survey = (request: unknown) =>
    left-- > 0 ? Promise.resolve(undefined) : door.survey(request);
  return { ...state, engine: { door: { survey } } } as unknown as CaseState;
}
function runningOf({ journal }: CaseState): RunningSequence {
  const sequence = listsOf(index).find(({ name }) => name === SURVEY)!;
  const steps = stepsOf(sequence, journal);
  return { sequence, steps, left: steps.filter(({ taken, isSkipped }) => !taken && !isSkipped) };
}
const show = (bodies: readonly EntryBody[], state = stateOf(bodies)): void => {
  render(
    <SurveyPane
      state={state}
      running={runningOf(state)}
      onPlace={() => undefined}
      onClose={() => undefined}
    />,
  );
};
const row = (ref: string) =>
  within(screen.getByRole('table', { name: 'Capacitors' })).getByRole('row', {
    name: new RegExp(`^${ref}`),
  });

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  appended.mockClear();
});

describe('the capacitor survey', () => {
  it('asks for the zero of the leads first, and takes it off every reading after it', () => {
    show([]);
    expect(screen.getByText(/zero the meter first/)).toBeTruthy();
    cleanup();
    const { journal } = stateOf([
      esr('C1', 0.5),
      { kind: 'leadZero', ohm: 0.2 },
      esr('C2', 0.5),
      esr('C3', 0.1),
    ]);
    expect(journal.readings.map(({ value }) => value)).toEqual([0.5, 0.3, 0]);
    // What the meter showed stays as it was written down.
    expect(journal.readings[1]!.entry.body.value).toBe(0.5);
  });
  it('convicts the one out of line with its like, and says nothing of what was not read', async () => {
    show([{ kind: 'leadZero', ohm: 0 }, esr('C1', 0.2), esr('C2', 0.22), esr('C3', 9)]);
    expect(await within(row('C3')).findByText('BAD')).toBeTruthy();
    expect(within(row('C3')).getByText(/its like read C1 200 mΩ, C2 220 mΩ/)).toBeTruthy();
    expect(within(row('C1')).getByText('good')).toBeTruthy();
    cleanup();
    show([{ kind: 'leadZero', ohm: 0 }, esr('C1', 0.2)]);
    await within(row('C1')).findByText(/good|doubtful/);
    expect(row('C2').textContent).not.toMatch(/good|BAD|doubtful|judged/);
    expect(row('C2').getAttribute('aria-current')).toBe('step');
  });
  it('is judged in the end, however often a newer request took the engine away', async () => {
    const bodies = [esr('C1', 0.2), esr('C2', 0.22), esr('C3', 9)];
    show(bodies, busyStateOf(bodies, 2));
    expect(await within(row('C3')).findByText('BAD', {}, { timeout: 3000 })).toBeTruthy();
  });
  it('shows what a part measures by itself, whatever it read in circuit', async () => {
    show([
      { kind: 'leadZero', ohm: 0 },
      esr('C1', 0.2),
      { kind: 'offBoard', ref: 'C1', farad: 25e-6 },
    ]);
    expect(await within(row('C1')).findByText(/25 µF, −47 % of 47 µF: worn out/)).toBeTruthy();
  });
  it('a leak seen beside a part makes it likelier to be bad', () => {
    const engine = new Engine(board);
    const readings = [
      { id: 'a', setup: 'off', kind: 'esr', at: 'C1.1', to: 'C1.2', value: 1.5, absent: [] },
    ];
    const bad = (look: Record<string, number>) =>
      engine.parts.survey({ readings, look })[0]!.probabilityBad;
    expect(bad({ C1: 20 })).toBeGreaterThan(2 * bad({}));
    expect(bad({ C2: 20 })).toBeCloseTo(bad({}), 9);
  });
  it('goes round a part that is out of reach', () => {
    const skip: EntryBody = {
      kind: 'skip',
      setup: 'off',
      quantity: 'esr',
      at: 'C1.1',
      to: 'C1.2',
      why: 'reach',
    };
    show([skip]);
    expect(within(row('C1')).getByText('out of reach')).toBeTruthy();
    expect(row('C2').getAttribute('aria-current')).toBe('step');
  });
  it('weighs how far to go, and files the choice with its figures', async () => {
    show([{ kind: 'leadZero', ohm: 0 }, esr('C1', 0.2), esr('C2', 0.22), esr('C3', 9)]);
    await within(row('C3')).findByText('BAD');
    await userEvent.click(screen.getByRole('button', { name: 'How far' }));
    const plans = within(screen.getByRole('table', { name: 'How far to go' }));
    expect(plans.getByText('1: C3')).toBeTruthy();
    await userEvent.click(plans.getAllByRole('button', { name: 'Choose' })[0]!);
    const body = appended.mock.calls[0]![0];
    expect(body).toMatchObject({ kind: 'extent', extent: 'bad', refs: ['C3'] });
    expect(entryObjection(body, [], index)).toBeUndefined();
    expect(entryObjection({ ...body, refs: ['C9'] } as EntryBody, [], index)).toMatch(/no part C9/);
  });
});

describe('figures of the workshop', () => {
  it('survive what is no figure', () => {
    const kept = (text: string | undefined) => {
      localStorage.clear();
      if (text !== undefined) localStorage.setItem('figures', text);
      return keptFigures('figures', USUAL_FIGURES);
    };
    for (const text of [
      undefined,
      '',
      'x',
      'null',
      '[]',
      '{"partPrice":"2"}',
      '{"partPrice":-1}',
      '{"partPrice":null}',
    ])
      expect(kept(text)).toEqual(USUAL_FIGURES);
    expect(kept('{"partPrice":2,"nonsense":1}')).toEqual({ ...USUAL_FIGURES, partPrice: 2 });
  });
});

describe('frames around brothers', () => {
  const rowOf = (ref: string, read: number): SurveyRow =>
    ({ part: index.partByKey.get(ref), read, isSkipped: false, judged: undefined }) as SurveyRow;
  it('hold all that were read of one value and kind, and none that stands alone', () => {
    const rows = [rowOf('c1', 0.1), rowOf('c2', 8), rowOf('c3', 0.2)];
    const [frame, ...more] = brotherFrames(rows, dotsOf(rows));
    expect(more).toEqual([]);
    for (const { farad, ohm } of dotsOf(rows)) {
      expect(farad).toBeGreaterThan(frame!.from[0]);
      expect(ohm).toBeGreaterThan(frame!.from[1]);
      expect(ohm).toBeLessThan(frame!.to[1]);
    }
    expect(brotherFrames(rows.slice(0, 1), dotsOf(rows.slice(0, 1)))).toEqual([]);
  });
});

describe('chart and file', () => {
  const part = index.partByKey.get('c1') as SurveyRow['part'];
  const rowOf = (read: SurveyRow['read'], because = ''): SurveyRow => ({
    part,
    read,
    isSkipped: false,
    judged: {
      ref: 'C1',
      verdict: 'good',
      probabilityBad: 0,
      because,
      settle: null,
      expectedOhm: 1,
      limitOhm: 1,
    },
  });
  it('draw what is a number, nothing at the floor of the meter, and whole decades', () => {
    expect(
      dotsOf([rowOf(undefined), rowOf('OL'), rowOf(0), rowOf(2)]).map(({ ohm }) => ohm),
    ).toEqual([0.01, 2]);
    expect(decades([0.02, 3])).toEqual([0.01, 10]);
    const [low, high] = decades([1, 1]);
    expect(high).toBeGreaterThan(low);
  });
  it('write a table that reads back, and that no spreadsheet calculates', () => {
    const csv = surveyCsv([
      rowOf(0.2, '=2+3, "so"'),
      rowOf(undefined),
      { ...rowOf(undefined), isSkipped: true },
    ]);
    const { data } = Papa.parse<Record<string, string>>(csv, { header: true });
    expect(data.map(({ ohm }) => ohm)).toEqual(['0.2', '', '']);
    expect(data[0]).toMatchObject({
      ref: 'C1',
      value: '47u',
      because: `'=2+3, "so"`,
      verdict: 'good',
    });
    expect(data.map(({ verdict }) => verdict)).toEqual(['good', '', 'out of reach']);
  });
});
