import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  chosen,
  countWithin,
  maybeNumber,
  maybeWords,
  typedNumber,
  typedWords,
  within,
} from './typed';

const hours = typedNumber({ fits: within(0, 24), words: 'no time; expected hours up to 24' });
const said = (result: { error?: { issues: readonly { message: string }[] } | undefined }): string =>
  result.error?.issues[0]?.message ?? '';

describe('a number as it is typed', () => {
  it.each([
    ['4', 4],
    [' 4 ', 4],
    ['4,5', 4.5],
    ['.5', 0.5],
    ['5.', 5],
    ['+2', 2],
  ])('takes %j', (text, value) => {
    expect(hours.parse(text)).toBe(value);
  });

  // Number() takes the first three for 0, 16 and 100, which nobody who typed them meant.
  it.each(['', '0x10', '1e2', '4 5', '4.5.6', '1,000,5', 'Infinity', 'NaN', '٤', '-1', '25', '4h'])(
    'refuses %j and says so in the words typed',
    (text) => {
      expect(said(hours.safeParse(text))).toBe(`“${text}” is no time; expected hours up to 24`);
    },
  );

  it('never takes what does not fit, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        const { data, success } = hours.safeParse(text);
        return !success || (data > 0 && data <= 24);
      }),
    );
  });

  it('may be left out where it says so, and is refused alike where it is there', () => {
    const maybe = maybeNumber({ fits: countWithin(1, 9), words: 'no count' });
    expect(maybe.parse('  ')).toBeUndefined();
    expect(maybe.parse('9')).toBe(9);
    expect(said(maybe.safeParse('9,5'))).toBe('“9,5” is no count');
    expect(said(maybe.safeParse('0'))).toBe('“0” is no count');
  });
});

describe('words as they are typed', () => {
  it('are asked for where there are none', () => {
    const reason = typedWords(10, 'a few words', 3);
    expect(said(reason.safeParse(' \n '))).toBe('a few words');
    expect(said(reason.safeParse(' ab '))).toBe('a few words');
    expect(reason.parse(' abc ')).toBe('abc');
  });

  it('are cut without leaving half a character', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 40 }), (text) => {
        const cut = maybeWords(7).parse(text);
        return cut.length <= 7 && !/\p{Surrogate}/u.test(cut) && text.trim().startsWith(cut);
      }),
    );
  });

  it('of a choice have to be of it', () => {
    const course = chosen(['on', 'off'], 'choose');
    expect(course.parse('on')).toBe('on');
    expect(said(course.safeParse(undefined))).toBe('choose');
    expect(course.safeParse('toString').success).toBe(false);
  });
});
