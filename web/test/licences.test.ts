import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

// The check that nothing slips in under a licence that nobody has looked at.

interface Licences {
  isFree: (expression: string) => boolean;
  licencesOf: (lock: unknown) => { wrong: { name: string }[]; packages: unknown[] };
}
const { isFree, licencesOf } = (await import(
  new URL('../../scripts/licences.mjs', import.meta.url).href
)) as Licences;

interface Component {
  'bom-ref': string;
  group?: string;
  name: string;
  version: string;
  purl: string;
  scope: string;
  hashes?: { alg: string; content: string }[];
  licenses?: { expression: string }[];
}
const billing = (await import(new URL('../../scripts/sbom.mjs', import.meta.url).href)) as {
  billOf: (lock: object, at: string) => { components: Component[] };
};

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

describe('the bill of materials', () => {
  const { billOf } = billing;
  const lock = JSON.parse(
    readFileSync(new URL('../../package-lock.json', import.meta.url), 'utf8'),
  ) as Parameters<typeof billOf>[0];
  const bill = billOf(lock, '2026-11-29T08:00:00.000Z');
  const of = (name: string) =>
    bill.components.filter((one) => one.name === name && one.group === undefined);

  it('names what is installed, as it is installed', () => {
    // The installed packages themselves are asked, and not the lock file once more.
    for (const name of ['react', 'drizzle-orm', 'zod', 'pg', 'vitest', 'react-is']) {
      const { version, license } = JSON.parse(
        readFileSync(new URL(`../../node_modules/${name}/package.json`, import.meta.url), 'utf8'),
      ) as { version: string; license: string };
      const named = of(name).find((one) => one.version === version);
      expect(named?.licenses, name).toEqual([{ expression: license }]);
      expect(named?.purl).toBe(`pkg:npm/${name}@${version}`);
    }
    expect(bill.components.length).toBeGreaterThan(1000);
  });
  it('tells what ships from what it is made with', () => {
    for (const name of ['react', 'drizzle-orm', 'better-auth', 'react-is'])
      expect(
        of(name).some(({ scope }) => scope === 'required'),
        name,
      ).toBe(true);
    expect(of('eslint')[0]?.scope).toBe('excluded');
  });
  it('has a reference of its own for each, and hashes of the right length', () => {
    const refs = bill.components.map((one) => one['bom-ref']);
    expect(new Set(refs).size).toBe(refs.length);
    for (const { hashes = [], name } of bill.components)
      for (const { alg, content } of hashes)
        expect(content.length, name).toBe(alg === 'SHA-512' ? 128 : 40);
  });
  it('leaves out the house’s own parts', () => {
    expect(bill.components.filter(({ group }) => group === '@hanzai')).toEqual([]);
  });
});
