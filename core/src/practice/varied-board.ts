import type { Board, Part } from '../board';
import { DEFAULT_TOLERANCE, ESR_SPREAD } from '../device';
import {
  combinedSpread,
  logicLevel,
  ohmRange,
  type Measurement,
  type ReadingValue,
  type Response,
} from '../instrument';

/**
 * A source of random numbers, uniform in 0 … 1 (both ends left out). Randomness is always given
 * from outside, so that every run can be repeated.
 */
export type Random = () => number;

/**
 * A repeatable source. Source: the "minimal standard" generator, Park & Miller, CACM 31, 1988.
 * seed: a whole number above zero.
 */
export function seeded(seed: number): Random {
  let state = seed % 2147483647 || 1;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** Standard normal, cut at `cut` deviations. Source: Box & Muller, Ann. Math. Stat. 29, 1958. */
export function normal(random: Random, cut = 2): number {
  for (;;) {
    const value = Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
    if (Math.abs(value) <= cut) return value;
  }
}

/**
 * The same board with every value somewhere within its tolerance: Gaussian with half the tolerance
 * as deviation, cut at the tolerance; ESR, saturation current and gain lognormal. Source of the
 * spreads: the core's outside interface, "Conventions".
 */
export function variedBoard(board: Board, random: Random): Board {
  const scale = (tolerance: number): number => 1 + (tolerance / 2) * normal(random);
  const spread = (sigma: number): number => Math.exp(sigma * normal(random, 4));
  const parts = board.parts.map((part): Part => {
    switch (part.kind) {
      case 'resistor':
        return {
          ...part,
          resistanceOhm: part.resistanceOhm * scale(part.tolerance ?? DEFAULT_TOLERANCE.resistor),
        };
      case 'capacitor': {
        const capacitanceFarad =
          part.capacitanceFarad * scale(part.tolerance ?? DEFAULT_TOLERANCE.capacitor);
        return {
          ...part,
          capacitanceFarad,
          ...(part.esrOhm ? { esrOhm: part.esrOhm * spread(ESR_SPREAD) } : {}),
        };
      }
      case 'inductor':
      case 'winding':
        return part.dcResistanceOhm
          ? {
              ...part,
              dcResistanceOhm: part.dcResistanceOhm * scale(DEFAULT_TOLERANCE.dcResistance),
            }
          : part;
      case 'diode': {
        const { model } = part;
        const breakdown = model.breakdownVolt
          ? { breakdownVolt: model.breakdownVolt * scale(0.05) }
          : {};
        return {
          ...part,
          model: {
            ...model,
            saturationCurrentAmpere: model.saturationCurrentAmpere * spread(0.2),
            ...breakdown,
          },
        };
      }
      case 'transistor': {
        const { model } = part;
        return {
          ...part,
          model: {
            ...model,
            forwardGain: model.forwardGain * spread(0.25),
            saturationCurrentAmpere: model.saturationCurrentAmpere * spread(0.2),
          },
        };
      }
      default:
        return part;
    }
  });
  return { ...board, parts };
}

/**
 * What a person reads off an instrument that answers like this: the meter's own error on top, a
 * category where the instrument gives one. Undefined where the answer rests on what nobody knows.
 */
export function readOff(
  m: Measurement,
  response: Response,
  random: Random,
): ReadingValue | undefined {
  const { value, unknown, pulsing } = response;
  if (unknown) return undefined;
  if (m.kind === 'symptom') return value >= 0.5 ? 'yes' : 'no';
  if (m.kind === 'logic') return pulsing ? 'P' : logicLevel(value);
  if (m.kind === 'continuity') return value < 30 ? 'beep' : 'open';
  if (!Number.isFinite(value)) return 'OL';
  const noisy = value + combinedSpread(m.kind, { ...response, spread: 0 }) * normal(random);
  if (m.kind === 'resistance' && ohmRange(noisy) === Infinity) return 'OL';
  return Number(
    (m.kind === 'resistance' || m.kind === 'esr' ? Math.max(0, noisy) : noisy).toPrecision(4),
  );
}
