import { describe, expect, it } from 'vitest';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { readPartsList, indexBoard } from '../../src/board';
import { Diagnoser } from '../../src/diagnosis';
import type { Reading } from '../../src/instrument';
import { board, measurement, respond } from '../boards';

// A bench is not a sheet: what is not printed is not known, shorts have ohms, and faults have
// causes. Worked examples of common practice, no published source, where none is named.

type Index = ReturnType<typeof board>;
const reading = (
  index: Index,
  kind: string,
  at: string,
  to: string,
  value: Reading['value'],
): Reading => ({
  measurement: measurement(index, kind, at, to),
  value,
});
const esr = (index: Index, ref: string, ohm: number): Reading =>
  reading(index, 'esr', `${ref}.1`, `${ref}.2`, ohm);
const believe = (index: Index, readings: readonly Reading[]) =>
  new Diagnoser(index, RATES).believe(readings);
const share = (belief: ReturnType<typeof believe>, ref: string): number =>
  belief.byPart.find((part) => part.ref === ref)!.probability;

function partsList(...rows: string[]): Index {
  const read = readPartsList(
    `ref,device,value,tolerance,rating,package,note\n${rows.join('\n')}\n`,
  );
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return indexBoard(read.value);
}

describe('healthy ESR that no sheet states', () => {
  it('a better reading never convicts, and a worse one is not cleared by it', () => {
    const index = partsList(
      'C1,capacitor electrolytic,100u,,16V,,',
      'C2,capacitor electrolytic,47u,,16V,,',
      'C3,capacitor electrolytic,220u,,16V,,',
    );
    const belief = believe(index, [esr(index, 'C1', 1.03), esr(index, 'C2', 0.06)]);
    const before = believe(index, []);
    expect(belief.byPart[0]!.ref).toBe('C1');
    expect(share(belief, 'C2')).toBeLessThanOrEqual(1.05 * share(before, 'C2'));
    expect(share(belief, 'C1')).toBeGreaterThan(share(before, 'C1'));
    expect(belief.unmodelled).toBeLessThan(0.05);
  });
  it('of three brothers at 0.03, 0.04 and 1.03 ohm the third is bad, and nothing is wrong with the sheet', () => {
    const index = partsList(
      ...['C1', 'C2', 'C3'].map((ref) => `${ref},capacitor electrolytic,47u,,16V,,`),
    );
    const belief = believe(index, [
      esr(index, 'C1', 0.03),
      esr(index, 'C2', 0.04),
      esr(index, 'C3', 1.03),
    ]);
    expect(share(belief, 'C3')).toBeGreaterThan(0.9);
    expect(belief.unmodelled).toBeLessThan(0.02);
  });
  it('of six small ones at 0.06, 0.06, 0.07, 10, 0.09 and 10 ohm the two are bad together', () => {
    const refs = ['C1', 'C2', 'C3', 'C4', 'C5', 'C6'];
    const index = partsList(...refs.map((ref) => `${ref},capacitor electrolytic,47u,,16V,,`));
    const belief = believe(
      index,
      [0.06, 0.06, 0.07, 10, 0.09, 10].map((ohm, i) => esr(index, refs[i]!, ohm)),
    );
    expect(share(belief, 'C4')).toBeGreaterThan(0.9);
    expect(share(belief, 'C6')).toBeGreaterThan(0.9);
    for (const ref of ['C1', 'C2', 'C3', 'C5']) expect(share(belief, ref)).toBeLessThan(0.05);
  });
  it('one part alone that reads well is neither convicted nor cleared of what does not show', () => {
    const index = partsList(
      'C1,capacitor electrolytic,47u,,16V,,',
      'C2,capacitor electrolytic,47u,,16V,,',
    );
    const belief = believe(index, [esr(index, 'C1', 0.06)]);
    expect(share(belief, 'C1')).toBeLessThan(share(believe(index, []), 'C1'));
  });
  it('the order of the readings and one taken back change nothing', () => {
    const refs = ['C1', 'C2', 'C3'];
    const index = partsList(...refs.map((ref) => `${ref},capacitor electrolytic,47u,,16V,,`));
    const readings = [0.03, 0.04, 1.03].map((ohm, i) => esr(index, refs[i]!, ohm));
    const diagnoser = new Diagnoser(index, RATES);
    const [one, other] = [diagnoser.believe(readings), diagnoser.believe([...readings].reverse())];
    for (const { ref, probability } of one.byPart)
      expect(share(other, ref)).toBeCloseTo(probability, 8);
    expect(diagnoser.believe(readings.slice(0, 2)).byPart).toEqual(
      new Diagnoser(index, RATES).believe(readings.slice(0, 2)).byPart,
    );
  });
});

describe('a short has ohms', () => {
  const lines =
    'V1 SUP 0 9\nXF1 SUP IN FUSE\n*@ F1 rating=T1A\nL1 IN VM 47u\n*@ L1 dcr=0.35\nC1 VM 0 470u\n*@ C1 kind=electrolytic volt=16 esr=0.06\nR2 VM 0 4.7k\nR3 VM OUT 1k\nC2 OUT 0 10u\n*@ C2 kind=electrolytic volt=16 esr=1';
  const index = board(lines);
  it.each([0.05, 0.3, 1, 3, 8, 20, 45, 90, 300, 3000])(
    'of %d, read across the rail, and is found',
    (ohm) => {
      const shorted = board(`${lines}\nR99 VM 0 ${ohm}`);
      const read = (kind: string, at: string): Reading =>
        reading(index, kind, at, '', Number(respond(shorted, kind, at).value.toPrecision(4)));
      const belief = believe(index, [
        read('resistance', 'VM'),
        read('resistance', 'OUT'),
        read('voltage', 'VM'),
      ]);
      expect(belief.unmodelled).toBeLessThan(0.1);
      expect(share(belief, 'C1') + share(belief, 'R2')).toBeGreaterThan(0.8);
    },
  );
  it('a dead rail at 20 mV says what one at 0 mV says', () => {
    const at = (volt: number) =>
      believe(index, [
        reading(index, 'voltage', 'VM', '', volt),
        reading(index, 'voltage', 'IN', '', 9),
      ]);
    for (const volt of [0, 0.003, 0.02]) {
      expect(at(volt).byPart[0]!.ref).toBe('L1');
      expect(at(volt).unmodelled).toBeLessThan(0.2);
    }
  });
});

describe('a part is off by any factor', () => {
  const lines = (r1 = 10_000, contact = 0.02, esr = 0.12): string =>
    `V1 IN 0 12\nR98 IN X ${contact}\nR1 X MID ${r1}\nR2 MID 0 10k\nR3 X TAP 2.2k\nR4 TAP 0 2.2k\nC1 TAP 0 100u\n*@ C1 kind=electrolytic volt=16 esr=${esr}`;
  const index = board(lines().replace('R98 IN X 0.02', 'XS1 IN X SWITCH\n*@ S1 rest=closed'));
  it.each([1.25, 1.4, 2.5, 7, 15])('R1 at %d times its ohms', (factor) => {
    const off = board(lines(10_000 * factor));
    const read = (kind: string, at: string): Reading =>
      reading(index, kind, at, '', respond(off, kind, at).value);
    const one = believe(index, [read('voltage', 'MID'), read('voltage', 'TAP')]);
    expect(one.byPart[0]!.ref).toBe('R1');
    expect(one.unmodelled).toBeLessThan(0.05);
    // One reading off may be a slip of the probe; a second one of another kind is not.
    const two = believe(index, [read('voltage', 'MID'), read('resistance', 'MID')]);
    // That the sheet has it wrong no reading tells from that.
    expect(two.byPart[0]!.ref).toBe('R1');
    expect(share(two, 'R1')).toBeGreaterThan(0.45);
    expect(
      share(two, 'R1') +
        two.sheet
          .filter(({ name }) => name.startsWith('R1:'))
          .reduce((sum, { probability }) => sum + probability, 0),
    ).toBeGreaterThan(0.75);
    expect(two.unmodelled).toBeLessThan(0.05);
  });
  // Below that the drop is within half a percent of the meter.
  it.each([120, 400, 5000, 200_000])('a switch contact of %d ohm', (ohm) => {
    const off = board(lines(10_000, ohm));
    const belief = believe(
      index,
      ['X', 'MID'].map((at) =>
        reading(index, 'voltage', at, '', respond(off, 'voltage', at).value),
      ),
    );
    expect(belief.unmodelled).toBeLessThan(0.1);
    expect(share(belief, 'S1')).toBeGreaterThan(0.5);
  });
  it.each([5, 12, 40, 200, 700])('an ESR of %d times what the sheet states', (factor) => {
    const off = board(lines(10_000, 0.02, 0.12 * factor));
    const belief = believe(index, [
      reading(index, 'esr', 'C1.1', 'C1.2', respond(off, 'esr', 'C1.1', 'C1.2').value),
    ]);
    expect(belief.unmodelled).toBeLessThan(0.1);
    expect(share(belief, 'C1')).toBeGreaterThan(0.9);
  });
});

describe('a fault that made another', () => {
  const index = board(
    'V1 SUP 0 12\nXF1 SUP IN FUSE\n*@ F1 rating=T500mA\nR1 IN VM 10\nC1 VM 0 220u\n*@ C1 kind=electrolytic volt=16 esr=0.15\nC2 VM 0 100n\n*@ C2 kind=ceramic\nR2 VM OUT 1k\nR3 OUT 0 2.2k\nD1 0 VM DX\n.model DX D',
  );
  const behind = (belief: ReturnType<typeof believe>): number =>
    ['C1', 'C2', 'D1'].reduce((sum, ref) => sum + share(belief, ref), 0);
  it('a burnt series resistor and the three ohms behind it', () => {
    const belief = believe(index, [
      reading(index, 'voltage', 'IN', '', 12),
      reading(index, 'voltage', 'VM', '', 0),
      reading(index, 'resistance', 'VM', '', 3.1),
      reading(index, 'resistance', 'IN', 'VM', 'OL'),
    ]);
    expect(share(belief, 'R1')).toBeGreaterThan(0.95);
    expect(behind(belief)).toBeGreaterThan(0.9);
    expect(belief.unmodelled).toBeLessThan(0.01);
  });
  it('a blown fuse and the 1.2 ohms that blew it', () => {
    const belief = believe(index, [
      reading(index, 'continuity', 'F1.1', 'F1.2', 'open'),
      reading(index, 'resistance', 'VM', '', 1.2),
      reading(index, 'resistance', 'IN', '', 11.2),
    ]);
    expect(share(belief, 'F1')).toBeGreaterThan(0.95);
    expect(behind(belief)).toBeGreaterThan(0.9);
  });
  it('a blown fuse alone leaves open what blew it', () => {
    const belief = believe(index, [reading(index, 'continuity', 'F1.1', 'F1.2', 'open')]);
    expect(share(belief, 'F1')).toBeGreaterThan(0.85);
    expect(behind(belief)).toBeGreaterThan(0.05);
    // Good ohms behind it settle that.
    const good = believe(index, [
      reading(index, 'continuity', 'F1.1', 'F1.2', 'open'),
      reading(index, 'resistance', 'VM', '', 3200),
    ]);
    expect(behind(good)).toBeLessThan(0.5 * behind(belief));
  });
});

describe('a bus line that is held low', () => {
  const index = indexBoard(demoBoard('pd3If'));
  const belief = believe(index, [reading(index, 'voltage', 'HDAT', '', 0.15)]);
  const first = belief.byPart.filter(({ probability }) => probability > 0.02).map(({ ref }) => ref);
  it('has its open-collector driver before every capacitor', () => {
    expect(first[0]).toBe('U1');
    const capacitors = belief.byPart.filter(({ ref }) => /^C\d/.test(ref));
    for (const { ref, probability } of capacitors)
      expect(probability, ref).toBeLessThan(share(belief, 'U1'));
  });
  it('names nothing that cannot hold it: no lamp, no write gate', () => {
    for (const ref of ['R5', 'R6', 'D2', 'D3', 'R8']) expect(share(belief, ref)).toBeLessThan(0.02);
  });
});
