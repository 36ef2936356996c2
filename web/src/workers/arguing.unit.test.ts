import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { Engine } from './engine';
import { quietCourse, voltsAt } from './engine-fixture';
import { EngineRoom } from './engine-room';
import type { EngineReading, LineUp } from './engine-messages';

const DEAD = [voltsAt('a', 'P5', 5.01), voltsAt('b', 'VM', 0.01)];
const engine = new Engine(demoBoard('cr40'));
const asked = { absent: [], look: {} };
const lineUpOf = async (readings: EngineReading[]): Promise<LineUp> => {
  let last: LineUp | undefined;
  await engine.assess(
    { ticket: 1, readings, ...asked },
    quietCourse({ send: (event) => event.type === 'line-up' && (last = event.lineUp) }),
  );
  return last!;
};

describe('why one suspect and not another', () => {
  it('has both sides beside every reading, and adds up to the odds of the line-up', async () => {
    const { entries } = await lineUpOf(DEAD);
    const [first, second] = entries as [LineUp['entries'][0], LineUp['entries'][0]];
    const why = (await engine.why(
      { readings: DEAD, ...asked, one: first.ref, other: second.ref },
      quietCourse(),
    ))!;
    expect(why.after).toBeCloseTo(10 * Math.log10(first.probability / second.probability), 6);
    expect(why.rows.map(({ id }) => id)).toEqual(['a', 'b']);
    expect(why.rows.every(({ one, other }) => one?.within && other?.within)).toBe(true);
    expect(why.rows[1]!.shown!).toBeLessThan(0.1);
  });

  it('against nothing wrong it turns on the one odd reading', async () => {
    const why = (await engine.why(
      { readings: DEAD, ...asked, one: 'F1', other: '' },
      quietCourse(),
    ))!;
    expect(why.turnsOn).toBe('b');
    expect(why.rows[1]!.other).toMatchObject({ within: false });
    expect(why.other).toBe('');
  });

  it('a part of which nothing is known has no answer, and nobody waiting stops it', async () => {
    const why = await engine.why(
      { readings: DEAD, ...asked, one: 'X9', other: 'F1' },
      quietCourse(),
    );
    expect(why!.rows[0]!.one).toBeUndefined();
    const stopped = await new Engine(demoBoard('cr40')).why(
      { readings: DEAD, ...asked, one: 'F1', other: '' },
      quietCourse({ stale: () => true }),
    );
    // Small work may be done before anybody asks whether it is wanted.
    expect(stopped === undefined || stopped.rows.length === 2).toBe(true);
  });
});

describe('a line-up', () => {
  it('names parts that nothing read tells apart, and pairs with their cause', async () => {
    const { alike, pairs, entries } = await lineUpOf(DEAD);
    expect(alike[0]).toEqual(expect.arrayContaining(['F1', 'L1']));
    const caused = pairs.find(({ because }) => because);
    expect(caused!.because!.victim).toMatch(/open/);
    expect(caused!.because!.culprit).toMatch(/short/);
    const [leader] = entries;
    expect(leader!.faults[0]!.probability).toBeLessThanOrEqual(leader!.probability + 1e-9);
    // A reading between them parts them.
    const after = await lineUpOf([...DEAD, voltsAt('c', 'P9F', 8.95)]);
    expect(after.alike.some((group) => group.includes('F1') && group.includes('L1'))).toBe(false);
  });
});

describe('what a reading that is typed would mean', () => {
  it('is the line-up after it, and nothing is filed by asking', async () => {
    const typed = voltsAt('typed', 'P9F', 8.95);
    const meaning = await engine.meaning({ readings: [...DEAD, typed], ...asked }, quietCourse());
    const { entries } = await lineUpOf([...DEAD, typed]);
    expect(meaning!.within).toBe(true);
    expect(meaning!.leading[0]).toEqual({
      ref: entries[0]!.ref,
      probability: entries[0]!.probability,
    });
    expect((await lineUpOf(DEAD)).entries[0]!.ref).toBe('F1');
  });
  it('is not known at a point that the sheet does not have', async () => {
    const nowhere = voltsAt('typed', 'NOWHERE', 1);
    expect(
      await engine.meaning({ readings: [...DEAD, nowhere], ...asked }, quietCourse()),
    ).toBeUndefined();
  });
  it('a newer question ends an older one, and work that was asked for goes on', async () => {
    const room = new EngineRoom(async () => undefined);
    const door = room.door();
    door.open({ board: demoBoard('cr40') });
    const ask = (value: number) =>
      door.meaning({ readings: [...DEAD, voltsAt('typed', 'P9F', value)], ...asked });
    const [old, newest] = await Promise.all([ask(1), ask(8.95)]);
    expect(old).toBeUndefined();
    expect(newest!.within).toBe(true);
    const why = await door.why({ readings: DEAD, ...asked, one: 'F1', other: 'L1' });
    expect(why!.rows).toHaveLength(2);
  });
});
