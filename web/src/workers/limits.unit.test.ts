import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '@hanzai/core/board';
import { resolveMeasurement, type Measurement, type ReadingKind } from '@hanzai/core/instrument';
import { describe, expect, it } from 'vitest';
import { NO_LIMITS } from '../stage/trace/use-limits';
import { Engine } from './engine';
import { quietCourse, voltsAt } from './engine-fixture';
import type { AheadStep, Limits, NextStep, Skipped } from './engine-messages';
import { allowedBy } from './limits';

const index = indexBoard(demoBoard('cr40'));
const measure = (kind: ReadingKind, at: string, to = '', setup = ''): Measurement => {
  const resolved = resolveMeasurement(index, setup, kind, at, to);
  if (!resolved.ok) throw new Error(resolved.what);
  return resolved.measurement;
};
const volts = measure('voltage', 'VM');
const ohms = measure('resistance', 'VM');
const beep = measure('continuity', 'F1.1', 'F1.2');
const esr = measure('esr', 'C6.1', 'C6.2');
const may = (
  m: Measurement,
  limits?: Partial<Limits>,
  skips: readonly Skipped[] = [],
  minutes = 0,
) => allowedBy(index, limits && { ...NO_LIMITS, ...limits }, skips, () => minutes)(m);
const skip = (
  why: Skipped['why'],
  kind: ReadingKind = 'voltage',
  at = 'VM',
  setup = 'on',
): Skipped => ({
  setup,
  kind,
  at,
  to: '',
  why,
});

describe('what may be proposed', () => {
  it('is everything where nothing is held back', () => {
    for (const m of [volts, ohms, beep, esr]) {
      expect(may(m)).toBe(true);
      expect(may(m, {})).toBe(true);
    }
  });
  it('holds to instruments, power, and what is open', () => {
    expect(may(esr, { kinds: ['voltage'] })).toBe(false);
    expect(may(volts, { power: 'off' })).toBe(false);
    expect(may(ohms, { power: 'on' })).toBe(false);
    expect(may(ohms, { power: 'off' })).toBe(true);
    expect(may(volts, { open: true }, [], 3)).toBe(false);
    expect(may(volts, { open: true }, [], 0)).toBe(true);
  });
  it.each([
    // why, the same reading, ohms at the same net, volts at another net
    ['reach', false, false, true],
    ['unsafe', false, true, true],
    ['trust', false, true, true],
    ['instrument', false, true, false],
  ] as const)('a reading skipped because of %s teaches', (why, same, otherKind, otherNet) => {
    const skips = [skip(why)];
    expect(may(volts, undefined, skips)).toBe(same);
    expect(may(ohms, undefined, skips)).toBe(otherKind);
    expect(may(measure('voltage', 'P5'), undefined, skips)).toBe(otherNet);
  });
  it('a pin out of reach leaves the other pins of its net', () => {
    const skips = [{ ...skip('reach', 'continuity', 'F1.1', 'off'), to: 'F1.2' }];
    expect(may(beep, undefined, skips)).toBe(false);
    expect(may(measure('continuity', 'L1.1', 'L1.2'), undefined, skips)).toBe(true);
  });
  it('a skip of a point that the sheet has no more holds nothing back', () => {
    expect(may(volts, undefined, [skip('reach', 'voltage', 'GONE')])).toBe(true);
  });
});

describe('the engine under limits', () => {
  const engine = new Engine(demoBoard('cr40'));
  const course = quietCourse();
  const request = {
    ticket: 1,
    readings: [voltsAt('a', 'P5', 5.01), voltsAt('b', 'VM', 0.01)],
    absent: [],
    look: {},
  };
  const nextOf = async (more: object): Promise<NextStep> => {
    let next: NextStep | undefined;
    await engine.assess(
      { ...request, ...more },
      { ...course, send: (event) => event.type === 'next' && (next = event.next) },
    );
    return next!;
  };

  it('proposes nothing that is held back, and prices both schools', async () => {
    const free = await nextOf({});
    expect(free.schools!.replaceFirst.parts).toBeGreaterThan(free.schools!.measureFirst.parts);
    const off = await nextOf({ limits: { ...NO_LIMITS, power: 'off' } });
    expect(off.proposals.length).toBeGreaterThan(0);
    expect(off.proposals.every(({ setup }) => setup === 'off')).toBe(true);
    const [best] = free.proposals;
    const without = await nextOf({ skips: [{ ...best!, why: 'reach' }] });
    expect(without.proposals.map(({ key }) => key)).not.toContain(best!.key);
  });

  it('looks ahead of a proposal, and of none that may not be proposed', async () => {
    const { proposals } = await nextOf({});
    const [best] = proposals;
    const step = (await engine.ahead({ request, key: best!.key }, course)) as AheadStep;
    expect([step.measurement.at, step.measurement.kind]).toEqual([best!.at, best!.kind]);
    expect(step.outcomes.map(({ display }) => display)).toEqual(
      best!.prospects.slice(0, 3).map(({ display }) => display),
    );
    expect(step.outcomes.some(({ then }) => then.kind === 'measure')).toBe(true);
    const held = { ...request, limits: { ...NO_LIMITS, kinds: [] } };
    expect(await engine.ahead({ request: held, key: best!.key }, course)).toBeUndefined();
  });
});
