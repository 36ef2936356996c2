import { powerOf } from '../board';
import { NO_DIFFERENCE, BaseLinearisation, type NoOperatingPoint } from '../circuit';
import { faultsKey, type FaultState, type LinearChange } from '../fault';
import { changeParts, touchedParts } from './incremental-state';
import type { Measurement } from './measurement';
import { meterOf, type MeterProfile } from './meter';
import { FirstOf, NearOffBoard, WholeOffBoard } from './off-board';
import { Ohmmeter } from './ohmmeter';
import type { Response } from './response';
import type { SolvedState } from './solved-state';

/** Boards that are off with a fault kept at a time. */
const MOST_OHMMETERS = 16;

/** Ohms, continuity and diode tests on a board that is off. */
export class OffBench {
  private ownOhmmeter?: Ohmmeter;
  private ownOffPoint?: BaseLinearisation;
  private readonly ohmmetersWith = new Map<string, Ohmmeter | null>();

  constructor(private readonly at: SolvedState) {}

  /** The circuit of the last answer, where it tells which elements take part. */
  get lastX(): Float64Array | undefined {
    return this.ohmmeter.lastX;
  }

  forgetLast(): void {
    this.ohmmeter.lastX = undefined;
  }

  private get ohmmeter(): Ohmmeter {
    if (this.ownOhmmeter) return this.ownOhmmeter;
    const whole = new WholeOffBoard(this.at.network);
    // A board with faults is asked once or twice, the sound one for everything.
    if (this.at.state.faults.length > 0) return (this.ownOhmmeter = new Ohmmeter(whole));
    return (this.ownOhmmeter = new Ohmmeter(
      new FirstOf(new NearOffBoard(this.offPoint, this.at.network, NO_DIFFERENCE), whole),
      this.offPoint,
    ));
  }

  /** This board off and at rest. */
  private get offPoint(): BaseLinearisation {
    return (this.ownOffPoint ??= new BaseLinearisation(
      this.at.network,
      new Uint8Array(this.at.network.drivers.length),
      new Float64Array(this.at.network.size),
    ));
  }

  /**
   * The ohmmeter on this board with these faults too; undefined where they need a state of their
   * own.
   */
  private ohmmeterWith(faults: readonly FaultState[]): Ohmmeter | undefined {
    const key = faultsKey(faults);
    let known = this.ohmmetersWith.get(key);
    if (known !== undefined) return known ?? undefined;
    const netlistChange = changeParts(
      this.at.network,
      touchedParts(this.at.index, { ...this.at.state, faults }, this.at.parts),
      faults,
    );
    known = netlistChange
      ? new Ohmmeter(
          new NearOffBoard(this.offPoint, netlistChange.network, netlistChange.difference),
        )
      : null;
    if (this.ohmmetersWith.size >= MOST_OHMMETERS)
      this.ohmmetersWith.delete(this.ohmmetersWith.keys().next().value!);
    this.ohmmetersWith.set(key, known);
    return known ?? undefined;
  }

  /**
   * What the standard meter answers to ohms, continuity and diode tests on this board, off, with
   * these faults too; undefined where that needs a state of its own. m must not touch a pin that a
   * fault has cut off.
   */
  respondWith(faults: readonly FaultState[], m: Measurement): Response | undefined {
    if (
      powerOf(this.at.state.setup) !== 'off' ||
      (m.kind !== 'resistance' && m.kind !== 'continuity' && m.kind !== 'diode')
    )
      return undefined;
    const ohmmeter = this.ohmmeterWith(faults);
    const answer = ohmmeter && this.driveWith(ohmmeter, m);
    return !answer || 'ok' in answer ? undefined : possible(answer);
  }

  private driveWith(ohmmeter: Ohmmeter, m: Measurement): Response | NoOperatingPoint | undefined {
    const [a, b] = [this.at.nodeAt(m.at), this.at.nodeAt(m.to)];
    const meter = meterOf(m);
    if (m.kind === 'diode')
      return ohmmeter.testCurrent(a, b, meter.diodeAmpere, meter.diodeOverloadVolt, 4);
    if (m.kind !== 'continuity') return ohmmeter.resistance(a, b, meter);
    const volts = ohmmeter.testCurrent(a, b, meter.continuityAmpere, Infinity, 1);
    return volts && asOhms(volts, meter);
  }

  /** What the standard meter answers here. */
  respond(m: Measurement): Response | NoOperatingPoint {
    return this.driveWith(this.ohmmeter, m) ?? { ok: false, why: 'not converged', at: m.at.net };
  }

  /**
   * What it answers after one admittance between p and q has changed; undefined where the short way
   * does not apply. own: what it answers without the change.
   */
  after(
    m: Measurement,
    [p, q]: readonly [number, number],
    change: LinearChange,
    own: () => Response | undefined,
  ): Response | undefined {
    if (m.kind !== 'resistance' && m.kind !== 'continuity') return undefined;
    const [a, b] = [this.at.nodeAt(m.at), this.at.nodeAt(m.to)];
    const answer = this.ohmmeter.after(m.kind, a, b, p, q, change, own, meterOf(m));
    return answer && possible(answer);
  }
}

/**
 * No board of resistors and junctions has less than no ohms: a short way that says so has lost its
 * figures between the largest and the smallest conductance, and the whole has to be asked.
 */
function possible(answer: Response): Response | undefined {
  return answer.value < 0 ? undefined : answer;
}

function asOhms(
  volts: Response | NoOperatingPoint,
  { continuityAmpere: ampere, ohmRanges }: MeterProfile,
): Response | NoOperatingPoint {
  if ('ok' in volts) return volts;
  return {
    value: volts.value / ampere,
    spread: volts.spread / ampere,
    fullScale: ohmRanges[0]![0],
  };
}
