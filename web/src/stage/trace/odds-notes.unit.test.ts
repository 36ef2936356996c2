import { describe, expect, it } from 'vitest';
import { oddsNotes } from './odds-notes';

// What stands beside a part: what moved its odds before any reading.

const touched = (ref: string, factor: number, reason: string) => ({
  ref,
  factor,
  reason,
  finding: 'f',
  distanceMm: 3,
});
const learned = (factors: Record<string, number>) => [{ title: 'closed cases', factors }];

describe('notes beside the line-up', () => {
  it('tell what was learned and what was seen, each by itself', () => {
    const notes = oddsNotes([touched('C1', 7.3, '3 mm from a leak')], learned({ C1: 2.86, F1: 3 }));
    expect(notes.get('C1')).toBe('odds × 7.3: 3 mm from a leak; odds × 2.9: closed cases');
    expect(notes.get('F1')).toBe('odds × 3.0: closed cases');
  });
  it('leave out what hardly moves, also downwards', () => {
    const notes = oddsNotes([touched('C1', 1.2, 'far')], learned({ C1: 1.4, F1: 0.7, R1: 0.05 }));
    expect([...notes.keys()]).toEqual(['R1']);
    expect(notes.get('R1')).toBe('odds × 0.05: closed cases');
  });
  it('tell what was seen in its own words alone, the nearest finding of several', () => {
    const notes = oddsNotes(
      [touched('C1', 7, 'a leak'), touched('C1', 3, 'a burn')],
      [{ title: 'what was seen on the board', factors: { C1: 7 } }],
    );
    expect(notes.get('C1')).toBe('odds × 7.0: a leak');
  });
});
