import type { BoardIndex, Setup } from '../board';
import {
  changesDc,
  faultsKey,
  nodeBehind,
  type Fault,
  type JointHypothesis,
  type FaultState,
  type Hypothesis,
  type SingleHypothesis,
} from '../fault';
import {
  BenchState,
  INCREMENTAL,
  type FaultSolver,
  answerKey,
  readSnapshot,
  stateOn,
  UNMOVED_SHARE,
  type Measurement,
  type Response,
  type VoltSnapshot,
} from '../instrument';
import { FaultClasses, SOUND, type Answerer } from './fault-collapsing';

/** A response for a board that has no solution: nothing can be predicted, so nothing is claimed. */
const UNKNOWN: Response = { value: 0, spread: 0, fullScale: 400, unknown: true };

/**
 * Solved faulty boards kept at a time: bounds the memory on large boards, and is enough for those
 * that no snapshot can answer for.
 */
const MAX_STATES = 150;
/**
 * Boards smaller than this are solved anew for every reading, which is exact in the meter's load
 * and the spread too and costs little.
 */
const SNAPSHOTS_FROM_PARTS = 60;
/** Snapshots kept at a time in a situation: a few hundred bytes to a few kilobytes each. */
const MAX_CACHED = 60_000;

/**
 * Within so many standard deviations of the sound board's reading a faulty board's has the same
 * spread.
 */
const NEARBY = 1;

const NONE: readonly string[] = [];

/**
 * Answers to one measurement by the slot of a hypothesis and severity; most slots are empty on a
 * board that is not searched to its end.
 */
type Row = (Response | undefined)[];

/** A measurement with what answers it have been found so far. */
export interface Asked {
  readonly m: Measurement;
  readonly absent: readonly string[];
  readonly healthy: Response;
  /** Whether it is one of direct current with every part on the board. */
  readonly direct: boolean;
  readonly row: Row;
}

/** The board as it stands for a reading: in a setup, with some parts off it. */
interface Situation {
  /** For what is kept by name. */
  readonly key: string;
  readonly sound: BenchState;
  /**
   * Volts of every net of solved faulty boards, by the slot of a hypothesis and severity; null
   * where there is no solution.
   */
  readonly cache: Map<number, VoltSnapshot | null>;
}

/**
 * Predicts readings under hypotheses, and remembers what it solved. Lives as long as a board is
 * being worked on.
 */
export class Predictor {
  private readonly situations = new Map<string, Situation>();
  private readonly states = new Map<string, BenchState>();
  /** The faulty board asked last: only that one keeps what costs memory. */
  private latest: BenchState | undefined;
  /** Answers by measurement, then by the slot of a hypothesis and severity. */
  private readonly responses = new Map<string, Row>();
  /**
   * The same by the object itself, with every part on the board: what is asked thousands of times
   * in a row.
   */
  private readonly rows = new WeakMap<Measurement, Row>();
  private readonly classes: FaultClasses;

  /** solver: how faulty boards are solved. */
  constructor(
    readonly index: BoardIndex,
    private readonly solver: FaultSolver = INCREMENTAL,
  ) {
    this.classes = new FaultClasses(index);
  }

  /** What the meter shows on the healthy board. */
  healthy(m: Measurement, absent: readonly string[] = NONE): Response {
    const row = this.rowOf(m, absent);
    return (row[SOUND] ??= orUnknown(this.situation(m.setup, absent).sound.respond(m)));
  }

  /**
   * What the meter shows under a hypothesis, for each of its severities; a single answer where
   * severity cannot matter.
   */
  under(
    hypothesis: Hypothesis,
    m: Measurement,
    absent: readonly string[] = NONE,
  ): readonly Response[] {
    if (hypothesis.type === 'joint') return [this.at(hypothesis, 0, m, absent)];
    const healthy = this.healthy(m, absent);
    if (!canShow(hypothesis, m)) return [healthy];
    const { severities, discrete } = hypothesis;
    // A range that does not move the reading at either end does not in between.
    if (
      !discrete &&
      severities.length > 2 &&
      this.at(hypothesis, 0, m, absent) === healthy &&
      this.at(hypothesis, severities.length - 1, m, absent) === healthy
    )
      return [healthy];
    return severities.map((_, i) => this.at(hypothesis, i, m, absent));
  }

  /** What the meter shows under a hypothesis at its i-th severity. */
  at(
    hypothesis: Hypothesis,
    i: number,
    m: Measurement,
    absent: readonly string[] = NONE,
  ): Response {
    const row = this.rowOf(m, absent);
    const who = this.classes.of(
      hypothesis,
      i,
      this.probesJoint(hypothesis, m),
      absent.length === 0 && seesDirectCurrent(m),
    );
    return row[who.slot] ?? this.find(hypothesis, who, row, m, absent);
  }

  /** A measurement made ready to be asked under many hypotheses. */
  ask(m: Measurement, absent: readonly string[] = NONE): Asked {
    return {
      m,
      absent,
      healthy: this.healthy(m, absent),
      direct: absent.length === 0 && seesDirectCurrent(m),
      row: this.rowOf(m, absent),
    };
  }

  /**
   * A hypothesis at its i-th severity made ready to answer many measurements, each as `at` would.
   */
  answering(hypothesis: Hypothesis, i: number): (asked: Asked) => Response {
    const [direct, other] = [
      this.classes.of(hypothesis, i, false, true),
      this.classes.of(hypothesis, i, false, false),
    ];
    const joint =
      hypothesis.type === 'single' &&
      (hypothesis.fault.type === 'dry' || hypothesis.fault.type === 'cut');
    return (asked) => {
      const { m, row } = asked;
      const atJoint = joint && this.probesJoint(hypothesis, m);
      const who = atJoint
        ? this.classes.of(hypothesis, i, true, asked.direct)
        : asked.direct
          ? direct
          : other;
      return row[who.slot] ?? this.find(hypothesis, who, row, m, asked.absent);
    };
  }

  /**
   * What a board with a fault comes to on these nets, as one text; undefined where its volts are
   * not kept. Ask after it has answered the reading.
   */
  stateOn(
    nets: readonly number[],
    hypothesis: SingleHypothesis,
    i: number,
    m: Measurement,
    absent: readonly string[] = NONE,
  ): string | undefined {
    const { slot } = this.classes.of(
      hypothesis,
      i,
      false,
      absent.length === 0 && seesDirectCurrent(m),
    );
    const snapshot = this.situation(m.setup, absent).cache.get(slot);
    return snapshot ? stateOn(snapshot, nets) : undefined;
  }

  private find(
    hypothesis: Hypothesis,
    who: Answerer,
    row: Row,
    m: Measurement,
    absent: readonly string[],
  ): Response {
    const healthy = this.healthy(m, absent);
    let found = canShow(hypothesis, m) ? this.answer(who, m, absent) : healthy;
    // One object for all that is the same: belief and plan then need not look at each.
    if (isAlike(healthy, found)) found = healthy;
    row[who.slot] = found;
    return found;
  }

  private answer(who: Answerer, m: Measurement, absent: readonly string[]): Response {
    const { hypothesis, k, slot } = who;
    if (hypothesis.type === 'joint') return this.joint(hypothesis, slot, m, absent);
    return this.one(hypothesis, k, slot, m, absent);
  }

  /** Several faults at once, the board solved with all of them. */
  private joint(
    hypothesis: JointHypothesis,
    slot: number,
    m: Measurement,
    absent: readonly string[],
  ): Response {
    const faults =
      m.setup === 'off'
        ? hypothesis.states.filter(({ fault }) => !isPoweredOnly(fault))
        : hypothesis.states;
    if (faults.length === 0) return this.healthy(m, absent);
    const { sound, key } = this.situation(m.setup, absent);
    const state = (): BenchState =>
      this.keep(`${faultsKey(faults)}|${key}`, () =>
        this.solver.state(this.index, { setup: m.setup, faults, absent }, sound),
      );
    return (
      this.fromSnapshot(slot, faults, m, absent, state) ??
      this.withFaults(faults, m, absent) ??
      orUnknown(state().respond(m))
    );
  }

  /**
   * What a meter shows on the board that is off, found beside the sound one; undefined for other
   * readings, and where only the state itself can tell.
   */
  private withFaults(
    faults: readonly FaultState[],
    m: Measurement,
    absent: readonly string[],
  ): Response | undefined {
    return this.touchesLifted(faults, m)
      ? undefined
      : this.solver.respond(this.situation(m.setup, absent).sound, faults, m);
  }

  /** Whether a fault by itself moves a reading at any of its severities. */
  moves(hypothesis: SingleHypothesis, m: Measurement, absent: readonly string[] = NONE): boolean {
    const healthy = this.healthy(m, absent);
    return this.under(hypothesis, m, absent).some((response) => isMoved(healthy, response));
  }

  private one(
    hypothesis: SingleHypothesis,
    i: number,
    slot: number,
    m: Measurement,
    absent: readonly string[],
  ): Response {
    const severity = hypothesis.severities[i]!;
    const { sound } = this.situation(m.setup, absent);
    if (sound.ignores(hypothesis.fault)) return this.healthy(m, absent);
    const state = (): BenchState => this.state(hypothesis, i, m.setup, absent);
    const faults = [{ fault: hypothesis.fault, severity }];
    const fromVolts = this.fromSnapshot(slot, faults, m, absent, state);
    const healthy = this.healthy(m, absent);
    if (fromVolts && isWithin(healthy, fromVolts, UNMOVED_SHARE)) return fromVolts;
    // So near to the sound board's reading part tolerance spreads it as there.
    if (fromVolts && isWithin(healthy, fromVolts, NEARBY))
      return { ...fromVolts, spread: healthy.spread };
    const change =
      absent.length === 0 && !this.probesJoint(hypothesis, m)
        ? this.classes.changeOf(hypothesis, i)
        : undefined;
    const quick = (change && this.solver.after(sound, m, change)) ?? fromVolts;
    if (quick) return quick;
    return this.withFaults(faults, m, absent) ?? orUnknown(state().respond(m));
  }

  /**
   * Volts and levels out of the snapshot of a faulty board, which is solved once a setup. Undefined
   * for other readings, and where only the state itself can tell.
   */
  private fromSnapshot(
    slot: number,
    faults: readonly FaultState[],
    m: Measurement,
    absent: readonly string[],
    solve: () => BenchState,
  ): Response | undefined {
    if (this.index.board.parts.length < SNAPSHOTS_FROM_PARTS) return undefined;
    if (m.kind !== 'voltage' && m.kind !== 'logic' && m.kind !== 'symptom') return undefined;
    if (m.kind !== 'symptom' && this.touchesLifted(faults, m)) return undefined;
    const healthy = this.healthy(m, absent);
    const { sound, cache } = this.situation(m.setup, absent);
    let snapshot = cache.get(slot);
    if (snapshot === undefined) {
      if (cache.size >= MAX_CACHED) cache.delete(cache.keys().next().value!);
      cache.set(slot, (snapshot = this.solver.snapshot(sound, faults, solve)));
    }
    return snapshot === null
      ? UNKNOWN
      : readSnapshot(this.index, snapshot, m, healthy, sound.snapshot());
  }

  /**
   * Whether a probe on its way to a net could touch a lifted pin instead: then the state itself has
   * to be asked.
   */
  private touchesLifted(faults: readonly FaultState[], { at, to }: Measurement): boolean {
    return (
      (at.pin !== undefined || to.pin !== undefined) &&
      faults.some(({ fault }) => fault.type === 'dry' || fault.type === 'cut')
    );
  }

  /**
   * Whether a probe sits on the very pin whose joint is in question, or behind the cut: then it
   * touches the part's side.
   */
  private probesJoint(hypothesis: Hypothesis, m: Measurement): boolean {
    if (hypothesis.type === 'joint') return false;
    const { fault } = hypothesis;
    if (fault.type !== 'dry' && fault.type !== 'cut') return false;
    return [m.at, m.to].some(
      ({ pin }) => pin !== undefined && nodeBehind(pin, [{ fault }]) !== undefined,
    );
  }

  private situation(setup: Setup, absent: readonly string[]): Situation {
    const key = absent.length === 0 ? setup : `${setup}|${absent.join()}`;
    let known = this.situations.get(key);
    if (!known)
      this.situations.set(
        key,
        (known = {
          key,
          sound: new BenchState(this.index, { setup, faults: [], absent }),
          cache: new Map(),
        }),
      );
    return known;
  }

  private state(
    hypothesis: SingleHypothesis,
    i: number,
    setup: Setup,
    absent: readonly string[],
  ): BenchState {
    const { key, sound } = this.situation(setup, absent);
    const severity = hypothesis.severities[i]!;
    const faults = [{ fault: hypothesis.fault, severity }];
    // By the severity itself: an open part has others where it stands for one of its joints.
    return this.keep(`${hypothesis.name}@${severity}|${key}`, () =>
      this.solver.state(this.index, { setup, faults, absent }, sound),
    );
  }

  private keep(key: string, make: () => BenchState): BenchState {
    let state = this.states.get(key);
    if (this.latest !== state) this.latest?.forgetNearby();
    if (!state) {
      state = make();
      if (this.states.size >= MAX_STATES) this.states.delete(this.states.keys().next().value!);
      this.states.set(key, state);
    }
    this.latest = state;
    return state;
  }

  /** The answers to one measurement. */
  private rowOf(m: Measurement, absent: readonly string[]): Row {
    const whole = absent.length === 0 ? this.rows.get(m) : undefined;
    if (whole) return whole;
    const key = absent.length === 0 ? answerKey(m) : `${answerKey(m)}|${absent.join()}`;
    let row = this.responses.get(key);
    if (!row) this.responses.set(key, (row = []));
    if (absent.length === 0) this.rows.set(m, row);
    return row;
  }
}

/**
 * Whether a reading is one of direct current between nets, in which only conductances count: no
 * ESR, and no symptom or cut that looks at a part's own current.
 */
function seesDirectCurrent({ kind }: Measurement): boolean {
  return kind !== 'esr' && kind !== 'current' && kind !== 'symptom';
}

const isPoweredOnly = (fault: Fault): boolean =>
  fault.type === 'bridge' && fault.poweredOnly === true;

/**
 * Whether a fault can show in a kind of reading at all: a lost farad not at DC, a stuck output not
 * with the power off.
 */
function canShow(hypothesis: Hypothesis, { kind, setup }: Measurement): boolean {
  if (hypothesis.type === 'joint') return true;
  const { fault } = hypothesis;
  if (setup === 'off' && isPoweredOnly(fault)) return false;
  if (kind !== 'esr' && !changesDc(fault)) return false;
  if (setup !== 'off' || fault.type === 'bridge' || fault.type === 'cut') return true;
  const { part } = fault.type === 'mode' ? fault : fault.pin;
  if (part.kind !== 'chip') return true;
  // With the power off a chip is its clamp diodes: only what shorts a pin, or a diode test, tells
  // of it.
  return kind === 'diode'
    ? fault.type === 'dry' || fault.mode.effect !== undefined
    : fault.type === 'mode' && fault.mode.effect === 'short';
}

/**
 * A reading counts as moved from this share of its standard deviation, or from this share of
 * itself.
 */
const MOVED = { ofSpread: 0.2, ofValue: 1e-3 } as const;

/** Two answers are one where value and spread differ by less than this share of the spread. */
const ALIKE = 0.01;

function isAlike(healthy: Response, other: Response): boolean {
  if (
    healthy.pulsing !== other.pulsing ||
    healthy.unknown !== other.unknown ||
    healthy.fullScale !== other.fullScale
  )
    return false;
  if (!Number.isFinite(healthy.value) || !Number.isFinite(other.value))
    return healthy.value === other.value;
  const room = ALIKE * healthy.spread;
  return (
    Math.abs(other.value - healthy.value) <= room && Math.abs(other.spread - healthy.spread) <= room
  );
}

/**
 * Whether a reading is no further from the sound board's than so many of its standard deviations.
 */
function isWithin(healthy: Response, other: Response, deviations: number): boolean {
  if (healthy === other) return true;
  return (
    healthy.pulsing === other.pulsing &&
    !other.unknown &&
    Math.abs(other.value - healthy.value) <= deviations * healthy.spread
  );
}

/** Whether two answers to one measurement are different to the eye. */
export function isMoved(healthy: Response, other: Response): boolean {
  if (healthy === other) return false;
  if (healthy.pulsing !== other.pulsing || healthy.unknown !== other.unknown) return true;
  if (!Number.isFinite(healthy.value) || !Number.isFinite(other.value))
    return healthy.value !== other.value;
  return (
    Math.abs(other.value - healthy.value) >
    MOVED.ofSpread * healthy.spread + MOVED.ofValue * Math.abs(healthy.value) + 1e-6
  );
}

function orUnknown(result: ReturnType<BenchState['respond']>): Response {
  return 'ok' in result ? UNKNOWN : result;
}
