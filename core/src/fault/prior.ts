import { z } from 'zod';
import type { BoardIndex, Part } from '../board';
import type { FaultState } from './apply';
import { faultRef, isOpenFault, severityOf, singleFaults, type Fault } from './fault';
import { severityGrid } from '../device';

/** How often parts of a class fail in each way, relative to one another. Rows come from data/library/rates.json; unit: none (weights). */
export const RateTable = z.object({
  source: z.string().min(1),
  healthy: z.number().positive().lt(1),
  unmodelled: z.number().positive().lt(1),
  dryJoint: z.number().positive(),
  rates: z.record(z.string(), z.record(z.string(), z.number().positive())),
});
export type RateTable = z.infer<typeof RateTable>;

/** One explanation of the readings, with its prior. */
export type Hypothesis = SingleHypothesis | DoubleHypothesis;

interface Common {
  readonly name: string;
  /** Names of its faults, one or two. */
  readonly faults: readonly string[];
  /** The parts that are condemned if this is it. */
  readonly refs: readonly string[];
  readonly prior: number;
  readonly severities: readonly number[];
  /** True where the severities are alternatives with nothing between them, false where they are points of a range. */
  readonly discrete: boolean;
}

/** A single fault with the severities that stand for it. */
export interface SingleHypothesis extends Common {
  readonly type: 'single';
  readonly fault: Fault;
}

/** Two faults at once, each at the severity that the readings ask for. */
export interface DoubleHypothesis extends Common {
  readonly type: 'double';
  readonly members: readonly [SingleHypothesis, SingleHypothesis];
  readonly states: readonly [FaultState, FaultState];
}

/** All that may be the matter with a board, with priors that sum to 1. */
export interface HypothesisSpace {
  readonly hypotheses: readonly SingleHypothesis[];
  readonly healthyPrior: number;
  readonly unmodelledPrior: number;
}

/** Severities solved exactly for a mode with a range; belief is refined between them. */
const SEVERITY_POINTS = 5;

/** An open that does not leak at all. The mode stands for 100 MΩ, which a 10 MΩ meter input can see through; a burnt fuse is far above that.
 *  Belief allows for both. Unit: ohm. */
const CLEAN_OPEN_OHM = 1e11;

function severitiesOf(fault: Fault): { severities: readonly number[]; discrete: boolean } {
  const range = severityOf(fault);
  if (isOpenFault(fault)) return { severities: [range.low, CLEAN_OPEN_OHM], discrete: true };
  return { severities: severityGrid(range, SEVERITY_POINTS), discrete: false };
}

/** The class a part is counted under: capacitors by dielectric, the rest by kind. */
function rateClass(part: Part): string {
  return part.kind === 'capacitor' && part.dielectric ? `capacitor ${part.dielectric}` : part.kind;
}

function rateOf(table: RateTable, fault: Fault): number {
  if (fault.type === 'bridge') return table.rates.bridge?.bridge ?? table.dryJoint;
  if (fault.type === 'cut') return table.rates.track?.cut ?? table.dryJoint;
  const part = fault.type === 'mode' ? fault.part : fault.pin.part;
  const row = table.rates[rateClass(part)] ?? table.rates[part.kind];
  if (fault.type === 'dry') return row?.dry ?? table.dryJoint;
  return row?.[fault.mode.name] ?? table.dryJoint;
}

/** Lists the single faults of a board with their priors. factor: what multiplies a part's rate (looks, age), default 1 for all. */
export function hypothesisSpace(index: BoardIndex, table: RateTable, factor: (ref: string) => number = () => 1): HypothesisSpace {
  const faults = singleFaults(index);
  const rates = faults.map((fault) => rateOf(table, fault) * factor(faultRef(fault)));
  const total = rates.reduce((sum, rate) => sum + rate, 0);
  const faulty = 1 - table.healthy - table.unmodelled;
  const hypotheses = faults.map((fault, i): SingleHypothesis => ({
    type: 'single',
    name: fault.name,
    faults: [fault.name],
    refs: [faultRef(fault)],
    fault,
    prior: (faulty * rates[i]!) / total,
    ...severitiesOf(fault),
  }));
  return { hypotheses, healthyPrior: table.healthy, unmodelledPrior: table.unmodelled };
}

/** Two hypotheses as one. prior: worked out by the caller. severities: of each, what its faults are taken at. */
export function doubleHypothesis(a: SingleHypothesis, b: SingleHypothesis, severities: readonly [number, number], prior: number): DoubleHypothesis {
  return {
    type: 'double',
    name: `${a.name} + ${b.name}`,
    faults: [a.name, b.name],
    refs: [...new Set([...a.refs, ...b.refs])],
    prior,
    severities: [1],
    discrete: true,
    members: [a, b],
    states: [
      { fault: a.fault, severity: severities[0] },
      { fault: b.fault, severity: severities[1] },
    ],
  };
}
