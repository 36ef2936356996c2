import { describe, expect, it } from 'vitest';
import { countsByKind } from './LedgerTable';
import { trackWords } from './TrackFigures';

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

describe('a track and the wire in its place', () => {
  it('says what follows from what was typed, and nothing more', () => {
    expect(trackWords({})).toEqual([]);
    expect(trackWords({ width: 0.25, rise: 10 })).toEqual([
      'the track carries 880 mA at 10 °C more',
    ]);
    // 3 cm of 30 gauge: 10 mΩ and some 30 nH.
    expect(trackWords({ gauge: 30, length: 30 })[0]).toMatch(/10 mΩ and 3\d nH/);
  });
});
