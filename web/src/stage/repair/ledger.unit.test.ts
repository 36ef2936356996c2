import { describe, expect, it } from 'vitest';
import { countsByKind } from './LedgerTable';

describe('counts by kind', () => {
  it('adds up off and on by the letters of the designators', () => {
    const sum = (ref: string, removed: number, fitted: number) => ({ ref, removed, fitted });
    expect(countsByKind([sum('C1', 1, 1), sum('C2', 1, 0), sum('RN1', 2, 2)])).toEqual([
      'C 2 off, 1 on',
      'RN 2 off, 2 on',
    ]);
    expect(countsByKind([])).toEqual([]);
  });
});
