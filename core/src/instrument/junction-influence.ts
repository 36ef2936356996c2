import { across, THERMAL_VOLT, type Network } from '../circuit';

/** A linear answer is kept where junctions take less than this share of the test current. */
const LINEAR_ENOUGH = 1e-4;
/**
 * Where the linear answer is above the range, junctions must take this share before they could hold
 * the voltage inside it.
 */
const COULD_CLAMP = 0.1;

/** Whether junction current at this test current could change the answer, or which range is taken.
 * response: volts of the linear network for one ampere into a and out of b. */
export function junctionsMatter(
  network: Network,
  response: Float64Array,
  a: number,
  b: number,
  ampere: number,
  voltLimit: number,
): boolean {
  const { junctions, transistors } = network;
  const ohm = across(response, a, b);
  const scale = Math.min(ampere, voltLimit / Math.max(ohm, 1e-12));
  let current = 0;
  const add = (saturation: number, emission: number, volt: number): void => {
    if (volt > 0)
      current += saturation * Math.expm1(Math.min(volt / (emission * THERMAL_VOLT), 100));
  };
  for (const {
    a: anode,
    b: cathode,
    element: { model },
  } of junctions)
    add(
      model.saturationCurrentAmpere,
      model.emissionCoefficient,
      scale * across(response, anode, cathode),
    );
  for (const {
    nodes: [collector, base, emitter],
    element: { model },
  } of transistors) {
    const sign = model.polarity === 'npn' ? scale : -scale;
    add(
      model.saturationCurrentAmpere,
      model.forwardEmission,
      sign * across(response, base, emitter),
    );
    add(
      model.saturationCurrentAmpere * (1 + 1 / model.reverseGain),
      model.reverseEmission,
      sign * across(response, base, collector),
    );
  }
  return current > ampere * (ohm * ampere > voltLimit ? COULD_CLAMP : LINEAR_ENOUGH);
}
