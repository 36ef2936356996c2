import { describe, expect, it } from 'vitest';
import { indexBoard, readDeck } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import { parseFault, trackCuts } from '@hanzai/core/fault';
import { BenchState, resolveMeasurement, type Reading } from '@hanzai/core/instrument';
import { LIBRARY, RATES } from '@hanzai/data';

// A supply track past three dividers: J1 at 0 mm, then R1, R2 and R3 every 10 mm. Expected volts:
// closed form.
const deck = readDeck(
  'track\nV1 IN 0 5\nXJ1 IN VCC PIN\nR1 VCC A 1k\nR2 VCC B 1k\nR3 VCC C 1k\nR4 A 0 1k\nR5 B 0 1k\nR6 C 0 1k\n.end',
  LIBRARY,
);
if (!deck.ok) throw new Error(JSON.stringify(deck.issues));
const along: Record<string, number> = { J1: 0, R1: 10, R2: 20, R3: 30 };
const index = indexBoard({
  ...deck.value,
  parts: deck.value.parts.map((part) => ({
    ...part,
    ...(part.ref in along ? { positionMm: [along[part.ref]!, 0] as [number, number] } : {}),
  })),
});

function reading(kind: string, at: string, to: string, value: Reading['value']): Reading {
  const result = resolveMeasurement(index, '', kind, at, to);
  if (!result.ok) throw new Error(result.what);
  return { measurement: result.measurement, value };
}

describe('a cut track', () => {
  it('lies between neighbours with pins behind both; what leaves one pin is its dry joint', () => {
    expect(trackCuts(index).map(({ between }) => between)).toEqual(['R1.1~R2.1']);
  });

  it('takes the supply from what lies behind it, and a probe on a pin there sees that side', () => {
    const parsed = parseFault(index, 'r2.1~r1.1:cut');
    if (!parsed.ok) throw new Error(parsed.what);
    const state = new BenchState(index, {
      setup: 'on',
      faults: [{ fault: parsed.fault, severity: 1e11 }],
      absent: [],
    });
    const nets = state.netVolts() as Record<string, number>;
    expect(nets.A).toBeCloseTo(2.5, 2);
    expect(nets.B).toBeLessThan(0.01);
    const at = (point: string): number =>
      (state.respond(reading('voltage', point, '', 0).measurement) as { value: number }).value;
    expect(at('R1.1')).toBeCloseTo(5, 2);
    expect(at('R3.1')).toBeLessThan(0.01);
  });

  it('names what it cannot cut', () => {
    expect(parseFault(index, 'J1.2~R1.1:cut')).toMatchObject({
      ok: false,
      what: expect.stringContaining('J1.2 and R1.1') as string,
    });
  });

  it('is found by what hangs behind it', () => {
    const diagnoser = new Diagnoser(index, RATES);
    const belief = diagnoser.believe([
      reading('voltage', 'A', '', 2.5),
      reading('voltage', 'B', '', 0.0),
      reading('voltage', 'C', '', 0.0),
      reading('continuity', 'R1.1', 'R2.1', 'open'),
    ]);
    expect(belief.byPart[0]!.ref).toBe('R1.1~R2.1');
    expect(belief.byPart[0]!.probability).toBeGreaterThan(0.9);
  });
});
