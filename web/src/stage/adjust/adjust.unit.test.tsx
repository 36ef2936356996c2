// @vitest-environment happy-dom
import { SIMULATED_NAME } from '@hanzai/core/simulated';
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { adjustLocks } from '../../case/kind/adjusting';
import { kindOf } from '../../case/kinds';
import { PENDING } from '../../case/solved';
import type { Situation } from '../../case/kind/definition';
import type { CaseState } from '../../case/use-case';
import { AsFoundForm } from './AsFoundForm';
import { LaserSupply } from './LaserSupply';
import { Search, triedOf } from './Search';
import { Settings } from './Settings';
import { Speed, speedsOf } from './Speed';
import { TurnForm } from './TurnForm';
import { WayBack } from './WayBack';

const { board } = readSheetLines(
  `J1 9V in: 1=VIN 2=0
C1 VIN 0 47u 16V electrolytic
R1 VIN A 1k
S1 opto A=A K=0 C=A E=0 role="home sensor"`,
  LIBRARY,
);
const index = indexBoard(board);
let clock = Date.now() - 3_600_000;
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((clock += 1000)).toISOString(),
  body,
});
const found = (
  ref: string,
  more: Partial<Extract<EntryBody, { kind: 'asFound' }>> = {},
): EntryBody => ({
  kind: 'asFound',
  ref,
  unit: 'ohm',
  reading: 183,
  mark: 'line at four',
  reason: '',
  ...more,
});
const turned = (
  ref: string,
  degrees: number,
  more: Partial<Extract<EntryBody, { kind: 'turned' }>> = {},
): Extract<EntryBody, { kind: 'turned' }> => ({
  kind: 'turned',
  ref,
  degrees,
  live: false,
  reason: '',
  ...more,
});
const esr: EntryBody = {
  kind: 'reading',
  setup: 'off',
  quantity: 'esr',
  at: 'C1.1',
  to: 'C1.2',
  value: 0.1,
  typed: 'c1 .1 esr',
};

const situation = (bodies: readonly EntryBody[]): Situation => {
  const entries = bodies.map(entry);
  return {
    journal: playJournal(entries, index),
    entries,
    index,
    model: undefined,
    hazards: () => [],
    obstacles: () => [],
    solved: PENDING,
  };
};
const objection = (bodies: readonly EntryBody[], next: EntryBody): string | undefined => {
  const rule = kindOf(next.kind).objection;
  return rule === 'none' ? undefined : rule(next, situation(bodies));
};

const appended = vi.fn((_: EntryBody): string | undefined => undefined);
const stateOf = (bodies: readonly EntryBody[]): CaseState =>
  ({
    ...situation(bodies),
    view: { number: 7, title: 'a test' },
    append: appended,
  }) as unknown as CaseState;
afterEach(() => {
  cleanup();
  appended.mockReset();
});

describe('what may be turned', () => {
  const READY = [esr, found('RV1')];
  it('not before it was written down, nor while parts are off or capacitors unseen', () => {
    expect(objection([esr], turned('RV1', 10))).toMatch(/not written down/);
    expect(objection(READY, turned('RV1', 10))).toBeUndefined();
    expect(objection([found('RV1')], turned('RV1', 10))).toMatch(/no capacitor was looked at/);
    // A reading of a simulated board opens no lock.
    const simulated = { ...esr, instrument: SIMULATED_NAME } as EntryBody;
    expect(objection([simulated, found('RV1')], turned('RV1', 10))).toMatch(
      /no capacitor was looked at/,
    );
    const off: EntryBody = { kind: 'removed', ref: 'C1', value: '47u', note: '' };
    expect(objection([...READY, off], turned('RV1', 10))).toMatch(/C1 came off/);
    expect(
      objection([...READY, off], turned('RV1', 10, { reason: 'to see whether it reacts' })),
    ).toBeUndefined();
    expect(
      adjustLocks(
        situation([{ kind: 'condemn', ref: 'R1', probability: 0.9, reason: '' }, esr]).journal,
        index,
      ),
    ).toEqual(['R1 condemned and not replaced']);
  });

  it('a mark, a reading or a reason; once', () => {
    expect(objection([], found('RV1', { mark: '', reading: undefined } as never))).toMatch(
      /say why/,
    );
    expect(
      objection([], {
        kind: 'asFound',
        ref: 'RV1',
        unit: '',
        mark: '',
        reason: 'under the shield',
      }),
    ).toBeUndefined();
    expect(objection([found('RV1')], found('rv1'))).toMatch(/already/);
    expect(objection([], found('!'))).toMatch(/no name/);
  });

  it('the first place is not taken back from under a turn, nor a turn from under another', () => {
    const bodies = [esr, found('RV1'), turned('RV1', 10), turned('RV1', 5)];
    const seen = situation(bodies);
    const undo = (i: number) => {
      const rule = kindOf(bodies[i]!.kind).takeBack;
      return typeof rule === 'function' ? rule(seen.entries[i]!, seen) : rule;
    };
    expect(undo(1)).toMatch(/no way back/);
    expect(undo(2)).toMatch(/only the last/);
    expect(undo(3)).toBeUndefined();
  });

  it('what was proven before it speaks of another setting', () => {
    const answer: EntryBody = { kind: 'answer', step: 'works', passed: true };
    expect(situation([esr, found('RV1'), answer]).journal.answers).toHaveLength(1);
    expect(situation([esr, found('RV1'), answer, turned('RV1', 5)]).journal.answers).toHaveLength(
      0,
    );
  });

  it('running, it needs what power needs', () => {
    const { gate, powered } = kindOf('turned');
    expect([
      gate!(turned('RV1', 5, { live: true })),
      powered!(turned('RV1', 5, { live: true })),
    ]).toEqual(['power', true]);
    expect([gate!(turned('RV1', 5)), powered!(turned('RV1', 5))]).toEqual(['open', false]);
  });
});

describe('the screen', () => {
  const type = async (label: RegExp, text: string) =>
    userEvent.type(screen.getByLabelText(label), text);

  it('writes down how a setting was found, and warns of a home sensor', async () => {
    render(<AsFoundForm state={stateOf([])} />);
    await type(/^What$/, 's1');
    expect(screen.getByText(/home position/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText(/^What$/));
    await type(/^What$/, 'RV1');
    await type(/^Reading$/, 'lots');
    await userEvent.click(screen.getByRole('button', { name: 'Write it down' }));
    expect(appended).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toMatch(/183R/);
    await userEvent.clear(screen.getByLabelText(/^Reading$/));
    await type(/^Reading$/, '1k52');
    await type(/Mark made/, 'slot at four');
    await userEvent.click(screen.getByRole('button', { name: 'Write it down' }));
    expect(appended).toHaveBeenCalledWith({
      kind: 'asFound',
      ref: 'RV1',
      reading: 1520,
      unit: 'ohm',
      mark: 'slot at four',
      reason: '',
    });
  });

  it('enters a turn with how it did, and keeps what was typed where it is refused', async () => {
    appended.mockReturnValueOnce('20° is too much');
    render(<TurnForm state={stateOf([esr, found('RV1')])} proposed={undefined} />);
    await type(/^Degrees$/, '-20');
    await type(/Reading now/, '170R');
    await userEvent.click(screen.getByLabelText('reads most'));
    await userEvent.click(screen.getByRole('button', { name: 'Enter the turn' }));
    expect(screen.getByRole('alert').textContent).toBe('20° is too much');
    expect((screen.getByLabelText(/^Degrees$/) as HTMLInputElement).value).toBe('-20');
    await userEvent.click(screen.getByRole('button', { name: 'Enter the turn' }));
    expect(appended).toHaveBeenLastCalledWith({
      kind: 'turned',
      ref: 'RV1',
      degrees: -20,
      reading: 170,
      reads: 2,
      live: true,
      reason: '',
    });
  });

  it('fills in what the search proposes', () => {
    const state = stateOf([esr, found('RV1'), found('RV2')]);
    render(<TurnForm state={state} proposed={{ ref: 'RV1', degrees: -13.6 }} />);
    expect((screen.getByLabelText(/^What$/) as HTMLSelectElement).value).toBe('RV1');
    expect((screen.getByLabelText(/^Degrees$/) as HTMLInputElement).value).toBe('-14');
  });

  it('shows where each stands, and brings all back by one press', async () => {
    const state = stateOf([
      esr,
      found('RV1'),
      found('RV2', { reading: 520 }),
      turned('RV1', 20, { reading: 201.3 }),
      turned('RV2', -10),
    ]);
    render(
      <>
        <Settings state={state} />
        <WayBack state={state} />
      </>,
    );
    const row = within(screen.getByRole('table')).getByRole('row', { name: /RV1/ });
    expect(row.textContent).toMatch(/20° clockwise, \+10 %/);
    await userEvent.click(screen.getByRole('button', { name: 'All of it is turned back' }));
    expect(
      appended.mock.calls.map(([body]) => body.kind === 'turned' && [body.ref, body.degrees]),
    ).toEqual([
      ['RV2', 10],
      ['RV1', -20],
    ]);
    for (const [body] of appended.mock.calls)
      expect(
        objection([esr, found('RV1'), found('RV2'), turned('RV1', 20), turned('RV2', -10)], body),
      ).toBeUndefined();
  });

  it('proposes the next setting from what was tried, the other way where it got worse', async () => {
    const bodies = [
      esr,
      found('RV1'),
      turned('RV1', 20, { reads: 1 }),
      turned('RV1', 20, { reads: 0 }),
    ];
    const onPropose = vi.fn();
    render(<Search state={stateOf(bodies)} onPropose={onPropose} />);
    await userEvent.click(screen.getByRole('button', { name: 'Into the form' }));
    const [{ ref, degrees }] = onPropose.mock.calls[0] as [{ ref: string; degrees: number }];
    // As found reads nothing, 20° some, 40° nothing: half a step about 20°.
    expect([ref, 40 + degrees]).toEqual(['RV1', 30]);
    expect(
      triedOf(situation(bodies).journal, ['RV1']).map(({ at, score }) => [at[0], score]),
    ).toEqual([
      [0, 0],
      [20, 1],
      [40, 0],
    ]);
  });

  it('speed and laser: nothing from nothing, no verdict without a label', async () => {
    expect(speedsOf({})).toEqual([]);
    expect(speedsOf({ index: 200, flashes: 100, bars: 20 }).map(({ turns }) => turns)).toEqual([
      300, 300,
    ]);
    render(
      <>
        <Speed />
        <LaserSupply />
      </>,
    );
    await type(/sense resistor, V/, '0,5');
    await type(/Its ohms/, '10');
    expect(screen.getByText(/not judged/)).toBeTruthy();
    await type(/label, mA/, '42');
    expect(screen.getByText(/19 % above its label: worn/)).toBeTruthy();
    expect(screen.getByText(/Never look along the axis/)).toBeTruthy();
  });
});
