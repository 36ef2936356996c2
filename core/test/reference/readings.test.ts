import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { Hypothesis } from '../../src/fault';
import { parseFault, severityOf } from '../../src/fault';
import { typicalSeverity } from '../../src/device';
import { Predictor } from '../../src/diagnosis';
import { boardFile, measurement, respond } from '../boards';

// Source: ngspice, Debian package; scripts/reference-readings.mjs turns the boards into simulator
// decks by itself and records what a meter would read.
const file = JSON.parse(
  readFileSync(new URL('./benches/expected.json', import.meta.url), 'utf8'),
) as {
  simulator: string;
  rows: [string, string, string, string, string, number | 'OL'][];
};
const boards = new Map(
  ['lamp-driver', 'resistor-bridge', 'diode-network', 'capacitor-shelf'].map((name) => [
    name,
    boardFile(`./reference/benches/${name}.cir`),
  ]),
);

/**
 * Agreement asked for: 1 mV + 0.1 % of volts, 0.5 % + 1 milliohm of ohms. Ohms near the end of the
 * last range may be OL on one side.
 */
function agrees(kind: string, ours: number, theirs: number | 'OL'): boolean {
  if (theirs === 'OL') return !Number.isFinite(ours) || (kind === 'resistance' && ours > 39.9e6);
  if (!Number.isFinite(ours)) return kind === 'resistance' && theirs > 39.9e6;
  const limit =
    kind === 'voltage' || kind === 'diode'
      ? 1e-3 + 1e-3 * Math.abs(theirs)
      : 1e-3 + 5e-3 * Math.abs(theirs);
  return Math.abs(ours - theirs) <= limit;
}

describe(`meter readings, healthy and under faults, against ${file.simulator}`, () => {
  const groups = new Map<string, typeof file.rows>();
  for (const row of file.rows)
    groups.set(`${row[0]} ${row[1] || 'healthy'}`, [
      ...(groups.get(`${row[0]} ${row[1] || 'healthy'}`) ?? []),
      row,
    ]);

  it('has at least 500 readings to compare', () =>
    expect(file.rows.length).toBeGreaterThanOrEqual(500));

  it.each([...groups])('%s', (_, rows) => {
    const wrong = rows.flatMap(([name, fault, kind, at, to, theirs]) => {
      const ours = respond(boards.get(name)!, kind, at, to, ...(fault ? [fault] : [])).value;
      return agrees(kind, ours, theirs)
        ? []
        : [`${kind} ${at} ${to}: ours ${ours}, simulator ${theirs}`];
    });
    expect(wrong).toEqual([]);
  });

  it.each([...groups])('the predictor, which takes short ways, says the same: %s', (_, rows) => {
    const index = boards.get(rows[0]![0])!;
    const fault = rows[0]![1];
    const parsed = fault ? parseFault(index, fault) : undefined;
    if (parsed && !parsed.ok) throw new Error(parsed.what);
    const hypothesis: Hypothesis | undefined = parsed && {
      name: fault,
      fault: parsed.fault,
      type: 'single',
      faults: [fault],
      refs: [fault],
      prior: 1,
      severities: [typicalSeverity(severityOf(parsed.fault))],
      discrete: true,
    };
    const predictor = new Predictor(index);
    const wrong = rows.flatMap(([, , kind, at, to, theirs]) => {
      const m = measurement(index, kind, at, to);
      const ours = (hypothesis ? predictor.under(hypothesis, m)[0]! : predictor.healthy(m)).value;
      return agrees(kind, ours, theirs)
        ? []
        : [`${kind} ${at} ${to}: ours ${ours}, simulator ${theirs}`];
    });
    expect(wrong).toEqual([]);
  });
});
