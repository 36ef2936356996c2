import { describe, expect, it, vi } from 'vitest';
import { oncePer } from './once-per';

describe('once per object', () => {
  it('is made once, and anew for an equal one that is another', () => {
    const make = vi.fn(({ n }: { n: number }) => [n]);
    const listOf = oncePer(make);
    const a = { n: 1 };
    expect(listOf(a)).toBe(listOf(a));
    expect(listOf({ n: 1 })).not.toBe(listOf(a));
    expect(make).toHaveBeenCalledTimes(2);
  });

  it('is shared by all that have the same key', () => {
    const key = {};
    const textOf = oncePer(
      ({ text }: { key: object; text: string }) => text,
      (from) => from.key,
    );
    expect(textOf({ key, text: 'first' })).toBe('first');
    expect(textOf({ key, text: 'second' })).toBe('first');
    expect(textOf({ key: {}, text: 'third' })).toBe('third');
  });

  it('keeps an empty text, and nothing of what failed', () => {
    const make = vi.fn(() => '');
    const empty = oncePer(make);
    const a = {};
    empty(a);
    empty(a);
    expect(make).toHaveBeenCalledOnce();
    let good = false;
    const shaky = oncePer(() => {
      if (!good) throw new Error('not yet');
      return 'there';
    });
    expect(() => shaky(a)).toThrow('not yet');
    good = true;
    expect(shaky(a)).toBe('there');
  });
});
