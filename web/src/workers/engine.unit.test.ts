import { demoBoard } from '@hanzai/data/demo';
import { v7 } from 'uuid';
import { describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../case/entry';
import { Engine, type Course } from './engine';
import { quietCourse, voltsAt } from './engine-fixture';
import type { EngineEvent, EngineReading } from './engine-messages';

const engine = new Engine(demoBoard('cr40'));
const SYMPTOM = [voltsAt('a', 'P5', 5.01), voltsAt('b', 'VM', 0.01)];

const course = (events: EngineEvent[]): Course =>
  quietCourse({ send: (event) => events.push(event) });

async function assess(ticket: number, readings: EngineReading[]): Promise<EngineEvent[]> {
  const events: EngineEvent[] = [];
  await engine.assess({ ticket, readings, absent: [], look: {} }, course(events));
  // How far it is may be told at any time; what comes in which order matters for the rest.
  return events.filter(
    (event) =>
      event.type !== 'progress' &&
      !(event.type === 'line-up' && event.lineUp.refining !== undefined) &&
      !(event.type === 'next' && event.next.provisional),
  );
}

describe('the engine in the worker', () => {
  it('sends the line-up first, then what to measure', async () => {
    const events = await assess(1, SYMPTOM);
    expect(events[0]!.type).toBe('line-up');
    expect(events.at(-1)!.type).toBe('next');
    const [lineUp, next] = [
      events[0] as Extract<EngineEvent, { type: 'line-up' }>,
      events.at(-1) as Extract<EngineEvent, { type: 'next' }>,
    ];
    expect(lineUp.lineUp.entries[0]).toMatchObject({
      ref: 'F1',
      cleared: false,
      loudest: { id: 'b' },
    });
    expect(lineUp.lineUp.expected.a).toMatchObject({ within: true, display: '5.00 V' });
    expect(lineUp.lineUp.expected.b).toMatchObject({ within: false });
    expect(next.next.state).toBe('measure');
    expect(next.next.proposals[0]!.prospects.length).toBeGreaterThan(1);
    expect(next.next.actions.map(({ kind }) => kind)).toContain('replace');
    expect(
      next.next.actions.every(({ expectedMinutes, minutes }) => expectedMinutes >= minutes),
    ).toBe(true);
  });

  it('takes in what the eye found before any reading, and what it costs to get there', async () => {
    const lineUp = async (ticket: number, look: Record<string, number>) => {
      const events: EngineEvent[] = [];
      const template = [
        {
          what: 'fastener' as const,
          of: 'lid',
          name: 'M3',
          count: 10,
          way: '',
          frees: ['board'],
          forTest: false,
          note: '',
        },
      ];
      await engine.assess(
        { ticket, readings: [], absent: [], look, access: { template, done: 0 } },
        course(events),
      );
      return events;
    };
    const share = (events: readonly EngineEvent[]): number =>
      (events[0] as Extract<EngineEvent, { type: 'line-up' }>).lineUp.entries.find(
        ({ ref }) => ref === 'C1',
      )!.probability;
    const [plain, seen] = [await lineUp(3, {}), await lineUp(4, { C1: 20 })];
    expect(share(seen)).toBeGreaterThan(3 * share(plain));
    const next = (seen.at(-1) as Extract<EngineEvent, { type: 'next' }>).next;
    expect(next.proposals[0]!.accessMinutes).toBeCloseTo(4, 9);
    expect(next.proposals[0]!.minutes).toBeGreaterThan(4);
    await lineUp(5, {});
  });

  it('moves what is cleared aside with the reading that cleared it', async () => {
    const [first] = await assess(6, [...SYMPTOM, voltsAt('c', 'P9IN', 8.98)]);
    const cleared = (first as Extract<EngineEvent, { type: 'line-up' }>).lineUp.entries.find(
      ({ ref }) => ref === 'J1',
    )!;
    expect(cleared.cleared).toBe(true);
    expect(cleared.loudest!.id).toBe('c');
    expect(cleared.loudest!.decibans).toBeLessThan(-10);
  });

  it('leaves out readings that the board does not have, and refuses what is no request', async () => {
    const [first] = await assess(20, [voltsAt('x', 'NOWHERE', 1)]);
    expect(
      Object.keys((first as Extract<EngineEvent, { type: 'line-up' }>).lineUp.expected),
    ).toEqual([]);
    await expect(engine.assess({ ticket: 'no' }, course([]))).rejects.toThrow();
  });

  it('shows early what it knows early where the work is long, and ends with what it says without hurry', async () => {
    const fresh = (): Engine => new Engine(demoBoard('cr40'));
    const all = async (one: Engine): Promise<EngineEvent[]> => {
      const events: EngineEvent[] = [];
      await one.assess({ ticket: 30, readings: SYMPTOM, absent: [], look: {} }, course(events));
      return events.filter(({ type }) => type !== 'progress');
    };
    const plain = await all(fresh());
    let now = 0;
    const clock = vi.spyOn(performance, 'now').mockImplementation(() => (now += 40));
    const slow = await all(fresh());
    clock.mockRestore();
    const early = slow.flatMap((event) =>
      event.type === 'line-up' && event.lineUp.refining !== undefined ? [event.lineUp] : [],
    );
    expect(early.length).toBeGreaterThan(1);
    const shares = early.map(({ refining }) => refining!);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    for (const { entries, healthy, unmodelled } of early) {
      expect(healthy + unmodelled).toBeLessThanOrEqual(1 + 1e-9);
      expect(entries.every(({ probability }) => probability >= 0 && probability <= 1)).toBe(true);
    }
    // The likely fault near the reading leads before everything is weighed, and its first
    // suggestion comes before the last line-up.
    expect(
      early
        .at(-1)!
        .entries.slice(0, 3)
        .map(({ ref }) => ref),
    ).toContain('F1');
    const kinds = slow.map((event) =>
      event.type === 'next' ? (event.next.provisional ? 'first look' : 'plan') : event.type,
    );
    expect(kinds.indexOf('first look')).toBeLessThan(kinds.lastIndexOf('line-up'));
    expect(kinds.at(-1)).toBe('plan');
    const last = (events: readonly EngineEvent[]) =>
      (
        events.findLast(({ type }) => type === 'line-up') as Extract<
          EngineEvent,
          { type: 'line-up' }
        >
      ).lineUp;
    expect(last(slow).refining).toBeUndefined();
    expect(last(slow).entries).toEqual(last(plain).entries);
    expect((slow.at(-1) as Extract<EngineEvent, { type: 'next' }>).next).toEqual(
      (plain.at(-1) as Extract<EngineEvent, { type: 'next' }>).next,
    );
  });
});

describe('what the engine tells of a case', () => {
  const entry = (body: EntryBody): Entry => ({
    id: v7(),
    madeAt: new Date().toISOString(),
    body,
  });
  const reading = (at: string, value: number): Entry =>
    entry({
      kind: 'reading',
      setup: 'on',
      quantity: 'voltage',
      at,
      to: '',
      value,
      typed: `${at} ${value}`,
    });
  const open = entry({
    kind: 'reading',
    setup: 'off',
    quantity: 'continuity',
    at: 'F1.1',
    to: 'F1.2',
    value: 'open',
    typed: 'f1 open',
  });
  const condemn = entry({ kind: 'condemn', ref: 'F1', probability: 0.99, reason: 'open' });

  it('gives every reading what a sound board shows and its weight for the condemned part', async () => {
    const volts = reading('VM', 0.004);
    const figures = (await engine.account([volts, open, condemn], course([])))!;
    expect(figures.weightFor).toBe('F1');
    expect(figures.readings[volts.id]).toMatchObject({ expected: '8.67 V', within: false });
    expect(figures.readings[volts.id]!.weight!).toBeGreaterThan(0);
    expect(figures.readings[open.id]).toMatchObject({ within: false });
    expect(figures.readings[open.id]!.weight!).toBeGreaterThan(2);
  });

  it('speaks in its report of the readings before the repair alone', async () => {
    const [before, after] = [reading('VM', 0.004), reading('VM', 8.66)];
    const off = entry({ kind: 'removed', ref: 'F1', value: 'T1A', note: '' });
    const on = entry({ kind: 'fitted', ref: 'F1', value: 'T1A', polarityChecked: false, note: '' });
    const figures = (await engine.account([before, condemn, off, on, after], course([])))!;
    expect(Object.keys(figures.readings)).toEqual([before.id]);
  });

  it('leaves off where nobody waits for the report any more', async () => {
    const fresh = new Engine(demoBoard('yc2'));
    const stale = { ...course([]), stale: () => true };
    const long = [reading('RAW', 3.1), reading('V12', 2.2)];
    const figures = await fresh.account(long, stale);
    // Short work may be done before anybody asks.
    expect(figures === undefined || Object.keys(figures.readings).length === 2).toBe(true);
  });

  it('says what a point shows on a sound board, with parts off it, and nothing of no point', () => {
    const ask = { setup: 'on', kind: 'voltage', at: 'VM', to: '', absent: [] as string[] };
    expect(engine.expect(ask)).toEqual({ display: '8.67 V', band: '8.6 V to 8.75 V' });
    expect(engine.expect({ ...ask, absent: ['F1'] })!.display).toMatch(/mV$/);
    expect(engine.expect({ ...ask, at: 'NOWHERE' })).toBeUndefined();
    expect(() => engine.expect({ ...ask, absent: 'F1' })).toThrow();
  });

  it('answers in a form that goes from worker to page', () => {
    const off = entry({ kind: 'removed', ref: 'F1', value: 'T1A', note: '' });
    const answers = engine.stand([reading('VM', 0.004), condemn, off]);
    expect(structuredClone(answers)).toEqual(answers);
    expect(JSON.stringify(answers).length).toBeLessThan(20_000);
    expect(answers.fuses.F1 ?? answers.fuses.f1).toMatchObject({ low: false });
    expect(() => engine.stand([{ id: 'x' }])).toThrow();
  });
});

describe('a copy of the board', () => {
  const ask = (faults: string, readings = SYMPTOM, absent: string[] = []) =>
    engine.whatIf({ faults, readings, absent });
  it('says of each reading what a fault would show, and of each net its volts', () => {
    const answer = ask('F1:open');
    expect(answer).toMatchObject({
      ok: true,
      readings: { a: { within: true }, b: { within: true } },
    });
    if (!answer.ok) return;
    expect(answer.volts.P5).toMatch(/^5\.0/);
    expect(answer.volts['0']).toBeUndefined();
  });
  it('is a sound board where no fault is named, and does not explain a dead rail', () => {
    expect(ask('')).toMatchObject({ ok: true, readings: { b: { within: false } } });
  });
  it('says what it does not know, and takes nothing that is no request', () => {
    expect(ask('F77:open')).toMatchObject({ ok: false });
    expect(ask('F1:open + nonsense')).toMatchObject({ ok: false });
    expect(() => engine.whatIf({ faults: 7 })).toThrow();
    expect(() => engine.worth({ suspects: 'F1:open' })).toThrow();
  });
  it('leaves out a reading at a point that the board does not have', () => {
    const answer = ask('F1:open', [...SYMPTOM, voltsAt('c', 'NOWHERE', 1)]);
    expect(answer.ok && Object.keys(answer.readings).sort()).toEqual(['a', 'b']);
  });
  it('tells what drawing on would bring, of edges of the sheet alone', () => {
    const edges = demoBoard('cr40').edges?.map(({ net }) => net) ?? [];
    for (const { net } of engine.worth({ suspects: ['F1:open', 'L1:open', 'rubbish'], absent: [] }))
      expect(edges).toContain(net);
    expect(engine.worth({ suspects: ['rubbish'], absent: [] })).toEqual([]);
  });
});
