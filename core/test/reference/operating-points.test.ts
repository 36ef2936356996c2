import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { boardFile, volts } from '../boards';

// Source: ngspice, Debian package; version and decks as recorded by scripts/reference-decks.mjs in
// expected.json.
const expected = JSON.parse(
  readFileSync(new URL('./decks/expected.json', import.meta.url), 'utf8'),
) as {
  simulator: string;
  points: Record<string, Record<string, number>>;
};

describe(`operating points against ${expected.simulator}`, () => {
  const decks = Object.entries(expected.points);
  it('has at least 30 decks to compare', () => expect(decks.length).toBeGreaterThanOrEqual(30));
  it.each(decks)('%s agrees within 1 mV + 0.1 %%', (name, point) => {
    const ours = volts(boardFile(`./reference/decks/${name}.cir`));
    // The simulator writes the inner nets of an instance as xp1.m, this engine as P1.m.
    const key = new Map(Object.entries(ours).map(([net, volt]) => [net.toLowerCase(), volt]));
    const compared = Object.entries(point).map(([net, volt]) => {
      const own = key.get(net) ?? key.get(net.replace(/^x/, ''));
      expect(own, `${name}: net ${net}`).toBeTypeOf('number');
      expect(Math.abs(own! - volt), `${name}: net ${net}`).toBeLessThanOrEqual(
        1e-3 + 1e-3 * Math.abs(volt),
      );
      return net;
    });
    expect(compared.length).toBeGreaterThan(0);
  });
});
