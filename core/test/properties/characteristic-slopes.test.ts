import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import {
  elementsOf,
  evaluateCharacteristic,
  characteristicSlack,
  characteristicStraight,
  type Element,
  type Characteristic,
} from '../../src/device';
import { seeded } from '../../src/practice';
import { demoBoard } from '@hanzai/data/demo';

const STEP_VOLT = 1e-5;
/** Points of each law that are tried, and the volts between which its controls lie. */
const POINTS = 400;
const SPAN_VOLT = [-2, 14] as const;

type CharacteristicElement = Extract<Element, { type: 'characteristic' }>;

/**
 * Every law of the demo boards, one of each part's kind and model; with the limit of an amplifier's
 * output, ampere.
 */
function characteristics(): Map<string, { element: CharacteristicElement; limit: number }> {
  const found = new Map<string, { element: CharacteristicElement; limit: number }>();
  for (const name of ['pd3If', 'pd3Rw', 'cr40Whole', 'yc2Whole', 'tl9'] as const) {
    for (const part of indexBoard(demoBoard(name)).board.parts) {
      const model = 'model' in part ? part.model.name : '';
      const limit = part.kind === 'amplifier' ? part.model.limitAmpere : Infinity;
      elementsOf(part).forEach((element) => {
        if (element.type === 'characteristic')
          found.set(
            `${part.kind} ${model} ${element.characteristic.kind} ${element.controls.length}`,
            {
              element,
              limit,
            },
          );
      });
    }
  }
  return found;
}

function ampereAt(characteristic: Characteristic, volts: Float64Array): number {
  const out = new Float64Array(10);
  evaluateCharacteristic(characteristic, volts, out);
  return out[0]!;
}

// The search for an operating point, the spread of a reading and the search beside a known board
// all go by the slopes that a law states. Definition of the derivative.
describe('the slopes that a law states', () => {
  const all = [...characteristics()];
  it('there are laws of every kind', () =>
    expect(new Set(all.map(([, { element }]) => element.characteristic.kind))).toEqual(
      new Set(['drop', 'ttl', 'free']),
    ));

  it.each(all)(
    '%s: are those of its current',
    (_, { element: { characteristic, controls }, limit }) => {
      const uniform = seeded(20261125);
      const out = new Float64Array(10);
      const wrong: string[] = [];
      let tried = 0;
      for (let point = 0; point < POINTS; point += 1) {
        const volts = Float64Array.from(
          controls,
          () => SPAN_VOLT[0] + uniform() * (SPAN_VOLT[1] - SPAN_VOLT[0]),
        );
        evaluateCharacteristic(characteristic, volts, out);
        const here = out[0]!;
        // Beyond a limit an output stage goes by the chord to zero current: the only slope that is
        // meant to be another one.
        const alive = controls.length === 5 ? Math.min(1, volts[3]! - volts[4]! - 2) : 1;
        if (
          Math.abs(here) >=
          0.999 * alive * (characteristic.kind === 'drop' ? characteristic.limitAmpere : limit)
        )
          continue;
        const slopes = out.slice(2, 2 + controls.length);
        for (let c = 0; c < controls.length; c += 1) {
          const [less, more] = [-STEP_VOLT, STEP_VOLT].map((step) => {
            const beside = volts.slice();
            beside[c]! += step;
            return ampereAt(characteristic, beside);
          }) as [number, number];
          const bend = Math.abs(more - 2 * here + less);
          const rise = (more - less) / (2 * STEP_VOLT);
          // Next to a corner there is no derivative.
          if (bend > 1e-6 * (Math.abs(more - less) + 1e-12)) continue;
          tried += 1;
          if (Math.abs(rise - slopes[c]!) > 1e-4 * Math.abs(rise) + 1e-9)
            wrong.push(
              `${[...volts].map((v) => v.toFixed(3)).join(' ')}, control ${c}: ${slopes[c]} against ${rise}`,
            );
        }
      }
      expect(wrong.slice(0, 5)).toEqual([]);
      expect(tried).toBeGreaterThan(POINTS / 20);
    },
  );
});

/** How far a range without an end is tried, volt. */
const FAR_VOLT = 5;
/** Points that are tried within what a law names, and how many of them lie at the very ends. */
const WITHIN = 12;
const AT_AN_END = 0.3;

// Searches do not ask a law again that stays within what it names: there it must be straight to the
// last digit. By the law itself, worked out anew.
describe('a law runs straight as far as it says', () => {
  const all = [...characteristics()];
  const roomy: string[] = [];

  it.each(all)('%s', (name, { element: { characteristic, controls } }) => {
    const uniform = seeded(20261126);
    const out = new Float64Array(10);
    const wrong: string[] = [];
    const between = (low: number, high: number): number => {
      const end = uniform();
      return end < AT_AN_END / 2 ? low : end < AT_AN_END ? high : low + uniform() * (high - low);
    };
    for (let point = 0; point < POINTS; point += 1) {
      const volts = Float64Array.from(
        controls,
        () => SPAN_VOLT[0] + uniform() * (SPAN_VOLT[1] - SPAN_VOLT[0]),
      );
      // An amplifier at rest has its inputs together, or it would always be at a rail.
      if (controls.length === 5 && point % 2 === 0) volts[0] = volts[1]! + (uniform() - 0.5) * 1e-4;
      const ranges = characteristicStraight(characteristic, volts);
      const slack = characteristicSlack(characteristic, volts);
      evaluateCharacteristic(characteristic, volts, out);
      const [here, slopes] = [out[0]!, out.slice(2, 2 + controls.length)];
      const check = (there: Float64Array, how: string): void => {
        const terms = [...slopes].map((slope, c) => slope * (there[c]! - volts[c]!));
        const straight = terms.reduce((sum, term) => sum + term, here);
        const size = terms.reduce((sum, term) => sum + Math.abs(term), Math.abs(here));
        if (Math.abs(ampereAt(characteristic, there) - straight) > 1e-9 * size + 1e-15)
          wrong.push(`${how} from ${[...volts].join(' ')} to ${[...there].join(' ')}`);
      };
      for (let i = 0; i < WITHIN; i += 1) {
        if (ranges.length > 0) {
          const there = volts.map((volt) => volt + FAR_VOLT * (uniform() - 0.5));
          for (const { plus, minus, low, high } of ranges) {
            const difference = volts[plus]! - volts[minus]!;
            there[plus] =
              there[minus]! +
              between(Math.max(low, difference - FAR_VOLT), Math.min(high, difference + FAR_VOLT));
          }
          check(there, 'ranges');
          roomy.push(name);
        }
        if (slack > 0)
          check(
            volts.map((volt) => volt + between(-1, 1) * (1 - 1e-9) * Math.min(slack, FAR_VOLT)),
            'slack',
          );
      }
    }
    expect(wrong.slice(0, 5)).toEqual([]);
  });

  it('clamps, output stages and amplifiers name such ranges', () => {
    for (const kind of ['drop', 'amplifier'])
      expect([kind, roomy.some((name) => name.includes(kind))]).toEqual([kind, true]);
  });
});
