import type { Part } from '../board';
import { conductance, type Element } from './element';
import type { DeviceKind } from './kind';
import { LIMITED_SLOPE, type FreeCharacteristic } from './characteristic';
import { SEVERITY } from './severity';

type Regulator = Extract<Part, { kind: 'regulator' }>;

/** Ohms of a regulator's output while it regulates. From memory of common data sheets. */
const OUTPUT_OHM = 0.03;
/**
 * Spread of the regulated voltage between parts (2 %), and of the drop-out, volt. From memory of
 * common data sheets.
 */
const SPREAD = { share: 0.02, dropoutVolt: 0.2 } as const;
/** The substrate diode from output to input. */
const REVERSE = { volt: 0.7, siemens: 1 } as const;

/**
 * Current from input to output: what holds the output at its voltage, as far as the drop-out and
 * the current limit allow. A regulator gives current and takes none. Controls: in, out, ground.
 * sign: -1 for a negative one.
 */
function regulatorCharacteristic(
  volt: number,
  dropout: number,
  limit: number,
  sign: 1 | -1,
): FreeCharacteristic {
  const siemens = 1 / OUTPUT_OHM;
  const at: FreeCharacteristic['at'] = (v, out) => {
    const [input, output, ground] = [sign * v[0]!, sign * v[1]!, sign * v[2]!];
    const wanted = (ground + volt - output) * siemens;
    const left = (input - dropout - output) * siemens;
    const byLeft = left < wanted;
    let ampere = Math.min(wanted, left);
    let slopes: readonly [number, number, number] = byLeft
      ? [siemens, -siemens, 0]
      : [0, -siemens, siemens];
    let spread = siemens * (byLeft ? SPREAD.dropoutVolt : SPREAD.share * volt);
    if (ampere > limit) {
      const beyond = OUTPUT_OHM * (ampere - limit);
      ampere = limit * (1 + LIMITED_SLOPE * beyond);
      slopes = byLeft
        ? [limit * LIMITED_SLOPE, -limit * LIMITED_SLOPE, 0]
        : [0, -limit * LIMITED_SLOPE, limit * LIMITED_SLOPE];
      spread = 0.1 * limit;
    } else if (ampere < 0) {
      const back = output - input - REVERSE.volt;
      const slope = back > 0 ? REVERSE.siemens : 0;
      ampere = -slope * back;
      slopes = [slope, -slope, 0];
      spread = 0;
    }
    out[0] = sign * ampere;
    out[1] = spread;
    out[2] = slopes[0];
    out[3] = slopes[1];
    out[4] = slopes[2];
  };
  const driven = (v: Float64Array): number =>
    Math.min(sign * v[2]! + volt, sign * v[0]! - dropout) - sign * v[1]!;
  const driveLess = (v: Float64Array, by: number): void => void (v[1] = v[1]! + sign * by);
  return { kind: 'free', at, limit: { cornerVolt: limit * OUTPUT_OHM, driven, driveLess } };
}

export const regulator: DeviceKind<'regulator'> = {
  kind: 'regulator',
  elements: (part) => {
    const { input, output, ground } = nodes(part);
    const { volt, dropoutVolt, limitAmpere, quiescentAmpere, polarity } = part.model;
    const characteristic = regulatorCharacteristic(
      volt,
      dropoutVolt,
      limitAmpere,
      polarity === 'positive' ? 1 : -1,
    );
    return [
      {
        type: 'characteristic',
        a: input,
        b: output,
        controls: [input, output, ground],
        characteristic,
        holds: true,
      },
      conductance(input, ground, (volt + dropoutVolt + 2) / quiescentAmpere, 0.3),
    ];
  },
  modes: (part) => {
    const { input, output, ground } = nodes(part);
    const without = (all: readonly Element[]): readonly Element[] =>
      all.filter((element) => element.type !== 'characteristic');
    return [
      {
        name: 'open',
        effect: 'open',
        severity: { low: 1, high: 1 },
        changesDc: true,
        change: without,
      },
      {
        name: 'short',
        effect: 'short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...without(all), conductance(input, output, ohm)],
      },
      {
        name: 'short-out',
        effect: 'short',
        severity: SEVERITY.short,
        changesDc: true,
        change: (all, ohm) => [...all, conductance(output, ground, ohm)],
      },
      {
        name: 'low-output',
        severity: { low: 0.4, high: 0.85 },
        changesDc: true,
        change: (all, share) => weaken(part, all, share),
      },
    ];
  },
};

function nodes(part: Regulator): { input: string; output: string; ground: string } {
  const at = (role: 'in' | 'out' | 'ground'): string => part.pins[part.model.roles.indexOf(role)]!;
  return { input: at('in'), output: at('out'), ground: at('ground') };
}

function weaken(part: Regulator, all: readonly Element[], share: number): readonly Element[] {
  const { volt, dropoutVolt, limitAmpere, polarity } = part.model;
  const characteristic = regulatorCharacteristic(
    volt * share,
    dropoutVolt,
    limitAmpere,
    polarity === 'positive' ? 1 : -1,
  );
  return all.map((element) =>
    element.type === 'characteristic' ? { ...element, characteristic } : element,
  );
}
