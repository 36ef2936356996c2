import { across } from './operating-point';
import { push, wayToThreshold } from './levels';
import type { LogicStamp, Network } from './network';
import { oncePer } from '../once-per';

/**
 * The chips that look at each node, as an input or for their supply, by node; and those whose
 * inputs look for a level on a node that nothing may hold.
 */
export interface FanOut {
  readonly at: readonly (readonly number[] | undefined)[];
  readonly openInputs: ReadonlyMap<number, readonly number[]>;
}

/** Who looks at what, kept with the chips. */
export const fanOut = oncePer(
  ({ chips }: Network): FanOut => {
    const at: number[][] = [];
    const openInputs = new Map<number, number[]>();
    chips.forEach((chip, c) => {
      for (const node of new Set(watchedBy(chip))) if (node >= 0) (at[node] ??= []).push(c);
      if (chip.logic.family.input.type === 'mos')
        for (const node of new Set(chip.inputs.map((input) => input.node)))
          push(openInputs, node, c);
    });
    return { at, openInputs };
  },
  ({ chips }) => chips,
);

function watchedBy({ supply, ground, inputs }: LogicStamp): readonly number[] {
  return [
    supply,
    ground,
    ...inputs.flatMap(({ node, against }) => (against === undefined ? [node] : [node, against])),
  ];
}

/**
 * How far each node may move from this point, all at once, with no chip that looks at it seeing
 * anything else. Unit: volt; infinite where none looks.
 */
export function levelSlacks(network: Network, x: Float64Array): Float64Array {
  const slacks = new Float64Array(network.size).fill(Infinity);
  const allow = (node: number, volt: number): void => {
    if (node >= 0) slacks[node] = Math.min(slacks[node]!, volt);
  };
  for (const chip of network.chips) {
    const { logic, supply, ground, inputs } = chip;
    const fed = across(x, supply, ground);
    let least = Math.abs(fed - logic.family.supplyLeastVolt) / 2;
    inputs.forEach(({ node, against }, i) => {
      const { stuck, schmitt } = logic.inputs[i]!;
      if (stuck !== undefined) return;
      const way =
        against === undefined
          ? wayToThreshold(logic, schmitt, across(x, node, ground), fed)
          : Math.abs(across(x, node, against));
      // The node, the ground twice over and the supply have a part in it.
      allow(node, way / 4);
      if (against === undefined) least = Math.min(least, way / 4);
      else allow(against, way / 4);
    });
    allow(supply, least);
    allow(ground, least);
  }
  return slacks;
}
