import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { buildNetwork, impedance, nodeOf, operatingPoint, smallSignal } from '../../src/circuit';
import { elementsOf } from '../../src/device';
import { board } from '../boards';

// Source: ngspice, Debian package, on circuits drawn at random; recorded by
// scripts/reference-random.mjs.
const { simulator, models, points, impedances } = JSON.parse(
  readFileSync(new URL('./random-circuits.json', import.meta.url), 'utf8'),
) as {
  readonly simulator: string;
  readonly models: string;
  readonly points: readonly {
    readonly deck: string;
    readonly volts: Readonly<Record<string, number>>;
  }[];
  readonly impedances: readonly {
    readonly deck: string;
    readonly at: string;
    readonly to: string;
    readonly re: number;
    readonly im: number;
  }[];
};

/** Circuits with two states of rest. */
const TWO_STATES: readonly number[] = [45];

/** The ESR meter's frequency, hertz. */
const FREQUENCY = 100_000;

describe(`circuits drawn at random against ${simulator}`, () => {
  it('there are many of them, with parts of every kind', () => {
    expect(Math.min(points.length, impedances.length)).toBeGreaterThanOrEqual(50);
    for (const kind of 'VIRLDQ')
      expect([
        kind,
        points.some(({ deck }) => deck.includes(`\n${kind}`) || deck.startsWith(kind)),
      ]).toEqual([kind, true]);
    for (const kind of 'RLC')
      expect([kind, impedances.some(({ deck }) => deck.includes(`\n${kind}`))]).toEqual([
        kind,
        true,
      ]);
  });

  it.each(points.map(({ deck, volts: theirs }, i) => [i + 1, deck, theirs] as const))(
    'operating point %i within 1 mV + 0.1 %%',
    (i, deck, theirs) => {
      const index = board(`${deck}\n${models}`);
      const network = buildNetwork(
        index.board.parts.flatMap((part) => elementsOf(part)),
        index.nets,
      );
      const nets = index.nets.filter((net) => net in theirs);
      expect(nets.length).toBeGreaterThan(3);
      const solved = (start: Float64Array): readonly string[] => {
        const point = operatingPoint(network, { start });
        if (!point.ok) return [`${point.why} at ${point.at}`];
        const ours = (net: string): number => point.x[nodeOf(network, net)!]!;
        return nets
          .filter(
            (net) => !(Math.abs(ours(net) - theirs[net]!) <= 1e-3 + 1e-3 * Math.abs(theirs[net]!)),
          )
          .map((net) => `${net}: ${ours(net)} against ${theirs[net]}`);
      };
      // Where the simulator came to, this engine stays.
      const there = new Float64Array(network.size);
      for (const net of nets) there[nodeOf(network, net)!] = theirs[net]!;
      expect(solved(there)).toEqual([]);
      // And from the dark it comes there too, but for a pair of transistors that hold each other,
      // on or off.
      if (!TWO_STATES.includes(i)) expect(solved(new Float64Array(network.size))).toEqual([]);
    },
  );

  it.each(impedances.map((one, i) => [i + 1, one] as const))(
    'impedance %i within 0.1 %%',
    (_, { deck, at, to, re, im }) => {
      const elements = board(deck).board.parts.flatMap((part) => elementsOf(part));
      const ours = impedance(smallSignal(elements, FREQUENCY), at, to)!;
      const size = Math.hypot(re, im);
      expect(
        [Math.abs(ours.re - re) / size, Math.abs(ours.im - im) / size].map((share) => share < 1e-3),
      ).toEqual([true, true]);
    },
  );
});
