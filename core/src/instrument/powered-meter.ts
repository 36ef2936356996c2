import { GROUND } from '../board';
import {
  across,
  deriveNetwork,
  factorJacobian,
  isUnknown,
  operatingPoint,
  pointAfter,
  toleranceSpread,
  BaseLinearisation,
  type Network,
  type NoOperatingPoint,
  type MixedSignalSolution,
} from '../circuit';
import { conductance, type Element } from '../device';
import { STANDARD_METER, voltRange, type MeterProfile } from './meter';
import { unitCurrent } from './off-board';
import { areJoined } from './ohmmeter';
import type { Response } from './response';

/**
 * A meter that pulls a point down by less than this, volt, loads it linearly: the error is then
 * some ΔV²/2Vt, below 0.1 mV.
 */
const LIGHT_LOAD_VOLT = 2e-3;
/** Questions to a powered board from which its point is kept about. */
const OFTEN = 4;

/** Volts between two nodes as a slow meter sees them: the mean of the phases. */
export function meanVolt({ phases }: MixedSignalSolution, a: number, b: number): number {
  return phases.reduce((sum, x) => sum + across(x, a, b), 0) / phases.length;
}

/** Answers to small changes of a powered board, everything linear about its first phase. */
interface SmallChanges {
  readonly sourceOhm: (a: number, b: number) => number;
  readonly adjoint: (a: number, b: number) => Float64Array;
}

/** A voltmeter and a logic probe on a powered board at rest. Lives as long as the board's state. */
export class PoweredMeter {
  /** The circuit at the last answer, and what share of the open voltage the meter left. */
  lastX: Float64Array | undefined;
  lastShare = 1;
  private restPoint: BaseLinearisation | undefined;
  private asked = 0;

  /**
   * withElement: the network with one element more. known: the first phase's point, where somebody
   * has it already.
   */
  constructor(
    private readonly network: Network,
    private readonly settled: MixedSignalSolution,
    private readonly withElement: (element: Element) => Network,
    private readonly known: () => BaseLinearisation | undefined,
  ) {}

  voltage(a: number, b: number, meter = STANDARD_METER): Response | NoOperatingPoint {
    const { voltInputOhm } = meter;
    const { network, settled } = this;
    if (a === b || !areJoined(network, a, b))
      return { value: 0, spread: 0, fullScale: voltRange(0, meter) };
    const [x, drives] = [settled.phases[0]!, settled.drives[0]!];
    const small = this.aboutRest();
    const share = voltInputOhm / (voltInputOhm + small.sourceOhm(a, b));
    const open = meanVolt(settled, a, b);
    [this.lastX, this.lastShare] = [x, share];
    const nonlinear =
      network.junctions.length > 0 ||
      network.transistors.length > 0 ||
      network.characteristics.length > 0;
    if (nonlinear && settled.phases.length === 1 && Math.abs(open) * (1 - share) > LIGHT_LOAD_VOLT)
      return this.loadedVoltage(a, b, meter);
    const value = open * share;
    const unknown = isUnknown(network, settled, a) || isUnknown(network, settled, b);
    return {
      value,
      spread: toleranceSpread(network, x, small.adjoint(a, b), false, drives) * share,
      fullScale: voltRange(value, meter),
      share,
      ...(unknown ? { unknown } : {}),
    };
  }

  /**
   * A logic probe looks at the volts through its own weak bias, which leaves a net that nothing
   * drives between the levels, and sees pulses.
   */
  probe(a: number, b: number, meter = STANDARD_METER): Response {
    const { logicBiasVolt, logicInputOhm } = meter;
    const { network, settled } = this;
    const fullScale = voltRange(0, meter);
    if (a === b) return { value: 0, spread: 0, fullScale };
    const floating: Response = { value: logicBiasVolt, spread: 0, fullScale };
    if (!areJoined(network, a, b)) return floating;
    const small = this.aboutRest();
    const share = logicInputOhm / (logicInputOhm + small.sourceOhm(a, b));
    [this.lastX, this.lastShare] = [settled.phases[0]!, share];
    const spread =
      toleranceSpread(network, settled.phases[0]!, small.adjoint(a, b), false, settled.drives[0]) *
      share;
    const seen = settled.phases.map((x) => across(x, a, b) * share + logicBiasVolt * (1 - share));
    const [low, high = low] = seen as [number, number?];
    if (isUnknown(network, settled, a)) return { ...floating, unknown: true };
    const pulsing =
      Math.min(low, high) < meter.logicLowVolt && Math.max(low, high) > meter.logicHighVolt;
    return { value: (low + high) / 2, spread, fullScale, ...(pulsing ? { pulsing } : {}) };
  }

  /** Lets go of what was kept for many questions in a row. */
  forgetNearby(): void {
    this.restPoint = undefined;
    this.asked = 0;
  }

  /** By the network's own factorisation, or where much is asked by what is kept about the point. */
  private aboutRest(): SmallChanges {
    const point = this.pointAtRest();
    if (point)
      return {
        sourceOhm: (a, b) => Math.max(0, across(point.column(a, b), a, b)),
        adjoint: (a, b) => point.adjoint(a, b),
      };
    const { network, settled } = this;
    const { lu } = network;
    if (lu.owner !== this) {
      factorJacobian(network, settled.phases[0]!, settled.drives[0]);
      lu.owner = this;
    }
    const sourceOhm = (a: number, b: number): number => {
      const vector = unitCurrent(network, a, b);
      lu.solve(vector, vector);
      return Math.max(0, across(vector, a, b));
    };
    const adjoint = (a: number, b: number): Float64Array => {
      const vector = unitCurrent(network, a, b);
      lu.solveTransposed(vector, vector);
      return vector;
    };
    return { sourceOhm, adjoint };
  }

  private pointAtRest(): BaseLinearisation | undefined {
    const known = this.known();
    if (known) return known;
    const { phases, drives } = this.settled;
    if (!this.restPoint && (this.asked += 1) > OFTEN)
      this.restPoint = new BaseLinearisation(this.network, drives[0]!, phases[0]!);
    return this.restPoint;
  }

  /**
   * The voltage with the meter's input as a part of the circuit: for points that the meter loads
   * where the circuit is nonlinear.
   */
  private loadedVoltage(
    a: number,
    b: number,
    instrument: MeterProfile,
  ): Response | NoOperatingPoint {
    const drives = this.settled.drives[0]!;
    const point = this.pointAtRest();
    const near = point && pointAfter(point, a, b, 1 / instrument.voltInputOhm);
    if (near) {
      const value = across(near.x, a, b);
      return {
        value,
        spread: toleranceSpread(this.network, near.x, near.adjoint(a, b), false, drives),
        fullScale: voltRange(value, instrument),
      };
    }
    const [start, names] = [this.settled.phases[0]!, this.network.nodeNames];
    const meter = conductance(
      a < 0 ? GROUND : names[a]!,
      b < 0 ? GROUND : names[b]!,
      instrument.voltInputOhm,
    );
    const network = deriveNetwork(this.network, [], [meter]) ?? this.withElement(meter);
    const result = operatingPoint(network, {
      drives,
      ...(network.size === start.length ? { start } : {}),
    });
    this.network.lu.owner = undefined;
    if (!result.ok) return result;
    const adjoint = unitCurrent(network, a, b);
    network.lu.solveTransposed(adjoint, adjoint);
    const value = across(result.x, a, b);
    return {
      value,
      spread: toleranceSpread(network, result.x, adjoint, false, drives),
      fullScale: voltRange(value, instrument),
    };
  }
}
