import { describe, expect, it } from 'vitest';
import { ledgerObjection, ledgerObjectionWithoutSheet, satOf, type LedgerLine } from '../src/bench';
import { boardFile } from './boards';

const off = (sat?: string): LedgerLine => ({
  ref: 'C1',
  action: 'removed',
  value: 'same',
  polarityChecked: false,
  note: '',
  ...(sat === undefined ? {} : { sat }),
});
const on = (sat: string, note = ''): LedgerLine => ({
  ...off(sat),
  action: 'fitted',
  polarityChecked: true,
  note,
});

describe('how a part sat before', () => {
  const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
  const judges = [
    ['with a sheet', (lines: LedgerLine[], next: LedgerLine) => ledgerObjection(index, lines, next)],
    ['without one', (lines: LedgerLine[], next: LedgerLine) => ledgerObjectionWithoutSheet(lines, next, [])],
  ] as const; // prettier-ignore

  it.each(judges)('holds back the other way round, unless the note says why: %s', (_, judge) => {
    const lines = [off('minus left')];
    expect(judge(lines, on('minus right'))).toMatch(/C1 sat minus left and goes on minus right/);
    expect(judge(lines, on('minus right', 'the old one was the wrong way round'))).toBeUndefined();
    expect(judge(lines, on(' Minus,  LEFT '))).toBeUndefined();
  });

  it.each(judges)('does not hold back where one of the two is not known: %s', (_, judge) => {
    expect(judge([off()], on('minus right'))).toBeUndefined();
    expect(judge([off('minus left')], on(''))).toBeUndefined();
  });

  it('is that of the last time it came off, by any spelling', () => {
    const lines = [off('minus left'), on('minus left'), off('minus up')];
    expect(satOf(lines, 'c1')).toBe('minus up');
    expect(satOf(lines, 'C2')).toBe('');
    expect(satOf([off()], 'C1')).toBe('');
  });
});
