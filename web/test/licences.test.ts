import { describe, expect, it } from 'vitest';

// The check that nothing slips in under a licence that nobody has looked at.

interface Licences {
  isFree: (expression: string) => boolean;
  licencesOf: (lock: unknown) => { wrong: { name: string }[]; packages: unknown[] };
}
const { isFree, licencesOf } = (await import(
  new URL('../../scripts/licences.mjs', import.meta.url).href
)) as Licences;

describe('a licence', () => {
  it.each([
    ['MIT', true],
    ['(MIT OR CC0-1.0)', true],
    ['MIT AND ISC AND BSD-3-Clause', true],
    ['Apache-2.0 AND LGPL-3.0-or-later', false],
    ['GPL-3.0-or-later', false],
    ['UNLICENSED', false],
    ['', false],
  ])('%j: %s', (expression, free) => {
    expect(isFree(expression)).toBe(free);
  });
  it('of a package that nobody has looked at is named', () => {
    const lock = {
      packages: {
        '': { name: 'house' },
        core: { version: '1.0.0' },
        'node_modules/@hanzai/core': { link: true },
        'node_modules/good': { version: '1.0.0', license: 'MIT' },
        'node_modules/good/node_modules/bad': { version: '2.0.0', license: 'SSPL-1.0' },
        'node_modules/silent': { version: '3.0.0' },
      },
    };
    const { wrong, packages } = licencesOf(lock);
    expect(wrong.map(({ name }) => name)).toEqual(['bad', 'silent']);
    expect(packages).toHaveLength(3);
  });
});
