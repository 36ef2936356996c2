import { OTHER_CHIPS, SERIES_74 } from '@hanzai/data';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { markingSuggestions } from '../src/board';

const KNOWN = [
  ...SERIES_74.flatMap(({ number }) => [`74LS${number}`, `74HCT${number}`, `74${number}`]),
  ...OTHER_CHIPS.map(({ number }) => number),
];
const words = (text: string): string[] => markingSuggestions(text, KNOWN).map((one) => one.words);

describe('markings as they are read off a picture', () => {
  it.each([
    ['74LS14', '74LS14'],
    ['SN74LS14N', '74LS14'],
    ['SN74LSI4N', '74LS14'],
    ['HD74L514P', '74LS14'],
    ['DM74LS00N 8512', '74LS00'],
    ['74LSOO', '74LS00'],
    ['74HCT86', '74HCT86'],
    ['6522', '6522'],
    ['2114', '2114'],
  ])('“%s” may be %s', (text, expected) => {
    expect(words(text)).toContain(expected);
  });
  // Capacitor codes: IEC 60062, two figures and noughts, picofarad.
  it.each([
    ['470µF 16V', '470u 16V'],
    ['470uF\n16V 85C', '470u 16V'],
    ['100/25V', '100u 25V'],
    ['4.7uF 35V', '4.7u 35V'],
    ['104', '100n'],
    ['103K', '10n'],
    ['221J', '220p'],
    ['225', '2.2u'],
    ['4k7', '4k7'],
  ])('“%s” may be %s', (text, expected) => {
    expect(words(text)).toContain(expected);
  });
  it.each(['', '   ', 'Loom Hall', '!!!!', '99999999999'])('“%s” says nothing', (text) => {
    expect(words(text)).toEqual([]);
  });
  it('is held against what the part can be', () => {
    const of = (ref: string) =>
      markingSuggestions('74LS14 104 4k7', KNOWN, ref).map((one) => one.words);
    expect(of('U3')).toEqual(['74LS14']);
    expect(of('C3')).toEqual(['100n']);
    expect(of('R3')).toEqual(['4k7']);
    expect(of('X1')).toEqual(['74LS14', '100n', '4k7']);
  });
  it('offers what it is told or known alone, and little of it, whatever is read', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        const found = markingSuggestions(text, KNOWN);
        expect(found.length).toBeLessThanOrEqual(6);
        for (const one of found) {
          expect(one.words.length).toBeLessThan(30);
          expect(one.from).not.toBe('');
        }
      }),
    );
  });
});
