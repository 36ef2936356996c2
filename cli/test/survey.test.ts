import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { survey } from '../src/verbs';
import { deck, file } from './files';

// `hanzai survey`: every capacitor of a board judged by its ESR. The figures are those of the
// trade: two like parts at 0.03 and 0.04 ohm condemn a third at 1.03; small ones at 0.06 to 0.09
// ohm condemn two at 10 ohm (common practice, no published source).

const partsList = (...values: string[]): string =>
  file(
    'csv',
    [
      'ref,device,value,tolerance,rating,package,note',
      ...values.map((value, i) => `C${i + 1},capacitor electrolytic,${value},,16V,,`),
      '',
    ].join('\n'),
  );
const esr = (readings: Record<string, number>): string =>
  file(
    'csv',
    [
      'setup,kind,at,to,value,unit',
      ...Object.entries(readings).map(([ref, ohm]) => `off,esr,${ref}.1,${ref}.2,${ohm},ohm`),
      '',
    ].join('\n'),
  );

interface Row {
  ref: string;
  verdict: string;
  probabilityBad: number;
  because: string;
  settle: object | null;
}

function rows(board: string, readings: Record<string, number>): Record<string, Row> {
  const { capacitors } = survey([board, '--readings', esr(readings)]).json as { capacitors: Row[] };
  return Object.fromEntries(capacitors.map((row) => [row.ref, row]));
}

const verdicts = (board: string, readings: Record<string, number>): string[] =>
  Object.values(rows(board, readings)).map(({ verdict }) => verdict);

describe('brothers', () => {
  it('convict the third at 1.03 ohm when two read 0.03 and 0.04', () => {
    const found = rows(partsList('47u', '47u', '47u'), { C1: 0.03, C2: 0.04, C3: 1.03 });
    expect([found.C1!.verdict, found.C2!.verdict, found.C3!.verdict]).toEqual([
      'good',
      'good',
      'bad',
    ]);
    expect(found.C3!.because).toMatch(/C1 30 mΩ, C2 40 mΩ/);
    expect(found.C3!.settle).toBeNull();
    // A parts list does not know what hides a bad part.
    expect(found.C1!.because).toMatch(/in parallel is not on this sheet/);
  });
  it('convict two at once', () => {
    expect(
      verdicts(partsList('100u', '100u', '100u', '100u', '100u', '100u'), {
        C1: 0.06,
        C2: 0.06,
        C3: 0.07,
        C4: 10,
        C5: 0.09,
        C6: 10,
      }),
    ).toEqual(['good', 'good', 'good', 'bad', 'good', 'bad']);
  });
  it('of another value or voltage do not speak', () => {
    const alone = rows(partsList('100u', '47u', '220u'), { C1: 1.03, C2: 0.06 });
    expect(alone.C1!.verdict).toBe('doubtful');
    expect(alone.C2!.verdict).toBe('good');
    expect(alone.C1!.because).toMatch(/no like part/);
    expect(alone.C1!.because).not.toMatch(/60 mΩ/);
    expect(alone.C1!.settle).toMatchObject({ setup: 'off', kind: 'esr', at: 'C1.1', to: 'C1.2' });
  });
  it('that are all worn the same are not cleared by each other', () => {
    for (const verdict of verdicts(partsList('47u', '47u', '47u'), { C1: 30, C2: 31, C3: 29 }))
      expect(verdict).not.toBe('good');
  });
});

describe('one capacitor alone', () => {
  it('that was not read is not judged, and says how to settle it', () => {
    const { C1 } = rows(partsList('100u'), {});
    expect(C1).toMatchObject({
      verdict: 'cannot-judge',
      because: 'not read yet',
      settle: { kind: 'esr', at: 'C1.1', to: 'C1.2' },
    });
  });
  it('is never convicted by a better reading than expected', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('1u', '4.7u', '10u', '47u', '100u', '470u', '2200u'),
        fc.integer({ min: 0, max: 6 }),
        (value, hundredths) => {
          expect(rows(partsList(value), { C1: hundredths / 100 }).C1!.verdict).not.toBe('bad');
        },
      ),
      { numRuns: 30 },
    );
  });
  it('that reads nothing at all for its size may be short: ohms settle it, not ESR', () => {
    const { C1 } = rows(partsList('4.7u'), { C1: 0.03 });
    expect(C1).toMatchObject({ verdict: 'doubtful', settle: { kind: 'resistance' } });
    expect(C1!.because).toMatch(/short/);
    // Its brothers read the same: they are good ones, of a better make.
    expect(verdicts(partsList('4.7u', '4.7u', '4.7u'), { C1: 0.06, C2: 0.06, C3: 0.07 })).toEqual([
      'good',
      'good',
      'good',
    ]);
  });
  it('looks the worse the higher it reads, and is bad from some reading on', () => {
    const chances = [0.05, 0.2, 0.6, 2, 5].map(
      (ohm) => rows(partsList('100u'), { C1: ohm }).C1!.probabilityBad,
    );
    expect(chances).toEqual([...chances].sort((a, b) => a - b));
    for (const ohm of [5, 20, 100, 1000])
      expect(rows(partsList('100u'), { C1: ohm }).C1!.verdict).toBe('bad');
  });
  it('is held against the ESR its sheet states', () => {
    const board = deck('V1 A 0 9', 'C1 A 0 100u', '*@ C1 kind=electrolytic volt=16 esr=100m');
    expect(rows(board, { C1: 0.1 }).C1).toMatchObject({ verdict: 'good' });
    expect(rows(board, { C1: 3 }).C1).toMatchObject({ verdict: 'bad' });
    expect(rows(board, { C1: 3 }).C1!.because).toMatch(/the sheet has 100 mΩ/);
  });
});

describe('a capacitor behind others', () => {
  const masked = deck(
    'C1 A 0 1u',
    '*@ C1 kind=electrolytic volt=50 esr=2',
    'C2 A 0 2200u',
    '*@ C2 kind=electrolytic volt=16 esr=15m',
    'R1 A 0 1k',
  );
  it('cannot be judged where they would read like this by themselves, and the cure is said', () => {
    const { C1 } = rows(masked, { C1: 0.015 });
    expect(C1!.verdict).toBe('cannot-judge');
    expect(C1!.because).toMatch(/C2.*lift its leg C1/);
    expect(C1!.settle).not.toBeNull();
  });
  it('that reads far more than they let through was not read right, or they are bad too', () => {
    const { C1 } = rows(masked, { C1: 8 });
    expect(C1!.verdict).toBe('cannot-judge');
    expect(C1!.because).toMatch(/more than C2 beside it should let show/);
  });
  it('may be read by naming the net', () => {
    const readings = file('csv', 'setup,kind,at,to,value,unit\noff,esr,B,,3,ohm\n');
    const board = deck('C1 B 0 100u', '*@ C1 kind=electrolytic volt=16 esr=100m', 'R1 B 0 1k');
    expect(survey([board, '--readings', readings]).json).toMatchObject({
      capacitors: [{ ref: 'C1', verdict: 'bad' }],
    });
  });
});

describe('hostile input', () => {
  it.each([[['board.cir']], [[]], [['a.cir', 'b.cir', '--readings', 'r.csv']]])(
    'refuses %j',
    (words) => {
      expect(() => survey(words)).toThrow(/expected/);
    },
  );
  it('refuses readings of parts that are not there, and files that are not', () => {
    expect(() => survey([partsList('47u'), '--readings', esr({ C9: 1 })])).toThrow(/C9/);
    expect(() => survey([partsList('47u'), '--readings', '/nowhere/none.csv'])).toThrow();
  });
  it('leaves readings of other kinds alone', () => {
    const board = deck('V1 A 0 9', 'C1 A 0 100u', '*@ C1 kind=electrolytic volt=16 esr=100m');
    const readings = file('csv', 'setup,kind,at,to,value,unit\non,voltage,A,,9,V\n');
    expect(survey([board, '--readings', readings]).json).toMatchObject({
      capacitors: [{ ref: 'C1', verdict: 'cannot-judge' }],
    });
  });
  it('has nothing to say of a board without capacitors', () => {
    expect(survey([deck('V1 A 0 9', 'R1 A 0 1k'), '--readings', esr({})]).json).toEqual({
      capacitors: [],
    });
  });
});

describe('brothers that have aged alike', () => {
  it('are not good for agreeing with each other, where they are beyond their standard', () => {
    // 47 µF 16 V: 0.2 over 2 π 100 Hz 47 µF is 6.8 Ω (IEC 60384-4, from memory).
    const found = rows(partsList('47u', '47u', '47u'), { C1: 30, C2: 31, C3: 29 });
    for (const row of Object.values(found)) expect(row.verdict, row.because).not.toBe('good');
  });
});
