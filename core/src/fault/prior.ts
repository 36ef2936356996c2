import { z } from 'zod';
import { nameKey, type BoardIndex, type Part } from '../board';
import type { FaultState } from './apply';
import { faultRef, isOpenFault, severityOf, singleFaults, type Fault } from './fault';
import { severityGrid } from '../device';

/**
 * How often parts of a class fail in each way, relative to one another. Rows come from
 * data/library/rates.json; unit: none (weights).
 */
export const RateTable = z.object({
  source: z.string().min(1),
  healthy: z.number().positive().lt(1),
  unmodelled: z.number().positive().lt(1),
  dryJoint: z.number().positive(),
  /**
   * Sum of rates, times ln 2, of a sheet that is as likely as not to hold the fault the unit came
   * in for; and the least chance of any sheet that somebody took the trouble to draw.
   */
  sheet: z.object({ scale: z.number().positive(), least: z.number().positive().max(1) }).optional(),
  rates: z.record(z.string(), z.record(z.string(), z.number().positive())),
});
export type RateTable = z.infer<typeof RateTable>;

/** One explanation of the readings, with its prior. */
export type Hypothesis = SingleHypothesis | JointHypothesis;

interface Common {
  readonly name: string;
  /** Names of its faults. */
  readonly faults: readonly string[];
  /** The parts that are condemned if this is it. */
  readonly refs: readonly string[];
  readonly prior: number;
  readonly severities: readonly number[];
  /**
   * True where the severities are alternatives with nothing between them, false where they are
   * points of a range.
   */
  readonly discrete: boolean;
}

/** A single fault with the severities that stand for it. */
export interface SingleHypothesis extends Common {
  readonly type: 'single';
  readonly fault: Fault;
  /**
   * Where not the board but its sheet is wrong: what may be so, what settles it, and how likely
   * that is whatever else is wrong. Condemns no part.
   */
  readonly sheet?: { readonly title: string; readonly check: string; readonly chance: number };
}

/** Several faults at once, each at the severity that the readings ask for. */
export interface JointHypothesis extends Common {
  readonly type: 'joint';
  readonly members: readonly SingleHypothesis[];
  readonly states: readonly FaultState[];
}

/** All that may be the matter with a board, with priors that sum to 1. */
export interface HypothesisSpace {
  readonly hypotheses: readonly SingleHypothesis[];
  readonly healthyPrior: number;
  readonly unmodelledPrior: number;
}

/**
 * Opens by how much they leak: one over dirt or flux, one of 100 MΩ, which the mode stands for and
 * which a 10 MΩ meter input can see through, and one that does not leak at all, as a burnt fuse.
 * Unit: ohm.
 */
const OPEN_OHM = [3e6, 1e8, 1e11] as const;

function severitiesOf(fault: Fault): { severities: readonly number[]; discrete: boolean } {
  const range = severityOf(fault);
  if (isOpenFault(fault)) return { severities: OPEN_OHM, discrete: false };
  return { severities: severityGrid(range), discrete: false };
}

/**
 * Classes a part is counted under, the most special first: what is known of its kind, its place and
 * its dielectric; last its kind.
 */
function rateClasses(index: BoardIndex, part: Part): readonly string[] {
  if (part.kind === 'capacitor') {
    const words = [part.role, part.note, part.rating].join(' ');
    return [
      ...(/\bpaper\b/i.test(words) ? ['capacitor paper'] : []),
      ...(part.dielectric ? [`capacitor ${part.dielectric}`] : []),
      part.kind,
    ];
  }
  if (part.kind === 'chip') {
    const special = [
      ...(isConnectorSide(index, part) ? ['chip connector-side'] : []),
      ...(part.model.family.name === 'NMOS' ? ['chip nmos'] : []),
    ];
    return [...special, part.kind];
  }
  return [part.kind];
}

/**
 * A chip with an output on a line that leaves the board: a connector pin or an edge of the sheet
 * hangs on it. What comes in from outside kills it first.
 */
function isConnectorSide(index: BoardIndex, part: Extract<Part, { kind: 'chip' }>): boolean {
  const edges = new Set((index.board.edges ?? []).map(({ net }) => nameKey(net)));
  return part.model.pins.some(({ role }, i) => {
    if (role !== 'output' && role !== 'both') return false;
    const net = index.netByKey.get(nameKey(part.pins[i]!))!;
    return (
      edges.has(nameKey(net)) ||
      index.pinsOfNet.get(net)!.some(({ part: other }) => other.kind === 'connectorPin')
    );
  });
}

/** The class a part is counted under: the most special one that the table has; else its kind. */
export function rateClass(index: BoardIndex, table: RateTable, part: Part): string {
  return rateClasses(index, part).find((name) => table.rates[name] !== undefined) ?? part.kind;
}

/** How often a fault happens, as a weight of the table. */
export function rateOf(index: BoardIndex, table: RateTable, fault: Fault): number {
  if (fault.type === 'bridge') return table.rates.bridge?.bridge ?? table.dryJoint;
  if (fault.type === 'cut') return table.rates.track?.cut ?? table.dryJoint;
  const part = fault.type === 'mode' ? fault.part : fault.pin.part;
  const rows = rateClasses(index, part).map((name) => table.rates[name] ?? {});
  const mode = fault.type === 'dry' ? 'dry' : fault.mode.name;
  return rows.find((row) => row[mode] !== undefined)?.[mode] ?? table.dryJoint;
}

/**
 * The chance that the fault lies on this sheet and not beside it: small sheets leave most of the
 * unit out. Certain where the table does not say how much makes a sheet.
 */
function shareOfSheet({ sheet }: RateTable, total: number): number {
  return sheet ? Math.max(sheet.least, 1 - Math.exp(-total / sheet.scale)) : 1;
}

/**
 * Lists the single faults of a board with their priors. factor: what multiplies a part's rate
 * (looks, age), default 1 for all.
 */
export function hypothesisSpace(
  index: BoardIndex,
  table: RateTable,
  factor: (ref: string) => number = () => 1,
): HypothesisSpace {
  const faults = singleFaults(index);
  const rates = faults.map((fault) => rateOf(index, table, fault) * factor(faultRef(fault)));
  const total = rates.reduce((sum, rate) => sum + rate, 0);
  const faulty = (1 - table.healthy - table.unmodelled) * shareOfSheet(table, total);
  const hypotheses = faults.map((fault, i): SingleHypothesis => ({
    type: 'single',
    name: fault.name,
    faults: [fault.name],
    refs: [faultRef(fault)],
    fault,
    prior: (faulty * rates[i]!) / total,
    ...severitiesOf(fault),
  }));
  return {
    hypotheses,
    healthyPrior: 1 - faulty - table.unmodelled,
    unmodelledPrior: table.unmodelled,
  };
}

/**
 * Several hypotheses as one. prior: worked out by the caller. severities: of each, what its faults
 * are taken at.
 */
export function jointHypothesis(
  members: readonly SingleHypothesis[],
  severities: readonly number[],
  prior: number,
): JointHypothesis {
  return {
    type: 'joint',
    name: members.map(({ name }) => name).join(' + '),
    faults: members.flatMap(({ faults }) => faults),
    refs: [...new Set(members.flatMap(({ refs }) => refs))],
    prior,
    severities: [1],
    discrete: true,
    members,
    states: members.map(({ fault }, i) => ({ fault, severity: severities[i]! })),
  };
}
