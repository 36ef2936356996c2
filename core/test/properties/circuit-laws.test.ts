import { describe, expect, it } from 'vitest';
import { operatingPoint, buildNetwork, toleranceSpread } from '../../src/circuit';
import { stateElements } from '../../src/fault';
import { board, boardFile, respond, volts } from '../boards';

describe('laws of circuits', () => {
  it('the currents into every net of a board sum to zero', () => {
    const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
    const sums = new Map<string, number>();
    const known = index.board.parts.filter(
      (part) => part.pins.length === 2 && part.kind !== 'capacitor',
    );
    for (const part of known) {
      const ampere = respond(index, 'current', part.ref).value;
      sums.set(part.pins[0]!, (sums.get(part.pins[0]!) ?? 0) - ampere);
      sums.set(part.pins[1]!, (sums.get(part.pins[1]!) ?? 0) + ampere);
    }
    const transistorNets = new Set(
      index.board.parts.filter((part) => part.kind === 'transistor').flatMap((part) => part.pins),
    );
    const checked = [...sums].filter(([net]) => net !== '0' && !transistorNets.has(net));
    expect(checked.length).toBeGreaterThan(10);
    for (const [net, sum] of checked) expect(Math.abs(sum), net).toBeLessThan(1e-8);
  });

  it('a linear network obeys superposition', () => {
    const text = (a: number, b: number): string =>
      `V1 A 0 ${a}\nI1 0 C ${b}\nR1 A B 1k\nR2 B C 2k\nR3 C 0 3k\nR4 B 0 4.7k`;
    const [one, two, both] = [
      volts(board(text(5, 0))),
      volts(board(text(0, 2e-3))),
      volts(board(text(5, 2e-3))),
    ];
    for (const net of ['B', 'C']) expect(one[net]! + two[net]!).toBeCloseTo(both[net]!, 9);
  });

  it('the adjoint spread agrees with 2,000 random boards within 10 %', () => {
    const index = board(
      'V1 IN 0 12\nR1 IN A 1k\n*@ R1 tol=10%\nR2 A 0 2.2k\nR3 A OUT 470\nR4 OUT 0 3.3k\n*@ R4 tol=1%\nR5 IN OUT 10k',
    );
    const elements = stateElements(index, { setup: 'on', faults: [], absent: [] });
    let seed = 7;
    const uniform = (): number => (seed = (seed * 48271) % 2147483647) / 2147483647;
    const normal = (): number =>
      Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
    const samples = Array.from({ length: 2000 }, () => {
      const network = buildNetwork(
        elements.map((e) =>
          e.type === 'conductance'
            ? { ...e, siemens: e.siemens / (1 + e.spread * Math.max(-2, Math.min(2, normal()))) }
            : e,
        ),
      );
      const result = operatingPoint(network);
      return result.ok ? result.x[network.nodeIndex.get('out')!]! : NaN;
    });
    const mean = samples.reduce((a, b) => a + b, 0) / samples.length;
    const sigma = Math.sqrt(
      samples.reduce((sum, x) => sum + (x - mean) ** 2, 0) / (samples.length - 1),
    );
    const network = buildNetwork(elements);
    const result = operatingPoint(network);
    if (!result.ok) throw new Error('no operating point');
    const adjoint = new Float64Array(network.size);
    adjoint[network.nodeIndex.get('out')!] = 1;
    network.lu.solveTransposed(adjoint, adjoint);
    // The cut at the tolerance limit takes 12 % off a Gaussian's sigma (0.880); the adjoint figure
    // is for the uncut one.
    expect(toleranceSpread(network, result.x, adjoint) * 0.88).toBeGreaterThan(sigma * 0.9);
    expect(toleranceSpread(network, result.x, adjoint) * 0.88).toBeLessThan(sigma * 1.1);
  });

  it('names what has no path to ground instead of guessing it', () => {
    const net = volts(board('V1 A 0 5\nR1 A 0 1k\nC1 A B 1u\nR2 B C 1k'));
    expect(net).toMatchObject({ A: 5, B: null, C: null });
  });

  it('reports a loop of ideal sources by the nets it is on', () => {
    expect(() => volts(board('V1 A 0 5\nV2 A 0 6\nR1 A 0 1k'))).toThrow('loop of ideal sources');
  });
});
