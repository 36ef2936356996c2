import { blocksOfParts, partFactors, recogniseUnit } from '@hanzai/core/block';
import { indexBoard } from '@hanzai/core/board';
import { ARCHETYPES } from '@hanzai/data';
import { DEMO_CASES, demoBoard } from '@hanzai/data/demo';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';
import {
  ageFactorsOf,
  blockEvidence,
  blocksWithReadings,
  guessUnitType,
  notCured,
  repairMove,
  saidFactorsOf,
  unitBelief,
} from './unit';

// Words, stages, codes and starts as evidence for parts, and readings of parts as evidence for
// blocks.

const index = indexBoard(demoBoard('pd3If'));
const disk = ARCHETYPES.find(({ name }) => name === 'flexible-disk-unit')!;
const disc = ARCHETYPES.find(({ name }) => name === 'optical-disc-reader')!;
let minute = 0;
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date(Date.UTC(2026, 0, 1, 0, (minute += 1))).toISOString(),
  body,
});
const journal = (...bodies: EntryBody[]) => playJournal(bodies.map(entry), index);
const start = (failedAt: string | null, conditions: string[] = []): EntryBody => ({
  kind: 'start',
  failedAt,
  tries: 1,
  sounds: '',
  conditions,
});
const removed = (ref: string): EntryBody => ({ kind: 'removed', ref, value: '', note: '' });
const fitted = (ref: string): EntryBody => ({
  kind: 'fitted',
  ref,
  value: 'as before',
  polarityChecked: true,
  note: '',
});
const pattern = (name: string): EntryBody => ({ kind: 'pattern', name });

describe('what was said of a unit', () => {
  it('moves nothing while nothing was said', () => {
    expect(saidFactorsOf(index, disk, journal())).toEqual({});
    expect(saidFactorsOf(undefined, disk, journal(start('host')))).toEqual({});
    expect(saidFactorsOf(index, undefined, journal(start('host')))).toEqual({});
  });
  it('raises the parts of the blocks that it speaks of, and lowers those of stages that were passed', () => {
    const factors = saidFactorsOf(index, disk, journal(start('host')));
    expect(factors.U1).toBeGreaterThan(2);
    expect(factors.U6).toBeLessThan(0.5);
    expect(factors.C10).toBeUndefined();
  });
  it('never multiplies odds by more than thirty either way, whatever is said', () => {
    const everything = journal(
      ...disk.patterns.map(({ name }) => pattern(name)),
      ...disk.stages.map(({ name }) => start(name)),
      start(null),
      start(null),
    );
    for (const factor of Object.values(saidFactorsOf(index, disk, everything))) {
      expect(factor).toBeGreaterThanOrEqual(1 / 30 - 1e-9);
      expect(factor).toBeLessThanOrEqual(30 + 1e-9);
    }
  });
});

describe('a repair begins an epoch', () => {
  it('a start that then stops earlier names what was just touched', () => {
    const said = journal(start('host'), removed('U7'), fitted('U7'), start('boot'));
    expect(repairMove(disk, said)).toEqual({ move: 'back', touched: ['U7'] });
    expect(saidFactorsOf(index, disk, said).U7).toBeGreaterThan(
      10 * saidFactorsOf(index, disk, said).U6!,
    );
  });
  it('one that stops later is the next link of the chain, and what was said before the repair counts no more', () => {
    const said = journal(
      pattern('lamps-steady'),
      start('boot'),
      start('boot'),
      removed('U8'),
      fitted('U8'),
      start('host'),
    );
    expect(repairMove(disk, said)?.move).toBe('further');
    const { evidence } = blockEvidence(disk, said);
    expect(evidence).toEqual([{ type: 'stage', failedAt: 'host' }]);
    expect(saidFactorsOf(index, disk, said).U6).toBeLessThan(1);
  });
  it('until a start was made after it, what was said before it stands', () => {
    const said = journal(start('boot'), removed('U8'), fitted('U8'));
    expect(repairMove(disk, said)).toBeUndefined();
    expect(blockEvidence(disk, said).evidence).toEqual([{ type: 'stage', failedAt: 'boot' }]);
  });
  it('checks and swaps of good blocks stay true', () => {
    const said = journal(
      { kind: 'check', title: 'ohms', block: 'heads', good: true },
      start('boot'),
      removed('U8'),
      fitted('U8'),
      start('host'),
    );
    expect(blockEvidence(disk, said).evidence.map(({ type }) => type)).toEqual(['check', 'stage']);
  });
  it('only parts touched since the start before the repair are named', () => {
    const said = journal(
      removed('U9'),
      fitted('U9'),
      start('host'),
      removed('C4'),
      fitted('C4'),
      start('boot'),
    );
    expect(repairMove(disk, said)!.touched).toEqual(['C4']);
  });
});

describe('a proof that fails', () => {
  const ran = (passes: number, errors: number): EntryBody => ({
    kind: 'run',
    medium: 'card 14',
    of: 'pressed',
    where: '',
    states: ['warm'],
    passes,
    errors,
    note: '',
  });
  const repair = [removed('U7'), fitted('U7')];
  const refusal: EntryBody = { kind: 'answer', step: 'joint U7', passed: false };

  it.each<[string, EntryBody[], string[]]>([
    ['a start', [start('host'), ...repair, start('host')], ['it stops at host']],
    ['a run', [...repair, ran(9, 1)], ['1 run with an error']],
    ['a step', [...repair, refusal], ['1 step answered with no']],
    [
      'all of them',
      [...repair, start('host'), ran(0, 2), refusal],
      ['it stops at host', '2 runs with an error', '1 step answered with no'],
    ],
  ])('says so after %s, and what was just touched is likelier', (_, bodies, what) => {
    const said = journal(...bodies);
    expect(notCured(said)).toEqual({ what, touched: ['U7'] });
    // Without a model of the unit too.
    expect(saidFactorsOf(index, undefined, said)).toEqual({ U7: 4 });
  });
  it.each<[string, EntryBody[]]>([
    ['nothing was repaired', [start('host'), ran(1, 3), refusal]],
    ['it came through', [start('host'), ...repair, start('host'), start(null)]],
    ['it ran without error', [...repair, ran(50, 0)]],
    ['the part went back to the bench since', [...repair, ran(1, 1), refusal, ...repair]],
  ])('does not where %s', (_, bodies) => {
    expect(notCured(journal(...bodies))).toBeUndefined();
  });
});

describe('the age of a unit', () => {
  const aged = (madeIn: number | null, hoursRun: number | null = null) =>
    ageFactorsOf(index, { madeIn, hoursRun, openedAt: '2026-11-27T12:00:00.000Z' });
  it('moves what ages, in the measure of the rate table, and nothing else', () => {
    // Linear in the years from the 25 that the table speaks of.
    expect(aged(1988).C1).toBeCloseTo(38 / 25, 9);
    expect(aged(2016).C1).toBeCloseTo(10 / 25, 9);
    expect(aged(1988).U7).toBeUndefined();
  });
  it('moves nothing where nobody knows it, it is nonsense, or it is the table’s own', () => {
    for (const year of [null, 2026, 2090, 2001]) expect(aged(year)).toEqual({});
    expect(
      ageFactorsOf(undefined, { madeIn: 1988, hoursRun: 9000, openedAt: '2026-11-27' }),
    ).toEqual({});
  });
  it('goes by the hours it has run where those say more, or where nobody knows the year', () => {
    expect(aged(null, 12_000).C1).toBeCloseTo(2, 9);
    expect(aged(1988, 3000).C1).toBeCloseTo(38 / 25, 9);
    expect(aged(2016, 9000).C1).toBeCloseTo(1.5, 9);
    expect(aged(1988, 12_000).U7).toBeUndefined();
  });
  it('never by more than three either way', () => {
    expect(aged(1900).C1).toBe(3);
    expect(aged(2025).C1).toBeCloseTo(1 / 3, 9);
  });
});

describe('codes', () => {
  const withCodes = {
    ...disc,
    codes: [
      { code: '1', stage: 'focus', meaning: 'no focus' },
      { code: '2', stage: 'lock', meaning: 'no lock' },
    ],
  };
  const code = (one: string): EntryBody => ({ kind: 'code', code: one });
  it('that change from start to start are a symptom: arrays, flexes and joints lead, and nothing is odd', () => {
    const said = journal(code('1'), code('2'), code('1'));
    expect(blockEvidence(withCodes, said).evidence).toEqual([
      { type: 'pattern', name: 'codes-change' },
    ]);
    const belief = unitBelief(withCodes, said);
    expect(belief.odd).toEqual([]);
    expect(belief.byBlock.slice(0, 3).map(({ block }) => block)).toContain('series-array');
  });
  it('of one stage stay what they are', () => {
    expect(
      blockEvidence(withCodes, journal(code('1'), code('1'))).evidence.map(({ type }) => type),
    ).toEqual(['code', 'code']);
  });
});

describe('readings of parts move the blocks', () => {
  const members = blocksOfParts(disk, index);
  const parts = (now: Record<string, number>) =>
    [...index.replaceable.keys()].map((ref) => ({
      ref,
      prior: 0.9 / index.replaceable.size,
      probability: now[ref] ?? 1e-4,
    }));
  it('a guilty bus driver makes its block the first', () => {
    const byBlock = blocksWithReadings(
      disk,
      index,
      unitBelief(disk, journal()),
      parts({ U1: 0.95 }),
    );
    expect(byBlock[0]!.block).toBe('bus-driver');
    expect(byBlock.every(({ probability }) => probability >= 0 && probability <= 1)).toBe(true);
  });
  it('blocks without a part on the board keep their odds', () => {
    const belief = unitBelief(disk, journal());
    const byBlock = blocksWithReadings(disk, index, belief, parts({ U1: 0.95 }));
    const heads = (list: typeof byBlock): number =>
      list.find(({ block }) => block === 'heads')!.probability;
    expect(heads(byBlock)).toBe(heads(belief.byBlock));
  });
  it('every factor belongs to a part of the board', () => {
    for (const ref of partFactors(
      disk,
      members,
      unitBelief(disk, journal(start('host'))).byBlock,
    ).keys())
      expect(index.replaceable.has(ref)).toBe(true);
  });
});

describe('the kind of unit', () => {
  it('is told for every demo unit from its name and title as it was chosen by hand', () => {
    for (const { unitModel, title, unitType } of DEMO_CASES) {
      // Any powered board is what a person chooses where words name no kind: none is guessed then.
      const told = unitType === 'powered-board' ? '' : unitType;
      expect([unitModel, guessUnitType(`${unitModel} ${title}`)]).toEqual([unitModel, told]);
    }
  });
  it.each(['', 'does not work', 'the board with the power', 'x'.repeat(5000), '🔥'])(
    'is left open by %j',
    (words) => {
      expect(recogniseUnit(ARCHETYPES, words)).toBeUndefined();
    },
  );
});
