import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import { elementsOf, evaluateLaw, type Element, type Law } from '../../src/device';
import { seeded } from '../../src/practice';
import { demoBoard } from '@hanzai/data/demo';

const STEP_VOLT = 1e-5;
/** Points of each law that are tried, and the volts between which its controls lie. */
const POINTS = 400;
const SPAN_VOLT = [-2, 14] as const;

type LawElement = Extract<Element, { type: 'law' }>;

/** Every law of the demo boards, one of each part's kind and model; with the limit of an amplifier's output, ampere. */
function laws(): Map<string, { element: LawElement; limit: number }> {
  const found = new Map<string, { element: LawElement; limit: number }>();
  for (const name of ['pd3If', 'pd3Rw', 'cr40Whole', 'yc2Whole', 'tl9'] as const) {
    for (const part of indexBoard(demoBoard(name)).board.parts) {
      const model = 'model' in part ? part.model.name : '';
      const limit = part.kind === 'amplifier' ? part.model.limitAmpere : Infinity;
      elementsOf(part).forEach((element) => {
        if (element.type === 'law') found.set(`${part.kind} ${model} ${element.law.kind} ${element.controls.length}`, { element, limit });
      });
    }
  }
  return found;
}

function ampereAt(law: Law, volts: Float64Array): number {
  const out = new Float64Array(10);
  evaluateLaw(law, volts, out);
  return out[0]!;
}

// The search for an operating point, the spread of a reading and the search beside a known board all go by the slopes that a law states. Definition of the derivative.
describe('the slopes that a law states', () => {
  const all = [...laws()];
  it('there are laws of every kind', () => expect(new Set(all.map(([, { element }]) => element.law.kind))).toEqual(new Set(['drop', 'ttl', 'free'])));

  it.each(all)('%s: are those of its current', (_, { element: { law, controls }, limit }) => {
    const uniform = seeded(20261125);
    const out = new Float64Array(10);
    const wrong: string[] = [];
    let tried = 0;
    for (let point = 0; point < POINTS; point += 1) {
      const volts = Float64Array.from(controls, () => SPAN_VOLT[0] + uniform() * (SPAN_VOLT[1] - SPAN_VOLT[0]));
      evaluateLaw(law, volts, out);
      const here = out[0]!;
      // Beyond a limit an output stage goes by the chord to zero current: the only slope that is meant to be another one.
      const alive = controls.length === 5 ? Math.min(1, volts[3]! - volts[4]! - 2) : 1;
      if (Math.abs(here) >= 0.999 * alive * (law.kind === 'drop' ? law.limitAmpere : limit)) continue;
      const slopes = out.slice(2, 2 + controls.length);
      for (let c = 0; c < controls.length; c += 1) {
        const [less, more] = [-STEP_VOLT, STEP_VOLT].map((step) => {
          const beside = volts.slice();
          beside[c]! += step;
          return ampereAt(law, beside);
        }) as [number, number];
        const bend = Math.abs(more - 2 * here + less);
        const rise = (more - less) / (2 * STEP_VOLT);
        // Next to a corner there is no derivative.
        if (bend > 1e-6 * (Math.abs(more - less) + 1e-12)) continue;
        tried += 1;
        if (Math.abs(rise - slopes[c]!) > 1e-4 * Math.abs(rise) + 1e-9)
          wrong.push(`${[...volts].map((v) => v.toFixed(3)).join(' ')}, control ${c}: ${slopes[c]} against ${rise}`);
      }
    }
    expect(wrong.slice(0, 5)).toEqual([]);
    expect(tried).toBeGreaterThan(POINTS / 20);
  });
});
