import { powerOf, type BoardIndex } from '../board';
import {
  across,
  drivenLevel,
  nodeOf,
  type Contention,
  type Network,
  type NoOperatingPoint,
  type MixedSignalSolution,
} from '../circuit';
import type { BoardState, Fault, FaultState, LinearChange } from '../fault';
import { HIGH, LOW, type Level } from '../logic';
import { ammeter } from './ammeter';
import { EsrBench } from './esr-bench';
import { answerKey, type Measurement } from './measurement';
import { OffBench } from './off-bench';
import { PoweredBench } from './powered-bench';
import type { PoweredReading } from './powered-change';
import type { Response } from './response';
import type { VoltSnapshot } from './snapshot';
import { SolvedState } from './solved-state';

/** Modes of a chip's pin that hold it at a level. */
const STUCK: Readonly<Record<string, Level | undefined>> = { 'stuck-0': LOW, 'stuck-1': HIGH };
/**
 * An element whose voltage is below this share of the voltage between the probes cannot be seen in
 * the reading.
 */
const UNMOVED = 1e-8;

/** An answer of a state's own, with the circuit's solution while it was measured. */
type OwnAnswer = PoweredReading & { readonly x: Float64Array | undefined };

/**
 * A board in one state, with the instruments on it. Keeps what it solved; lives as long as that
 * state is of interest.
 */
export class BenchState {
  private readonly at: SolvedState;
  private readonly off: OffBench;
  private readonly powered: PoweredBench;
  private readonly esr: EsrBench;
  /** Own answers, by measurement. */
  private readonly own = new Map<string, OwnAnswer>();
  private readonly ignored = new WeakMap<Fault, boolean>();

  /**
   * like: a state to begin from, solved where it can be; keepMemory: the chips remember what they
   * did in it.
   */
  constructor(index: BoardIndex, state: BoardState, like?: BenchState, keepMemory = false) {
    this.at = new SolvedState(index, state, like?.at, keepMemory);
    this.off = new OffBench(this.at);
    this.powered = new PoweredBench(this.at);
    this.esr = new EsrBench(this.at);
  }

  get network(): Network {
    return this.at.network;
  }

  /** The board at rest, circuit and logic together, or why it has no solution. */
  solve(): MixedSignalSolution | NoOperatingPoint {
    return this.at.solve();
  }

  /**
   * Volts of every net to net 0; null where nothing gives a net its level, or where nobody knows
   * which level a chip gives it.
   */
  netVolts(): Record<string, number | null> | NoOperatingPoint {
    return this.at.netVolts();
  }

  /** Volts of every net, small enough to be kept for thousands of states. */
  snapshot(): VoltSnapshot | undefined {
    return this.at.snapshot();
  }

  /**
   * What of the nets is not as here once the board has these faults too; undefined where that needs
   * a state of its own.
   */
  snapshotWith(faults: readonly FaultState[]): VoltSnapshot | undefined {
    return this.at.snapshotWith(faults);
  }

  /** What is odd about the logic of the board at rest. */
  troubles(): {
    readonly contentions: readonly Contention[];
    readonly oscillating: readonly string[];
  } {
    return this.at.troubles();
  }

  /** What the standard meter answers. A board that cannot be solved gives its reason instead. */
  respond(m: Measurement): Response | NoOperatingPoint {
    return readBy(m, this.answer(m));
  }

  private answer(m: Measurement): Response | NoOperatingPoint {
    switch (m.kind) {
      case 'esr':
        return this.esr.respond(m);
      case 'current':
        return ammeter(this.at.index, this.at.state, m);
      case 'symptom':
      case 'logic':
      case 'voltage':
        return this.powered.respond(m);
      default:
        return this.off.respond(m);
    }
  }

  /**
   * What the standard meter answers to ohms, continuity and diode tests on this board, off, with
   * these faults too; undefined where that needs a state of its own. m must not touch a pin that a
   * fault has cut off.
   */
  respondWith(faults: readonly FaultState[], m: Measurement): Response | undefined {
    return readBy(m, this.off.respondWith(faults, m));
  }

  /** Whether a fault changes nothing here: a pin stuck at the level that it has anyway. */
  ignores(fault: Fault): boolean {
    let known = this.ignored.get(fault);
    if (known === undefined) this.ignored.set(fault, (known = this.findIgnored(fault)));
    return known;
  }

  private findIgnored(fault: Fault): boolean {
    const level = fault.type === 'mode' ? STUCK[fault.mode.name] : undefined;
    const settled =
      level === undefined || powerOf(this.at.state.setup) === 'off' ? undefined : this.at.solve();
    if (fault.type !== 'mode' || level === undefined || !settled?.ok) return false;
    const c = this.at.network.chips.findIndex(({ logic }) => logic.ref === fault.part.ref);
    const chip = this.at.network.chips[c];
    if (!chip) return false;
    const inputs = chip.logic.inputs.flatMap(({ pin }, i) =>
      pin === fault.mode.pin ? [settled.seen[c]![i]] : [],
    );
    const outputs = chip.logic.outputs.flatMap((output, i) =>
      output.pin === fault.mode.pin
        ? [
            settled.driven[chip.outputs[i]!.driver] ===
              drivenLevel({ ...output, stuck: level }, level, HIGH),
          ]
        : [],
    );
    if (inputs.length + outputs.length === 0) return false;
    return inputs.every((seen) => seen === level) && outputs.every((same) => same);
  }

  /** Lets go of what was kept for many questions in a row. */
  forgetNearby(): void {
    this.powered.forgetNearby();
  }

  /**
   * What a meter answers after one admittance of this state has changed; undefined where a short way
   * does not apply and a state of its own has to be solved. Exact where it is given: by the rank-one
   * update where everything is linear, and wherever the changed element has no voltage.
   */
  respondAfter(m: Measurement, change: LinearChange): Response | undefined {
    return readBy(m, this.answerAfter(m, change));
  }

  private answerAfter(m: Measurement, change: LinearChange): Response | undefined {
    if (m.kind === 'esr') return this.esr.after(m, change);
    if (m.kind === 'current') return undefined;
    if (m.kind === 'symptom') return this.powered.symptomAfter(m, change);
    const { at } = this;
    const [a, b] = [at.nodeAt(m.at), at.nodeAt(m.to)];
    const [p, q] = [nodeOf(at.network, change.a), nodeOf(at.network, change.b)];
    if (p === undefined || q === undefined || a === b || !at.joined(a, b) || !at.joined(p, q))
      return undefined;
    if (m.setup === 'off') {
      const updated = this.off.after(m, [p, q], change, () => this.ownAnswer(m)?.response);
      if (updated) return updated;
    }
    const still = this.unmoved(m, p, q);
    if (still || !at.known) return still;
    return this.powered.after(m, [p, q], change, this.own.get(answerKey(m)));
  }

  /**
   * This state's own answer, where the element between p and q has no voltage while it is measured:
   * then no change of it can be seen.
   */
  private unmoved(m: Measurement, p: number, q: number): Response | undefined {
    const known = this.ownAnswer(m);
    if (!known?.x) return undefined;
    const { x } = known;
    const driven = Math.abs(across(x, this.at.nodeAt(m.at), this.at.nodeAt(m.to)));
    const still = (phase: Float64Array): boolean =>
      Math.abs(across(phase, p, q)) <= UNMOVED * (driven + 1e-3);
    const phases = m.setup !== 'off' && this.at.known ? this.at.known.phases : [x];
    return phases.every(still) ? known.response : undefined;
  }

  /** What this state answers itself, kept. */
  private ownAnswer(m: Measurement): OwnAnswer | undefined {
    const key = answerKey(m);
    const known = this.own.get(key);
    if (known) return known;
    this.off.forgetLast();
    this.powered.forgetLast();
    const answer = this.answer(m);
    if ('ok' in answer) return undefined;
    const response = m.meter ? { ...answer, meter: m.meter } : answer;
    const share = this.powered.last?.lastShare ?? 1;
    // The circuit tells which elements take part only where nothing else holds the net.
    const heldDown = m.setup === 'off' || share > 0.999;
    const x = heldDown ? (this.powered.last?.lastX ?? this.off.lastX) : undefined;
    const own = { response, share, x };
    this.own.set(key, own);
    return own;
  }
}

/** An answer in the name of the instrument that gives it, with what its leads add to ohms. */
function readBy<A extends Response | NoOperatingPoint | undefined>(m: Measurement, answer: A): A {
  const { meter } = m;
  if (!meter || !answer || 'ok' in answer) return answer;
  const throughLeads = m.kind === 'resistance' || m.kind === 'continuity' || m.kind === 'esr';
  const leads = throughLeads ? (meter.leadOhm ?? 0) : 0;
  return { ...answer, value: answer.value + leads, meter };
}
