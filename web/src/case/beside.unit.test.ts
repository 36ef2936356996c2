import { describe, expect, it } from 'vitest';
import { besideBy, besideKey, besideWords, type BesideReading } from './beside';

const read = (value: number | string, more: Partial<BesideReading> = {}): BesideReading => ({
  number: 101,
  setup: 'on',
  quantity: 'voltage',
  at: 'P5',
  to: '',
  value,
  good: true,
  ...more,
});
const at = (...list: BesideReading[]) => besideBy(list).get(besideKey(list[0]!))!;

describe('readings side by side', () => {
  it('come together whatever case their points were written in', () => {
    const all = besideBy([read(5), read(5.02, { at: 'p5', number: 102 }), read(1, { at: 'VM' })]);
    expect(all.size).toBe(2);
    expect(besideWords(all.get(besideKey(read(0)))!)).toBe('2 good boards: 5 V to 5.02 V');
  });
  it('good boards are told apart from others, each counted once', () => {
    const beside = at(read(5), read(5.1), read(0.2, { good: false, number: 103 }));
    expect(besideWords(beside)).toBe('1 good board: 5 V to 5.1 V; 1 other: 200 mV');
  });
  it.each([
    [5.3, undefined],
    [6.5, 'higher'],
    [3.9, 'lower'],
    ['OL', 'other'],
  ] as const)('beside good volts of 5 to 5.1 V, %s stands out: %s', (value, out) => {
    expect(at(read(5), read(5.1)).standsOut(value)).toBe(out);
  });
  it('ohms and ESR are compared by ratio', () => {
    const esr = (value: number, number: number) =>
      read(value, { quantity: 'esr', setup: 'off', number });
    const beside = at(esr(0.1, 1), esr(0.12, 2), esr(0.09, 3));
    expect(beside.standsOut(0.15)).toBeUndefined();
    expect(beside.standsOut(4)).toBe('higher');
  });
  it('words are compared as words: a beep among beeps', () => {
    const beside = at(
      read('beep', { quantity: 'continuity' }),
      read('beep', { quantity: 'continuity' }),
    );
    expect(beside.standsOut('beep')).toBeUndefined();
    expect(beside.standsOut('open')).toBe('other');
    expect(besideWords(beside)).toBe('1 good board: beep');
  });
  it('two faulty boards say nothing of what is right; three alike do', () => {
    const ill = (number: number) => read(5, { good: false, number });
    expect(at(ill(1), ill(2)).standsOut(0)).toBeUndefined();
    expect(at(ill(1), ill(2), ill(3)).standsOut(0)).toBe('lower');
  });
});
