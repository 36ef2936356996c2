import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  buildNetwork,
  factorJacobian,
  impedance,
  impedanceAfter,
  PatternBuilder,
  RankOne,
  smallSignal,
  SparseLu,
  BaseLinearisation,
} from '../../src/circuit';
import type { Element } from '../../src/device';

/** A random connected network: a spanning chain and extra branches between random nodes. */
const network = fc
  .record({
    nodes: fc.integer({ min: 3, max: 25 }),
    extra: fc.array(fc.tuple(fc.nat(1000), fc.nat(1000)), { maxLength: 40 }),
    ohms: fc.array(fc.double({ min: 10, max: 1e4, noNaN: true }), { minLength: 70, maxLength: 70 }),
  })
  .map(({ nodes, extra, ohms }) => {
    const name = (i: number): string => (i === 0 ? '0' : `n${i}`);
    const pairs = [
      ...Array.from({ length: nodes - 1 }, (_, i) => [i, i + 1] as const),
      ...extra.map(([p, q]) => [p % nodes, q % nodes] as const),
    ].filter(([p, q]) => p !== q);
    const elements = pairs.map(([p, q], i): Element => ({
      type: 'conductance',
      a: name(p),
      b: name(q),
      siemens: 1 / ohms[i]!,
      spread: 0.025,
    }));
    return { nodes, elements };
  });

const RELATIVE = 1e-9;

describe('short ways against long ways', () => {
  it('the rank-one update agrees with a full solve to 1e-9', () => {
    fc.assert(
      fc.property(
        network,
        fc.nat(1000),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        ({ nodes, elements }, which, factor) => {
          const target = elements[which % elements.length]! as Extract<
            Element,
            { type: 'conductance' }
          >;
          const base = buildNetwork(elements);
          const index = (net: string): number => (net === '0' ? -1 : base.nodeIndex.get(net)!);
          const far = index(`n${nodes - 1}`);
          const updated = new RankOne(
            new BaseLinearisation(base, new Uint8Array(), new Float64Array(base.size)),
          ).responseAfter(
            far,
            -1,
            index(target.a),
            index(target.b),
            target.siemens * factor - target.siemens,
          );
          const full = buildNetwork(
            elements.map((e) =>
              e === target ? { ...target, siemens: target.siemens * factor } : e,
            ),
          );
          factorJacobian(full, new Float64Array(full.size));
          const unit = new Float64Array(full.size);
          unit[full.nodeIndex.get(`n${nodes - 1}`)!] = 1;
          full.lu.solve(unit, unit);
          const scale = Math.max(...unit.map(Math.abs));
          unit.forEach((volt, i) =>
            expect(Math.abs(volt - updated[i]!)).toBeLessThanOrEqual(RELATIVE * scale),
          );
        },
      ),
      { seed: 20261, numRuns: 200 },
    );
  });

  it('the updated impedance agrees with a full solve', () => {
    fc.assert(
      fc.property(
        network,
        fc.nat(1000),
        fc.double({ min: 1e-9, max: 1e-4, noNaN: true }),
        fc.double({ min: 2, max: 300, noNaN: true }),
        ({ nodes, elements }, which, farad, factor) => {
          const spot = elements[which % elements.length]! as Extract<
            Element,
            { type: 'conductance' }
          >;
          const healthy: Element = {
            type: 'capacitance',
            a: spot.a,
            b: spot.b,
            farad,
            ohm: 0.1,
            spread: 0.1,
            ohmSpread: 0.25,
          };
          const faulty: Element = { ...healthy, ohm: 0.1 * factor };
          const far = `n${nodes - 1}`;
          const updated = impedanceAfter(
            smallSignal([...elements, healthy], 1e5),
            far,
            '0',
            { a: spot.a, b: spot.b, before: [healthy], after: [faulty] },
            1e5,
          )!;
          const full = impedance(smallSignal([...elements, faulty], 1e5), far, '0')!;
          expect(Math.hypot(updated.re - full.re, updated.im - full.im)).toBeLessThanOrEqual(
            RELATIVE * Math.hypot(full.re, full.im),
          );
        },
      ),
      { seed: 20262, numRuns: 100 },
    );
  });

  it('sparse LU agrees with Gaussian elimination on random unsymmetric matrices, both ways round and refactored', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 20 }),
        fc.infiniteStream(fc.double({ min: -1, max: 1, noNaN: true })),
        (n, stream) => {
          const draw = (): number => stream.next().value as number;
          const builder = new PatternBuilder(n);
          const dense = Array.from({ length: n }, () => new Float64Array(n));
          const entries: [number, number, number][] = [];
          for (let i = 0; i < n; i += 1)
            for (let j = 0; j < n; j += 1)
              if (i === j || draw() > 0.6) entries.push([builder.add(i, j), i, j]);
          const { pattern, place } = builder.finish();
          const lu = new SparseLu(pattern);
          for (let round = 0; round < 2; round += 1) {
            const values = new Float64Array(pattern.row.length);
            for (const [slot, i, j] of entries)
              values[place[slot]!] = dense[i]![j] = draw() + (i === j ? 3 : 0);
            if (lu.factor(values)) return;
            const b = Float64Array.from({ length: n }, draw);
            const [x, t] = [new Float64Array(n), new Float64Array(n)];
            lu.solve(b, x);
            lu.solveTransposed(b, t);
            for (let i = 0; i < n; i += 1) {
              const row = dense[i]!.reduce((sum, a, j) => sum + a * x[j]!, 0);
              const column = dense.reduce((sum, r, j) => sum + r[i]! * t[j]!, 0);
              expect(Math.abs(row - b[i]!)).toBeLessThan(1e-7 * (1 + Math.max(...x.map(Math.abs))));
              expect(Math.abs(column - b[i]!)).toBeLessThan(
                1e-7 * (1 + Math.max(...t.map(Math.abs))),
              );
            }
          }
        },
      ),
      { seed: 20263, numRuns: 200 },
    );
  });
});
