import { describe, expect, it } from 'vitest';
import { RATES } from '@hanzai/data';
import { Diagnoser } from '../src/diagnosis';
import type { Reading } from '../src/instrument';
import { LITTLE, nextMeasurements, planNext, touchesOf } from '../src/plan';
import { board, measurement, respond } from './boards';

// What people do without a meter, and what is said where no reading tells more. Worked by hand.

// Two capacitors in parallel on one rail: shorted, no reading tells which; a leg lifted does.
const rail = board(
  'V1 SUP 0 9\nXF1 SUP VM FUSE\nC1 VM 0 100u\n*@ C1 kind=electrolytic esr=0.2\nC2 VM 0 100u\n*@ C2 kind=electrolytic esr=0.2\nR1 VM 0 4.7k',
);
const read = (
  index: typeof rail,
  there: typeof rail,
  kind: string,
  at: string,
  to = '',
): Reading => ({
  measurement: measurement(index, kind, at, to),
  value: respond(there, kind, at, to).value,
});
const shorted = board(
  'V1 SUP 0 9\nXF1 SUP VM FUSE\nC1 VM 0 100u\nR9 VM 0 1.5\nC2 VM 0 100u\nR1 VM 0 4.7k',
);

describe('two shorted suspects in parallel', () => {
  const fuse = {
    measurement: measurement(rail, 'continuity', 'F1.1', 'F1.2'),
    value: 'beep' as const,
  };
  const readings = [
    ...['resistance', 'esr'].map((kind) => read(rail, shorted, kind, 'VM')),
    fuse,
    { ...fuse, measurement: measurement(rail, 'resistance', 'F1.1', 'F1.2'), value: 0.2 },
  ];
  const diagnoser = new Diagnoser(rail, RATES);
  const belief = diagnoser.believe(readings);
  const plan = planNext(diagnoser, readings, belief);
  it('are told apart by a leg that is lifted, and by the reading taken again', () => {
    expect(plan.touches.length).toBeGreaterThan(0);
    const [first] = plan.touches;
    expect(first!.touch.title).toMatch(/^lift one leg of C[12]$/);
    expect([first!.kind, first!.at]).toEqual(['resistance', 'VM']);
    expect(first!.gainBits).toBeGreaterThan(0.5);
    expect(first!.minutes).toBeGreaterThan(5);
    expect(first!.touch.caution).toMatch(/power off and discharged/);
  });
  it('and taking that reading without the leg decides it', () => {
    const ref = plan.touches[0]!.touch.refs[0]!;
    const guilty = ref === 'C1';
    const there = guilty ? rail : shorted;
    const again: Reading = { ...read(rail, there, 'resistance', 'VM'), absent: [ref] };
    const after = diagnoser.believe([...readings, again]);
    const share = (name: string): number =>
      after.byPart.find((part) => part.ref === name)!.probability;
    expect(share(guilty ? 'C1' : ref === 'C2' ? 'C1' : 'C2')).toBeGreaterThan(0.75);
  });
  it('nothing is called the next that tells next to nothing', () => {
    expect(plan.measurements.every(({ gainBits }) => gainBits < 0.3)).toBe(true);
    expect(plan.exhausted).toBe(true);
    expect(plan.takes.length).toBeGreaterThan(0);
    expect(plan.state).toBe('measure');
  });
});

describe('that no reading tells more', () => {
  it('is never said while one would: a switch thrown shows what rest hides', () => {
    const index = board(
      'V1 A 0 5\nR1 A B 1k\nXS1 B C SWITCH_OPEN\nR2 C 0 1k\nR3 C D 1k\nR4 D 0 1k\n*@ .setup thrown thrown=S1',
    );
    const readings = [
      read(index, index, 'voltage', 'B'),
      read(index, index, 'voltage', 'C'),
      read(index, index, 'resistance', 'B'),
    ];
    const plan = nextMeasurements(index, readings, RATES);
    if (plan.exhausted) for (const m of plan.measurements) expect(m.gainBits).toBeLessThan(LITTLE);
    else expect(plan.measurements[0]!.gainBits).toBeGreaterThanOrEqual(0.01);
  });
  it('not before a reading was taken, nor where the part is known', () => {
    expect(nextMeasurements(rail, [], RATES).exhausted).toBe(false);
    const open = board('V1 SUP 0 9\nR9 SUP VM 100meg\nC1 VM 0 100u\nC2 VM 0 100u\nR1 VM 0 4.7k');
    const known = nextMeasurements(
      rail,
      [
        read(rail, open, 'voltage', 'VM'),
        { measurement: measurement(rail, 'continuity', 'F1.1', 'F1.2'), value: 'open' },
      ],
      RATES,
    );
    expect(known.exhausted).toBe(false);
    expect(known.state).toBe('replace');
  });
});

describe('touches', () => {
  it('of a load are its plug, of a chip its pin, and none of a supply', () => {
    const index = board(
      'V1 A 0 12\nXM1 A B WINDING\n*@ M1 dcr=20 role="load motor"\nXM2 A B WINDING\n*@ M2 dcr=20 role="load fan"\nQ1 B C 0 QN\nR1 A C 10k\n.model QN NPN',
    );
    const belief = (ref: string) => ({ byPart: [{ ref, probability: 0.9, weights: [] }] }) as never;
    const titles = (ref: string): string[] =>
      touchesOf(index, belief(ref)).map(({ title }) => title);
    expect(titles('M1')).toEqual(['unplug M1', 'unplug M1, M2']);
    expect(titles('R1')[0]).toBe('lift one leg of R1');
    expect(titles('Q1')[0]).toMatch(/lift the pin of Q1/);
    expect(titles('V1')).toEqual(['unplug M1, M2']);
    expect(titles('A~B')).toEqual(['unplug M1, M2']);
  });
});
