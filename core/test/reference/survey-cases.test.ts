import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { surveyCapacitors } from '@hanzai/core/survey';
import { RATES } from '@hanzai/data';
import { boardFile, measurement } from '../boards';

// Source: ngspice, Debian package, by scripts/reference-readings.mjs: what an ESR meter shows in
// circuit on a board with one capacitor bad. The verdicts are those a repairer would give: known by
// which part the simulator was told to spoil.
const { rows } = JSON.parse(
  readFileSync(new URL('./benches/expected.json', import.meta.url), 'utf8'),
) as { rows: [string, string, string, string, string, number | 'OL'][] };
const index = boardFile('./reference/benches/capacitor-shelf.cir');
const CAPACITORS = index.board.parts.filter(({ kind }) => kind === 'capacitor');

/** Verdicts on readings across every capacitor, as the simulator shows them under a fault. */
function verdicts(fault: string): Readonly<Record<string, string>> {
  const shown = (at: string, to: string): number =>
    rows.find(
      ([name, of, kind, a, b]) =>
        name === 'capacitor-shelf' && of === fault && kind === 'esr' && a === at && b === to,
    )![5] as number;
  const readings = CAPACITORS.map(({ ref, pins: [at, to] }) => ({
    measurement: measurement(index, 'esr', `${ref}.1`, `${ref}.2`),
    // As the meter shows it: counts of 0.01.
    value: Math.round(100 * shown(at!, to!)) / 100,
  }));
  return Object.fromEntries(
    surveyCapacitors(index, readings, RATES).map(({ ref, verdict }) => [ref, verdict]),
  );
}
const bad = (fault: string): string[] =>
  Object.entries(verdicts(fault)).flatMap(([ref, verdict]) => (verdict === 'bad' ? [ref] : []));

describe('a survey in circuit, on readings of the reference simulator', () => {
  it('condemns nobody on a sound board', () => expect(bad('')).toEqual([]));

  it.each(['C3', 'C4', 'C5', 'C6'])(
    '%s alone on its net: dried out or open, it and nobody else',
    (ref) => {
      expect(bad(`${ref}:high-esr`)).toEqual([ref]);
      expect(bad(`${ref}:open`)).toEqual([ref]);
    },
  );

  it('one that hides beside a better one is not called good', () => {
    for (const fault of ['C2:high-esr', 'C2:open']) {
      expect(bad(fault)).toEqual([]);
      expect([fault, verdicts(fault).C2]).not.toContain('good');
    }
  });

  it('the better one of two open: no more than these two can be meant', () => {
    for (const fault of ['C1:high-esr', 'C1:open']) {
      const own = verdicts(fault);
      expect([fault, own.C1]).not.toContain('good');
      for (const ref of ['C3', 'C4', 'C5', 'C6'])
        expect([fault, ref, own[ref]]).not.toContain('bad');
    }
  });

  it('lost farads do not show in ohms at 100 kHz: nobody else is condemned for them', () => {
    for (const ref of ['C3', 'C4', 'C5', 'C6']) expect(bad(`${ref}:low-capacitance`)).toEqual([]);
  });

  it('a short is no good capacitor, however low it reads', () => {
    expect(verdicts('C4:short').C4).not.toBe('good');
  });
});
