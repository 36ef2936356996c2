import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { newerThan, type SheetVersion } from './sheet-versions';

const version = (n: number, ...changes: string[]): SheetVersion => ({
  id: v7(),
  version: n,
  madeBy: 'bench',
  createdAt: '2026-11-28T09:00:00.000Z',
  changes,
  parts: 3,
});

describe('what is newer than the version of a case', () => {
  const [three, two, one] = [version(3, 'R9 was 4k7, is 10k'), version(2, 'C7 is new'), version(1)];
  const all = [three, two, one];
  it('is told in the order in which it came', () => {
    expect(newerThan(one.id, all)).toEqual({
      newest: three,
      changes: ['C7 is new', 'R9 was 4k7, is 10k'],
    });
    expect(newerThan(two.id, all)?.changes).toEqual(['R9 was 4k7, is 10k']);
  });
  it('is nothing for the newest, for a sheet that is not listed and for none', () => {
    expect(newerThan(three.id, all)).toBeUndefined();
    expect(newerThan(v7(), all)).toBeUndefined();
    expect(newerThan(one.id, [])).toBeUndefined();
  });
});
