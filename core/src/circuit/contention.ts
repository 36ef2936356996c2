import { DRIVE, type Network } from './network';
import type { MixedSignalSolution } from './mixed-signal-solution';

/** A net that outputs pull both ways at once, with the pins that pull. */
export interface Contention {
  readonly net: string;
  readonly low: readonly string[];
  readonly high: readonly string[];
}

/**
 * Every net on which outputs are against each other in the same phase. Open outputs that merely
 * pull low are not against a pull-up.
 */
export function contentions(
  network: Network,
  { drives }: MixedSignalSolution,
): readonly Contention[] {
  const found = new Map<number, Contention>();
  for (const states of drives) {
    const pulls = new Map<number, { low: string[]; high: string[] }>();
    for (const { logic, outputs } of network.chips) {
      outputs.forEach(({ node, driver }, i) => {
        if (states[driver] === DRIVE.off) return;
        const entry = pulls.get(node) ?? { low: [], high: [] };
        pulls.set(node, entry);
        entry[states[driver] === DRIVE.low ? 'low' : 'high'].push(
          `${logic.ref}.${logic.outputs[i]!.pin + 1}`,
        );
      });
    }
    for (const [node, { low, high }] of pulls) {
      if (low.length > 0 && high.length > 0)
        found.set(node, { net: node < 0 ? '0' : network.nodeNames[node]!, low, high });
    }
  }
  return [...found.values()];
}
