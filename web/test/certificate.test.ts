import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';

const { certificateToUse } = (await import(
  new URL('../../scripts/certificate.mjs', import.meta.url).href
)) as {
  certificateToUse: (
    say: (line: string) => void,
    env: Record<string, string>,
    now?: number,
  ) => boolean;
};

// A certificate that is given to the application, looked at before anything listens.

const folder = mkdtempSync(join(tmpdir(), 'certificate-'));
const file = (name: string): string => join(folder, name);
const DAY = 86_400_000;
const DAYS = 90;

const make = (name: string): void =>
  void execFileSync(
    'openssl',
    `req -x509 -newkey ec -pkeyopt ec_paramgen_curve:P-256 -nodes -days ${DAYS} -subj /CN=bench.lan -keyout ${file(`${name}.key`)} -out ${file(`${name}.pem`)}`.split(
      ' ',
    ),
    { stdio: 'ignore' },
  );
beforeAll(() => {
  make('one');
  make('other');
  writeFileSync(file('nonsense.pem'), 'not a certificate');
});

const use = (certificate: string, key: string, now?: number) => {
  const said: string[] = [];
  const env = {
    HANZAI_CERTIFICATE: certificate && file(certificate),
    HANZAI_KEY: key && file(key),
  };
  const uses = certificateToUse((line) => said.push(line), env, now);
  return { uses, said };
};

describe('a certificate of its own', () => {
  it('is used with its key, and none where none is named', () => {
    expect(use('one.pem', 'one.key')).toEqual({ uses: true, said: [] });
    expect(use('', '')).toEqual({ uses: false, said: [] });
    expect(certificateToUse(() => undefined, {})).toBe(false);
  });
  it.each([
    ['one.pem', '', /go together/],
    ['', 'one.key', /go together/],
    ['one.pem', 'other.key', /is not that of the certificate/],
    ['nonsense.pem', 'one.key', /The certificate in .* cannot be read/],
    ['one.pem', 'nonsense.pem', /The key in .* cannot be read/],
    ['missing.pem', 'one.key', /ENOENT/],
  ])('%s with %s is refused in words', (certificate, key, why) => {
    expect(() => use(certificate, key)).toThrow(why);
  });
  it('is spoken of three weeks before its end, and refused after it and before its begin', () => {
    const now = Date.now();
    expect(use('one.pem', 'one.key', now + (DAYS - 30) * DAY).said).toEqual([]);
    expect(use('one.pem', 'one.key', now + (DAYS - 10) * DAY).said[0]).toMatch(/ends in 1\d days/);
    expect(() => use('one.pem', 'one.key', now + (DAYS + 1) * DAY)).toThrow(/ended on/);
    expect(() => use('one.pem', 'one.key', now - DAY)).toThrow(/begins on/);
  });
});
