import { describe, expect, it } from 'vitest';
import { indexBoard } from '../src/board';
import { BenchState, resolveMeasurement } from '../src/instrument';
import { bench, board, measurement } from './boards';

// What every repairer knows: with the mains fuse blown there is no secondary. Common practice, no
// published source. Mains is alternating current, of which the circuit knows nothing, so this is a
// rule beside it.
const LINES = `XJ1 LIVE L1 PIN
XF1 L1 L2 FUSE
XS1 L2 L3 SWITCH
R1 L3 PA 22
C1 L1 N1 100n
C2 L1 N1 1n
XJ2 NEUT N1 PIN
L9 N1 PB 1m
XT1 PA PB SA 0 TRANSFORMER
*@ T1 primary=180 secondary=1 peak=17
R2 SA OUT 10
R3 OUT 0 1k`;

const index = board(LINES);
const secondary = measurement(index, 'voltage', 'OUT');

function volts(...faults: string[]): number {
  const response = bench(index, 'on', ...faults).respond(secondary);
  if ('ok' in response) throw new Error(response.why);
  return response.value;
}

function without(absent: readonly string[], setup = 'on', of = index): number {
  const response = new BenchState(of, { setup, faults: [], absent }).respond({
    ...secondary,
    setup,
  });
  if ('ok' in response) throw new Error(response.why);
  return response.value;
}

describe('a transformer and its mains', () => {
  it('gives its peak when all is well, by the divider of its own ohms', () =>
    expect(volts()).toBeCloseTo((17 * 1000) / 1011, 1));

  it.each([
    'J1:open',
    'F1:open',
    'S1:open',
    'R1:open',
    'J2:open',
    'L9:open',
    'F1.1:dry',
    'T1.1:dry',
    'T1.2:dry',
    'T1:primary-open',
  ])('gives nothing with %s', (fault) => expect(volts(fault)).toBeLessThan(0.05));

  it.each(['C1:open', 'C1:short', 'R2:drift-high', 'C1.1:dry', 'S1:stuck-closed', 'L1~N1:bridge'])(
    'gives what it gave with %s',
    (fault) => expect(volts(fault)).toBeGreaterThan(10),
  );

  // Two pins on either side of a cut in the track from the plug: with the plug and the fuse apart
  // it opens the row, with both on one side it does not.
  it.each([
    ['C1.1~F1.1:cut', { J1: 5, C1: 8, F1: 40, C2: 43 }, false],
    ['F1.1~C1.1:cut', { J1: 5, F1: 8, C1: 40, C2: 43 }, true],
  ] as const)('counts a cut where it lies: %s', (fault, places, gives) => {
    const cut = board(
      `${LINES}\n${Object.entries(places)
        .map(([ref, x]) => `*@ ${ref} pos=${x},10`)
        .join('\n')}`,
    );
    const response = bench(cut, 'on', fault).respond(measurement(cut, 'voltage', 'OUT'));
    expect('ok' in response ? response.why : response.value > 10).toBe(gives);
  });

  it('gives nothing with a part of that row off the board, and is whole with the filter off', () => {
    expect(without(['F1'])).toBeLessThan(0.05);
    expect(without(['J2'])).toBeLessThan(0.05);
    expect(without(['C1'])).toBeGreaterThan(10);
  });

  it('gives nothing in a setup that opens its switch or unplugs its plug', () => {
    const setups = [
      { name: 'switched-off', thrown: ['S1'] },
      { name: 'unplugged', unplugged: ['J1'] },
      { name: 'other', unplugged: ['C1'] },
    ];
    const set = indexBoard({ ...index.board, setups });
    expect(setups.map(({ name }) => without([], name, set) > 10)).toEqual([false, false, true]);
  });

  it('has its winding read as it is with the power off, fuse or no fuse', () => {
    const ohms = resolveMeasurement(index, 'off', 'resistance', 'T1.1', 'T1.2');
    if (!ohms.ok) throw new Error(ohms.what);
    for (const faults of [[], ['F1:open']]) {
      const response = bench(index, 'off', ...faults).respond(ohms.measurement);
      expect('ok' in response ? response.why : response.value).toBeCloseTo(180, 0);
    }
  });

  it('needs neither of two ways by itself', () => {
    const twice = board(LINES.replace('XS1 L2', 'XF2 L1 L2 FUSE\nXS1 L2'));
    const response = bench(twice, 'on', 'F1:open').respond(measurement(twice, 'voltage', 'OUT'));
    expect('ok' in response ? response.why : response.value).toBeGreaterThan(10);
  });
});
