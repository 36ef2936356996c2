import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { EntryBody, type Entry } from './entry';
import { KINDS } from './kinds';
import { entryObjection } from './rules';

// Every kind of entry has its words, its rule and a way back, or says what it has instead.

const kinds = EntryBody.options.map((option) => option.shape.kind.value);

/** Some entry of a kind; what is wrong with it is not the point. */
const some = (kind: EntryBody['kind']): Entry => ({
  id: v7(),
  madeAt: new Date().toISOString(),
  body: { kind, text: 'x', what: 'bleach', title: 'x' } as never,
});

describe('kinds of entries', () => {
  it('are those of the schema, each with words of its own', () => {
    expect(Object.keys(KINDS).sort()).toEqual([...kinds].sort());
    const words = kinds.map((kind) => KINDS[kind].words);
    expect(new Set(words).size).toBe(words.length);
    for (const one of words) expect(one).toMatch(/^[a-z][a-z :]+$/);
  });
  it.each(
    kinds.filter(
      (kind) =>
        KINDS[kind].takeBack === 'free' &&
        ![
          'step',
          'acknowledge',
          'back',
          'daylight',
          'timerDone',
          'residual',
          'pin',
          'meter',
        ].includes(kind),
    ),
  )('%s can be taken back at any time', (kind) => {
    const entry = some(kind);
    expect(
      entryObjection({ kind: 'retract', entry: entry.id }, [entry], undefined),
    ).toBeUndefined();
  });
  it.each(kinds.filter((kind) => KINDS[kind].takeBack === 'never' && kind !== 'close'))(
    '%s cannot, and is told by its own words',
    (kind) => {
      const entry = some(kind);
      expect(entryObjection({ kind: 'retract', entry: entry.id }, [entry], undefined)).toBe(
        `a ${KINDS[kind].words} cannot be taken back`,
      );
    },
  );
});
