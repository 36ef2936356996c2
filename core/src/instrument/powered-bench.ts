import type { Observable } from '../board';
import { buildNetwork, nodeOf, type NoOperatingPoint } from '../circuit';
import type { LinearChange } from '../fault';
import type { Measurement } from './measurement';
import { meterOf } from './meter';
import { chanceSeen } from './observe';
import { PoweredChange, type PoweredReading } from './powered-change';
import { PoweredMeter } from './powered-meter';
import type { Response } from './response';
import type { SolvedState } from './solved-state';

/** Volts, the logic probe and what is seen or heard, on a board with power. */
export class PoweredBench {
  private ownChange?: PoweredChange;
  private ownPowered?: PoweredMeter;

  constructor(private readonly at: SolvedState) {}

  /** The circuit of the last answer, and how much of a driven level it holds. */
  get last(): PoweredMeter | undefined {
    return this.ownPowered;
  }

  forgetLast(): void {
    if (this.ownPowered) this.ownPowered.lastX = undefined;
  }

  /** A voltmeter and a probe on the powered board, or why there is no solution to measure. */
  private get powered(): PoweredMeter | NoOperatingPoint {
    const settled = this.at.solve();
    if (!settled.ok) return settled;
    return (this.ownPowered ??= new PoweredMeter(
      this.at.network,
      settled,
      (more) => buildNetwork([...this.at.elements, more], this.at.index.nets),
      () => this.at.knownIncremental?.points[0],
    ));
  }

  /** Lets go of what was kept for many questions in a row. */
  forgetNearby(): void {
    this.ownPowered?.forgetNearby();
  }

  respond(m: Measurement): Response | NoOperatingPoint {
    if (m.kind === 'symptom') {
      const settled = this.at.solve();
      return settled.ok ? this.symptom(m, settled.phases) : settled;
    }
    const [a, b] = [this.at.nodeAt(m.at), this.at.nodeAt(m.to)];
    const meter = this.powered;
    if ('ok' in meter) return meter;
    return m.kind === 'logic' ? meter.probe(a, b, meterOf(m)) : meter.voltage(a, b, meterOf(m));
  }

  /**
   * What volts or the probe show after one admittance between p and q has changed. own: what they
   * show without the change; undefined where the short way does not apply.
   */
  after(
    m: Measurement,
    [p, q]: readonly [number, number],
    change: LinearChange,
    own: PoweredReading | undefined,
  ): Response | undefined {
    if (m.kind !== 'voltage' && m.kind !== 'logic') return undefined;
    const changed = this.change;
    const [a, b] = [this.at.nodeAt(m.at), this.at.nodeAt(m.to)];
    return changed && own && changed.respond(m.kind, a, b, own, p, q, change);
  }

  /** A symptom after a change, where the changed part is not the one whose current is looked at. */
  symptomAfter(m: Measurement, change: LinearChange): Response | undefined {
    const { network } = this.at;
    const [p, q] = [nodeOf(network, change.a), nodeOf(network, change.b)];
    if (
      !this.at.solve().ok ||
      p === undefined ||
      q === undefined ||
      !this.at.joined(p, q) ||
      m.observable?.when.some(({ type }) => type === 'ampere')
    )
      return undefined;
    const phases = this.change?.after(p, q, change.siemens);
    return phases && this.symptom(m, phases);
  }

  private get change(): PoweredChange | undefined {
    const { known, incremental, network } = this.at;
    if (!known || !incremental) return undefined;
    return (this.ownChange ??= new PoweredChange(network, known, incremental.points));
  }

  /** Whether a symptom is seen: the value is the chance that it is. */
  private symptom({ observable }: Measurement, phases: readonly Float64Array[]): Response {
    return { value: observable ? this.chanceOf(observable, phases) : 0, spread: 0, fullScale: 1 };
  }

  private chanceOf(observable: Observable, phases: readonly Float64Array[]): number {
    const { index, network } = this.at;
    return chanceSeen(index, observable, network, phases, (ref) => this.at.ownedBy(ref));
  }
}
