// Preferred values against the tables of IEC 60063 (E24 and E96 row by row, from memory of the
// standard) and the fitness of a part by them.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeFit, readSpec, verdictOf } from '../src/part';
import { isPreferred, nearestPreferred, preferredValues } from '../src/quantity';

const E24 = '10 11 12 13 15 16 18 20 22 24 27 30 33 36 39 43 47 51 56 62 68 75 82 91';
const E96 = `100 102 105 107 110 113 115 118 121 124 127 130 133 137 140 143 147 150 154 158 162 165
  169 174 178 182 187 191 196 200 205 210 215 221 226 232 237 243 249 255 261 267 274 280 287 294
  301 309 316 324 332 340 348 357 365 374 383 392 402 412 422 432 442 453 464 475 487 499 511 523
  536 549 562 576 590 604 619 634 649 665 681 698 715 732 750 768 787 806 825 845 866 887 909 931
  953 976`;
const figures = (rows: string): number[] => rows.split(/\s+/).map(Number);

describe('preferred values', () => {
  it('are those of the published tables', () => {
    expect(preferredValues(24).map((one) => Math.round(10 * one))).toEqual(figures(E24));
    expect(preferredValues(96).map((one) => Math.round(100 * one))).toEqual(figures(E96));
    expect(preferredValues(6)).toEqual([1, 1.5, 2.2, 3.3, 4.7, 6.8]);
    // Each coarser series is every second of the finer one; and the one value set by decree.
    expect(preferredValues(48)).toEqual(preferredValues(96).filter((_, i) => i % 2 === 0));
    expect(preferredValues(96)).toEqual(preferredValues(192).filter((_, i) => i % 2 === 0));
    expect(preferredValues(192)[185]).toBe(9.2);
    expect(preferredValues(192)).toHaveLength(192);
  });

  it('are found in every decade, and the nearest is no further than any other', () => {
    const power = fc.integer({ min: -13, max: 8 });
    fc.assert(
      fc.property(
        fc.constantFrom(...preferredValues(192), ...preferredValues(24)),
        power,
        (one, p) => {
          expect(isPreferred(one * 10 ** p)).toBe(true);
        },
      ),
    );
    fc.assert(
      fc.property(fc.double({ min: 1, max: 9.999, noNaN: true }), power, (one, p) => {
        const near = nearestPreferred(one * 10 ** p, 12);
        const off = (to: number): number => Math.abs(Math.log(to / (one * 10 ** p)));
        for (const other of [...preferredValues(12), 10])
          expect(off(near)).toBeLessThanOrEqual(off(other * 10 ** p) + 1e-9);
      }),
    );
    for (const wrong of [4.8, 1.03, 9.19, 5, 2.5])
      expect(isPreferred(wrong), `${wrong}`).toBe(false);
  });

  it.each([
    // A digit read wrongly is in no series.
    ['4k7 5% 0.25W', '4k8 5% 0.25W', /4k8 stands in no series of values \(nearest 4k7\)/],
    ['100n 50V film', '104n 50V film', undefined],
    ['100n 50V film', '103n 50V film', /nearest 100n/],
    ['4k7 5% 0.25W', '4k64 1% 0.25W', undefined],
    // What came off has the same.
    ['50u 25V electrolytic', '50u 25V electrolytic', undefined],
    ['47u 25V electrolytic', '50u 25V electrolytic', /nearest 51u|nearest 47u/],
    // Two of the series back to back are no slip of the pen.
    ['4u7 16V bipolar', '2x 10u 16V electrolytic back to back', undefined],
  ])('%s by %s', (was, offer, says) => {
    const remarks = judgeFit(readSpec(was), readSpec(offer));
    const said = remarks.filter(({ text }) => /in no series/.test(text));
    if (says === undefined) expect(said).toEqual([]);
    else {
      expect(said.map(({ text }) => text).join()).toMatch(says);
      expect(verdictOf(remarks)).not.toBe('fits');
    }
  });
});
