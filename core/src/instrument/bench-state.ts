import { powerOf, type BoardIndex, type Observable, type Point } from '../board';
import {
  across,
  buildNetwork,
  contentions,
  drivenLevel,
  heldNodes,
  impedance,
  impedanceAfter,
  isUnknown,
  NO_DIFFERENCE,
  nodeOf,
  settle,
  smallSignal,
  Vicinity,
  type Contention,
  type Impedance,
  type Network,
  type NoOperatingPoint,
  type Settled,
  type SmallSignalNetwork,
} from '../circuit';
import type { Element } from '../device';
import {
  faultsKey,
  siteElements,
  nodeBehind,
  stateParts,
  type BoardState,
  type Fault,
  type FaultState,
  type LinearChange,
  type PartElements,
} from '../fault';
import { HIGH, LOW, type Level } from '../logic';
import { ammeter } from './ammeter';
import { Beside, exchangeParts, touchedParts } from './beside';
import { measurementKey, type Measurement } from './measurement';
import { chanceSeen } from './observe';
import { areJoined, Ohmmeter } from './ohmmeter';
import { FirstOf, NearOffBoard, WholeOffBoard } from './off-board';
import { STANDARD_METER as METER } from './meter';
import { PoweredChange, type PoweredReading } from './powered-change';
import { meanVolt, PoweredMeter } from './powered-meter';
import type { Response } from './response';
import { takeSnapshot, type VoltSnapshot } from './snapshot';

/** Modes of a chip's pin that hold it at a level. */
const STUCK: Readonly<Record<string, Level | undefined>> = { 'stuck-0': LOW, 'stuck-1': HIGH };
/** Boards that are off with a fault kept at a time. */
const MOST_OHMMETERS = 16;
/**
 * An ESR that moves by less than this share of itself counts as unmoved: a hundredth of what the
 * meter can tell.
 */
const UNSEEN_ESR = 1e-4;
/**
 * An element whose voltage is below this share of the voltage between the probes cannot be seen in
 * the reading.
 */
const UNMOVED = 1e-8;

/**
 * A board in one state, with the instruments on it. Keeps what it solved; lives as long as that
 * state is of interest.
 */
export class BenchState {
  readonly network: Network;
  private readonly startFrom: Settled | undefined;
  private readonly startNetwork: Network | undefined;
  private settled?: Settled | NoOperatingPoint;
  private ac?: SmallSignalNetwork;
  private ownOhmmeter?: Ohmmeter;
  private ownOffPoint?: Vicinity;
  private readonly ohmmetersWith = new Map<string, Ohmmeter | null>();
  /**
   * Own answers with the circuit's solution while measuring, by measurement; and the solution of
   * the last answer given.
   */
  private readonly own = new Map<string, PoweredReading & { x: Float64Array | undefined }>();
  private readonly ignored = new WeakMap<Fault, boolean>();
  private ownChange?: PoweredChange;
  private ownBeside?: Beside;
  private ownPowered?: PoweredMeter;
  private ownParts: readonly PartElements[] | undefined;
  private ownSiteElements: readonly Element[] | undefined;
  /** The parts of a sound board in the same setup, whose elements serve wherever no fault is. */
  private readonly likeParts: readonly PartElements[] | undefined;

  /**
   * like: a state to begin from, solved where it can be; keepMemory: the chips remember what they
   * did in it.
   */
  constructor(
    private readonly index: BoardIndex,
    private readonly state: BoardState,
    like?: BenchState,
    private readonly keepMemory = false,
  ) {
    if (
      like &&
      like.index === index &&
      like.state.setup === state.setup &&
      like.state.faults.length === 0 &&
      like.state.absent.join() === state.absent.join()
    )
      this.likeParts = like.parts;
    this.network =
      (like && this.derivedFrom(like)) ?? buildNetwork(this.elements, index.nets, like?.network);
    this.startFrom =
      like?.settled?.ok === true && sameChips(like.network, this.network)
        ? like.settled
        : undefined;
    this.startNetwork = like?.network;
  }

  /** The circuit of this state, part by part. */
  private get parts(): readonly PartElements[] {
    return (this.ownParts ??= stateParts(this.index, this.state, this.likeParts));
  }

  /** What bridges and cuts add; the same objects each time. */
  private get siteElements(): readonly Element[] {
    return (this.ownSiteElements ??= siteElements(this.state.faults));
  }

  private get elements(): readonly Element[] {
    return [...this.parts.flatMap(({ elements }) => elements), ...this.siteElements];
  }

  /**
   * The network of a state that is another one with a few faults more; undefined where it needs a
   * structure of its own.
   */
  private derivedFrom(like: BenchState): Network | undefined {
    const { faults } = this.state;
    if (!this.likeParts || faults.length === 0) return undefined;
    const exchange = exchangeParts(
      like.network,
      touchedParts(this.index, this.state, this.likeParts),
      faults,
    );
    return exchange?.whole ? exchange.network : undefined;
  }

  /** What stands beside this state; undefined where it has no solution. */
  private get beside(): Beside | undefined {
    const settled = this.solve();
    if (!settled.ok) return undefined;
    return (this.ownBeside ??= new Beside(
      this.index,
      this.state,
      this.parts,
      this.network,
      settled,
    ));
  }

  private get ohmmeter(): Ohmmeter {
    if (this.ownOhmmeter) return this.ownOhmmeter;
    const whole = new WholeOffBoard(this.network);
    // A board with faults is asked once or twice, the sound one for everything.
    if (this.state.faults.length > 0) return (this.ownOhmmeter = new Ohmmeter(whole));
    return (this.ownOhmmeter = new Ohmmeter(
      new FirstOf(new NearOffBoard(this.offPoint, this.network, NO_DIFFERENCE), whole),
      this.offPoint,
    ));
  }

  /** This board off and at rest. */
  private get offPoint(): Vicinity {
    return (this.ownOffPoint ??= new Vicinity(
      this.network,
      new Uint8Array(this.network.drivers.length),
      new Float64Array(this.network.size),
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
    const exchange = exchangeParts(
      this.network,
      touchedParts(this.index, { ...this.state, faults }, this.parts),
      faults,
    );
    known = exchange
      ? new Ohmmeter(new NearOffBoard(this.offPoint, exchange.network, exchange.difference))
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
      powerOf(this.state.setup) !== 'off' ||
      (m.kind !== 'resistance' && m.kind !== 'continuity' && m.kind !== 'diode')
    )
      return undefined;
    const ohmmeter = this.ohmmeterWith(faults);
    const answer = ohmmeter && this.driveWith(ohmmeter, m);
    return !answer || 'ok' in answer ? undefined : answer;
  }

  private driveWith(ohmmeter: Ohmmeter, m: Measurement): Response | NoOperatingPoint | undefined {
    const [a, b] = [this.nodeAt(m.at), this.nodeAt(m.to)];
    if (m.kind === 'diode')
      return ohmmeter.testCurrent(a, b, METER.diodeAmpere, METER.diodeOverloadVolt, 4);
    if (m.kind !== 'continuity') return ohmmeter.resistance(a, b);
    const volts = ohmmeter.testCurrent(a, b, METER.continuityAmpere, Infinity, 1);
    return volts && asOhms(volts, METER.continuityAmpere);
  }

  /**
   * The board at rest, circuit and logic together, or why it has no solution. Off, everything is at
   * zero.
   */
  solve(): Settled | NoOperatingPoint {
    if (this.settled) return this.settled;
    if (powerOf(this.state.setup) === 'off') return (this.settled = atZero(this.network));
    const result = settle(this.network, {
      from: this.startFrom,
      fromNetwork: this.startNetwork,
      keepMemory: this.keepMemory,
    });
    this.network.lu.owner = undefined;
    return (this.settled = result);
  }

  /**
   * Volts of every net to net 0; null where nothing gives a net its level, or where nobody knows
   * which level a chip gives it.
   */
  netVolts(): Record<string, number | null> | NoOperatingPoint {
    const settled = this.solve();
    if (!settled.ok) return settled;
    const held =
      this.network.chips.length > 0 ? heldNodes(this.network, settled.drives[0]!) : undefined;
    return Object.fromEntries(
      this.index.nets.map((net): [string, number | null] => {
        const node = nodeOf(this.network, net)!;
        if (node < 0) return [net, 0];
        if (
          this.network.component[node] !== 0 ||
          held?.[node] === 0 ||
          isUnknown(this.network, settled, node)
        )
          return [net, null];
        return [net, meanVolt(settled, node, -1)];
      }),
    );
  }

  /**
   * Volts of every net, small enough to be kept for thousands of states; undefined where there is
   * no solution.
   */
  snapshot(): VoltSnapshot | undefined {
    if (this.ownBeside) return this.ownBeside.sound;
    const settled = this.solve();
    if (!settled.ok) return undefined;
    const { index, network, state } = this;
    const held = heldNodes(network, settled.drives[0]!, settled.phases[0]);
    return takeSnapshot({
      index,
      network,
      settled,
      setup: state.setup,
      held,
      ownedBy: (ref) => this.ownedBy(ref),
    });
  }

  /**
   * What of the nets is not as here once the board has these faults too; undefined where that needs
   * a state of its own.
   */
  snapshotWith(faults: readonly FaultState[]): VoltSnapshot | undefined {
    return this.beside?.snapshot(faults);
  }

  /**
   * What is odd about the logic of the board at rest: outputs against each other, and outputs that
   * never come to rest.
   */
  troubles(): {
    readonly contentions: readonly Contention[];
    readonly oscillating: readonly string[];
  } {
    const settled = this.solve();
    if (!settled.ok) return { contentions: [], oscillating: [] };
    return {
      contentions: contentions(this.network, settled),
      oscillating: [...settled.oscillating].map((driver) => this.network.drivers[driver]!),
    };
  }

  /** What the standard meter answers. A board that cannot be solved gives its reason instead. */
  respond(m: Measurement): Response | NoOperatingPoint {
    if (m.kind === 'esr') return this.esr(m);
    if (m.kind === 'current') return ammeter(this.index, this.state, m);
    if (m.kind === 'symptom') {
      const settled = this.solve();
      return settled.ok ? this.symptom(m, settled.phases) : settled;
    }
    const a = this.nodeAt(m.at);
    const b = this.nodeAt(m.to);
    if (m.kind === 'logic' || m.kind === 'voltage') {
      const meter = this.powered;
      return 'ok' in meter ? meter : m.kind === 'logic' ? meter.probe(a, b) : meter.voltage(a, b);
    }
    return this.driveWith(this.ohmmeter, m) ?? { ok: false, why: 'not converged', at: m.at.net };
  }

  /** Whether a symptom is seen: the value is the chance that it is. */
  private symptom({ observable }: Measurement, phases: readonly Float64Array[]): Response {
    return { value: observable ? this.chanceOf(observable, phases) : 0, spread: 0, fullScale: 1 };
  }

  private chanceOf(observable: Observable, phases: readonly Float64Array[]): number {
    return chanceSeen(this.index, observable, this.network, phases, (ref) => this.ownedBy(ref));
  }

  private ownedBy(ref: string): ReadonlySet<unknown> {
    return new Set(this.parts.find(({ part }) => part.ref === ref)?.elements);
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
      level === undefined || powerOf(this.state.setup) === 'off' ? undefined : this.solve();
    if (fault.type !== 'mode' || level === undefined || !settled?.ok) return false;
    const c = this.network.chips.findIndex(({ logic }) => logic.ref === fault.part.ref);
    const chip = this.network.chips[c];
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

  /**
   * The node a probe touches: on a dry pin the part's side of the joint, on a pin behind a cut that
   * side.
   */
  private nodeName(point: Point): string {
    return (point.pin && nodeBehind(point.pin, this.state.faults)) ?? point.net;
  }

  private nodeAt(point: Point): number {
    return nodeOf(this.network, this.nodeName(point)) ?? nodeOf(this.network, point.net) ?? -1;
  }

  private joined(a: number, b: number): boolean {
    return areJoined(this.network, a, b);
  }

  /** A voltmeter and a probe on the powered board, or why there is no solution to measure. */
  private get powered(): PoweredMeter | NoOperatingPoint {
    const settled = this.solve();
    if (!settled.ok) return settled;
    return (this.ownPowered ??= new PoweredMeter(
      this.network,
      settled,
      (more) => buildNetwork([...this.elements, more], this.index.nets),
      () => this.ownBeside?.points[0],
    ));
  }

  /** Lets go of what was kept for many questions in a row. */
  forgetNearby(): void {
    this.ownPowered?.forgetNearby();
  }

  /**
   * What a meter answers after one admittance of this state has changed; undefined where a short
   * way does not apply and a state of its own has
   * to be solved. Exact where it is given: by the rank-one update where everything is linear, and
   * wherever the changed element has no voltage.
   */
  respondAfter(m: Measurement, change: LinearChange): Response | undefined {
    if (m.kind === 'esr') {
      this.ac ??= smallSignal(this.elements, METER.esrHertz);
      const z = impedanceAfter(
        this.ac,
        this.nodeName(m.at),
        this.nodeName(m.to),
        change,
        METER.esrHertz,
        UNSEEN_ESR,
      );
      return (
        z && { value: z.re, spread: z.reSpread, fullScale: Infinity, z: { re: z.re, im: z.im } }
      );
    }
    if (m.kind === 'current') return undefined;
    if (m.kind === 'symptom') return this.symptomAfter(m, change);
    const [a, b, p, q] = [
      this.nodeAt(m.at),
      this.nodeAt(m.to),
      nodeOf(this.network, change.a),
      nodeOf(this.network, change.b),
    ];
    if (p === undefined || q === undefined || a === b || !this.joined(a, b) || !this.joined(p, q))
      return undefined;
    if (m.setup === 'off' && (m.kind === 'resistance' || m.kind === 'continuity')) {
      const updated = this.ohmmeter.after(
        m.kind,
        a,
        b,
        p,
        q,
        change,
        () => this.ownAnswer(m)?.response,
      );
      if (updated) return updated;
    }
    const still = this.unmoved(m, p, q);
    if (still || (m.kind !== 'voltage' && m.kind !== 'logic') || !this.settled?.ok) return still;
    this.ownChange ??= new PoweredChange(this.network, this.settled, this.beside!.points);
    const known = this.own.get(measurementKey(m));
    return known && this.ownChange.respond(m.kind, a, b, known, p, q, change);
  }

  /** A symptom after a change, where the changed part is not the one whose current is looked at. */
  private symptomAfter(m: Measurement, change: LinearChange): Response | undefined {
    const settled = this.solve();
    const [p, q] = [nodeOf(this.network, change.a), nodeOf(this.network, change.b)];
    if (
      !settled.ok ||
      p === undefined ||
      q === undefined ||
      !this.joined(p, q) ||
      m.observable?.when.some(({ type }) => type === 'ampere')
    )
      return undefined;
    this.ownChange ??= new PoweredChange(this.network, settled, this.beside!.points);
    const phases = this.ownChange.after(p, q, change.siemens);
    return phases && this.symptom(m, phases);
  }

  /**
   * This state's own answer, where the element between p and q has no voltage while it is measured:
   * then no change of it can be seen.
   */
  private unmoved(m: Measurement, p: number, q: number): Response | undefined {
    const known = this.ownAnswer(m);
    if (!known?.x) return undefined;
    const { x } = known;
    const driven = Math.abs(across(x, this.nodeAt(m.at), this.nodeAt(m.to)));
    const still = (phase: Float64Array): boolean =>
      Math.abs(across(phase, p, q)) <= UNMOVED * (driven + 1e-3);
    const phases = m.setup !== 'off' && this.settled?.ok ? this.settled.phases : [x];
    return phases.every(still) ? known.response : undefined;
  }

  /**
   * What this state answers itself, kept. `x`: the circuit while it is measured, where that tells
   * which elements take part.
   */
  private ownAnswer(
    m: Measurement,
  ): (PoweredReading & { x: Float64Array | undefined }) | undefined {
    const key = measurementKey(m);
    let known = this.own.get(key);
    if (known) return known;
    this.ohmmeter.lastX = undefined;
    if (this.ownPowered) this.ownPowered.lastX = undefined;
    const response = this.respond(m);
    if ('ok' in response) return undefined;
    const share = this.ownPowered?.lastShare ?? 1;
    const heldDown = m.setup === 'off' || share > 0.999;
    this.own.set(
      key,
      (known = {
        response,
        share,
        x: heldDown ? (this.ownPowered?.lastX ?? this.ohmmeter.lastX) : undefined,
      }),
    );
    return known;
  }

  private esr(m: Measurement): Response {
    this.ac ??= smallSignal(this.elements, METER.esrHertz);
    const z: Impedance | undefined = impedance(this.ac, this.nodeName(m.at), this.nodeName(m.to));
    if (!z) return { value: Infinity, spread: 0, fullScale: Infinity };
    return { value: z.re, spread: z.reSpread, fullScale: Infinity, z: { re: z.re, im: z.im } };
  }
}

/** A board that is off: nothing has a voltage and no chip drives. */
function atZero(network: Network): Settled {
  const drives = new Uint8Array(network.drivers.length);
  return {
    ok: true,
    phases: [new Float64Array(network.size)],
    drives: [drives],
    driven: drives,
    seen: [],
    memories: [],
    oscillating: new Set(),
  };
}

function sameChips(a: Network, b: Network): boolean {
  return a.drivers.length === b.drivers.length && a.chips.length === b.chips.length;
}

function asOhms(volts: Response | NoOperatingPoint, ampere: number): Response | NoOperatingPoint {
  if ('ok' in volts) return volts;
  return {
    value: volts.value / ampere,
    spread: volts.spread / ampere,
    fullScale: METER.ohmRanges[0]![0],
  };
}
