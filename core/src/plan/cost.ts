import { powerOf, type Setup } from '../board';
import type { ReadingKind } from '../instrument';

/** What work costs, minutes. From memory of bench practice; a workshop may set its own. */
export interface CostTable {
  readonly reading: Readonly<Record<ReadingKind, number>>;
  /** Switching off, waiting for the stores to empty and checking that they have. */
  readonly powerDown: number;
  readonly powerUp: number;
  /** Unplugging or plugging the loads. */
  readonly loads: number;
  /** Taking a part out and putting another in. */
  readonly replace: number;
  /**
   * Finding out, after a wrong replacement, that it was one: reassembly, power, the same symptom
   * again.
   */
  readonly wrongReplacement: number;
}

export const DEFAULT_COSTS: CostTable = {
  reading: {
    voltage: 0.5,
    resistance: 0.5,
    continuity: 0.4,
    diode: 0.6,
    esr: 0.8,
    logic: 0.4,
    current: 4,
    symptom: 1,
  },
  powerDown: 2,
  powerUp: 1,
  loads: 1.5,
  replace: 15,
  wrongReplacement: 30,
};

/** Minutes from one setup to another. */
export function setupMinutes(from: Setup, to: Setup, costs: CostTable): number {
  const [before, after] = [powerOf(from), powerOf(to)];
  const switching = before === after ? 0 : after === 'on' ? costs.powerUp : costs.powerDown;
  const special = [from, to].some((setup) => setup !== 'on' && setup !== 'off');
  return switching + (special && from !== to ? costs.loads : 0);
}
