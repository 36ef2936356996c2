import { SECTIONS } from '@hanzai/data';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { drawFirst } from './draw-first';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';

const journal = (...bodies: EntryBody[]) =>
  playJournal(
    bodies.map((body): Entry => ({ id: v7(), madeAt: new Date().toISOString(), body })),
    undefined,
  );
const volts = (at: string, value: number): EntryBody => ({
  kind: 'reading',
  setup: 'on',
  quantity: 'voltage',
  at,
  to: '',
  value,
  typed: `${at} ${value}`,
});
const rail = (net: string, volt: number): EntryBody => ({ kind: 'rail', net, volt });

describe('what to draw first where there is no sheet', () => {
  it('is nothing before anything was read', () => {
    expect(drawFirst(journal())).toEqual([]);
  });
  it('is a rail that reads wrong, before a part that is bad, before what else was read', () => {
    const found = drawFirst(
      journal(volts('X7', 2), rail('P5', 5), volts('P5', 3.9), rail('VM', 12), volts('VM', 11.9), {
        kind: 'condemn',
        ref: 'C12',
        probability: 1,
        reason: '14 ohm',
      }),
    );
    expect(found.map(({ net }) => net)).toEqual(['P5', 'C12', 'X7']);
    expect(found[0]!.section?.name).toBe('regulator-positive');
    expect(found[0]!.why).toContain('reads 3.9 V and should be 5 V');
  });
  it('goes by the newest reading of a rail', () => {
    const found = drawFirst(journal(rail('P5', 5), volts('P5', 3.9), volts('p5', 5.01)));
    expect(found.map(({ why }) => why)).toEqual([
      'it was read: what drives it would say what it should be',
    ]);
  });
  it.each([
    ['RESET', 'reset'],
    ['CLK1', 'clock'],
    ['VM', 'supply-entry'],
    ['+5V', 'regulator-positive'],
    ['VREF', 'regulator-discrete'],
    ['-12', 'regulator-negative'],
    ['Q7', undefined],
  ])('%s has the section %s', (net, name) => {
    const [first] = drawFirst(journal(rail(net, 5), volts(net, 1)));
    expect(first!.section?.name).toBe(name);
    if (name) expect(SECTIONS.map((one) => one.name)).toContain(name);
  });
});
