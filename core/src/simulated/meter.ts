import { findPoint } from '../board';
import {
  accuracyLimit,
  logicLevel,
  STANDARD_METER,
  voltRange,
  type MeterProfile,
} from '../instrument';
import { normal, type Random } from '../practice';
import type { BenchBoard } from './bench-board';

/** What the simulated meter can be set to. */
export const FUNCTIONS = ['voltage', 'resistance', 'continuity', 'diode', 'esr', 'logic'] as const;
export type BenchFunction = (typeof FUNCTIONS)[number];

/** What stands for overload, as SCPI has it. Source: SCPI-1999, volume 1, 7.2.1.4. */
export const OVERLOAD = 9.9e37;

/** One reading, and how long the instrument took over it. */
export interface Taken {
  /** SI units; OVERLOAD beyond the range; a level as the probe shows it. */
  readonly value: number | '0' | '1' | 'P' | 'Z';
  readonly milliseconds: number;
  /** The range it was read on, full scale. */
  readonly fullScale: number;
}

/** Of all this: from memory of bench practice. */
const HABIT = {
  /** One conversion, and one step from range to range, ms. */
  apertureMs: 100,
  rangeStepMs: 80,
  /** How fast a reading comes to rest after the probes have moved, time constant in ms. */
  settlingMs: 45,
  /** What the leads add, ohm. */
  leadOhm: [0.05, 0.3],
  /** Deviation of one reading, counts. */
  noiseCounts: 0.4,
  /** Volts from outside that make nonsense of what the meter drives by itself. */
  liveVolt: 0.02,
  /** Volts that blow the fuse of a meter that is set to ohms. */
  blowsMeterVolt: 60,
  /** How often a probe slips, and how often of that it joins two pins. */
  slips: 1 / 20,
  slipsBridge: 1 / 4,
  /** Full scale of the ESR meter, ohm. */
  esrFullScale: 100,
} as const;

/** Where the probes are, as they were named. */
export interface Probes {
  readonly at: string;
  readonly to: string;
}

/**
 * A meter, an ESR meter and a logic probe on a board, with what makes a real one lie: its own error,
 * noise, leads, ranges, the time it takes to come to rest, a hand that slips, and power where there
 * should be none. clock: milliseconds from any start.
 */
export class SimulatedMeter {
  private probes: Probes | 'apart' | 'together' = 'apart';
  /** Where they are in truth, where a hand has slipped. */
  private touched: Probes | 'apart' | 'together' = 'apart';
  private changedAt = -Infinity;
  /** What was shown last, which a reading comes to rest from. */
  private shown = 0;
  private readonly leadOhm: number;
  private readonly gain: ReadonlyMap<BenchFunction, number>;
  private nullOhm = 0;
  private lastRange = new Map<BenchFunction, number>();
  isFuseBlown = false;

  constructor(
    private readonly board: BenchBoard,
    private readonly random: Random,
    private readonly clock: () => number,
    private readonly hasSlips: boolean,
  ) {
    const [least, most] = HABIT.leadOhm;
    this.leadOhm = least + (most - least) * random();
    // The gain of each function is off by a share of its accuracy, once for all.
    this.gain = new Map(FUNCTIONS.map((kind) => [kind, 2 * random() - 1]));
  }

  get where(): Probes | 'apart' | 'together' {
    return this.probes;
  }

  /** @throws RangeError where the board has no such place. */
  probe(at: string, to: string): void {
    for (const name of [at, to]) if (!findPoint(this.board.index, name)) throw new RangeError(name);
    this.move({ at, to });
    if (!this.hasSlips || this.random() > HABIT.slips) return;
    const beside = this.neighbour(at);
    if (beside === undefined) {
      this.touched = 'apart';
      return;
    }
    this.touched = { at: beside, to };
    const nets = [at, beside].map((name) => findPoint(this.board.index, name)!.net);
    if (this.random() < HABIT.slipsBridge && nets[0] !== nets[1])
      this.board.bridgeForAMoment(nets[0]!, nets[1]!);
  }

  /** The probes in the air, or held on each other. */
  lift(together = false): void {
    this.move(together ? 'together' : 'apart');
  }

  /** Something about the board has changed: what is shown comes to rest anew. */
  disturb(): void {
    this.changedAt = this.clock();
  }

  /** Takes what is shown with the probes held together off every reading of ohms from now on. */
  zeroLeads(): void {
    this.nullOhm = this.touched === 'together' ? this.leadOhm : 0;
  }

  forgetZero(): void {
    this.nullOhm = 0;
  }

  private move(probes: Probes | 'apart' | 'together'): void {
    this.probes = probes;
    this.touched = probes;
    this.disturb();
  }

  /** The pin beside a pin of the same part; undefined for a net. */
  private neighbour(name: string): string | undefined {
    const pin = findPoint(this.board.index, name)?.pin;
    if (!pin) return undefined;
    const other = pin.index + 1 < pin.part.pins.length ? pin.index + 1 : pin.index - 1;
    return pin.part.pins[other] === undefined ? undefined : `${pin.part.ref}.${other + 1}`;
  }

  /** How long the next reading takes, ms. range: full scale where it is fixed. */
  duration(kind: BenchFunction, range: number | undefined): number {
    const fullScale = range ?? this.autoRange(kind, Math.abs(this.truth(kind)));
    const last = this.lastRange.get(kind) ?? fullScale;
    const steps = Number.isFinite(fullScale / last) ? Math.abs(Math.log10(fullScale / last)) : 0;
    return HABIT.apertureMs + HABIT.rangeStepMs * Math.ceil(steps - 1e-9);
  }

  /** Takes a reading at this moment. range: full scale where it is fixed. */
  take(kind: BenchFunction, range: number | undefined): Taken {
    const milliseconds = this.duration(kind, range);
    this.endanger(kind);
    if (kind === 'logic') return { value: this.level(), milliseconds, fullScale: 5 };
    const truth = this.truth(kind, range);
    const fullScale = range ?? this.autoRange(kind, Math.abs(truth));
    if (Number.isFinite(fullScale)) this.lastRange.set(kind, fullScale);
    const raw = this.settling(this.withOwnError(kind, truth, fullScale), kind);
    this.shown = Number.isFinite(raw) ? raw : 0;
    const value = isOver(kind, raw, fullScale) ? OVERLOAD : onDisplay(kind, raw, fullScale);
    return { value, milliseconds, fullScale };
  }

  /** A meter that drives its own current into a live board may not live on. */
  private endanger(kind: BenchFunction): void {
    if (drivesItself(kind) && Math.abs(this.liveVolts()) > HABIT.blowsMeterVolt)
      this.isFuseBlown = true;
  }

  private liveVolts(): number {
    return typeof this.touched === 'string'
      ? 0
      : this.board.volts(this.touched.at, this.touched.to);
  }

  /** What there is to be read, without the instrument's own error; infinite for nothing. */
  private truth(kind: BenchFunction, range?: number): number {
    if (kind === 'voltage' || kind === 'logic') return this.liveVolts();
    if (this.isFuseBlown || this.touched === 'apart') return Infinity;
    const leads = kind === 'diode' ? 0 : this.leadOhm - this.nullOhm;
    if (this.touched === 'together') return leads;
    const live = this.liveVolts();
    if (Math.abs(live) > HABIT.liveVolt) return nonsense(kind, live);
    const response = this.board.isPowered
      ? undefined
      : this.board.respond(kind, this.touched.at, this.touched.to, onRange(kind, range));
    return (response?.value ?? Infinity) + leads;
  }

  private level(): '0' | '1' | 'P' | 'Z' {
    if (typeof this.touched === 'string') return 'Z';
    if (!this.board.isPowered) {
      const ohm = this.board.respond('resistance', this.touched.at, '0')?.value ?? Infinity;
      return ohm < STANDARD_METER.logicInputOhm / 100 ? '0' : 'Z';
    }
    const response = this.board.respond('logic', this.touched.at, this.touched.to);
    if (!response) return 'Z';
    return response.pulsing ? 'P' : logicLevel(response.value);
  }

  private autoRange(kind: BenchFunction, size: number): number {
    if (kind === 'voltage' || kind === 'logic') return voltRange(size);
    if (kind === 'diode') return 4;
    if (kind === 'esr') return HABIT.esrFullScale;
    const ranges = STANDARD_METER.ohmRanges.map(([range]) => range);
    if (kind === 'continuity') return ranges[0]!;
    return ranges.find((range) => size <= range) ?? ranges.at(-1)!;
  }

  private withOwnError(kind: BenchFunction, truth: number, fullScale: number): number {
    if (!Number.isFinite(truth)) return truth;
    const accuracy = kind === 'logic' ? 'voltage' : kind;
    const limit = accuracyLimit(accuracy, truth, fullScale);
    const noise = HABIT.noiseCounts * countOf(kind, fullScale) * normal(this.random, 3);
    // Half of the limit, so that what is read lies within it with the noise on top.
    const value = truth + 0.5 * limit * this.gain.get(kind)! + noise;
    return kind === 'voltage' || kind === 'diode' ? value : Math.max(0, value);
  }

  private settling(value: number, kind: BenchFunction): number {
    if (!Number.isFinite(value)) return value;
    const left = Math.exp(-(this.clock() - this.changedAt) / HABIT.settlingMs);
    const from = kind === 'voltage' ? this.shown : 0;
    return value + (from - value) * Math.min(1, left);
  }
}

function drivesItself(kind: BenchFunction): boolean {
  return kind !== 'voltage' && kind !== 'logic';
}

/** What a meter that drives its own current shows of volts that come from outside. */
function nonsense(kind: BenchFunction, volt: number): number {
  if (kind === 'diode') return volt > 0 ? volt : Infinity;
  return volt > 0 ? volt / STANDARD_METER.continuityAmpere : Infinity;
}

function countOf(kind: BenchFunction, fullScale: number): number {
  return kind === 'esr' ? STANDARD_METER.esrCountOhm : fullScale / STANDARD_METER.counts;
}

function isOver(kind: BenchFunction, value: number, fullScale: number): boolean {
  if (!Number.isFinite(value)) return true;
  if (kind === 'diode') return value >= STANDARD_METER.diodeOverloadVolt;
  return Math.abs(value) > fullScale;
}

function onDisplay(kind: BenchFunction, value: number, fullScale: number): number {
  const count = countOf(kind, fullScale);
  return Math.round(value / count) * count;
}

/** The meter held on one range of ohms: it drives the current of that range, whatever hangs there. */
function onRange(kind: BenchFunction, range: number | undefined): MeterProfile | undefined {
  const held = STANDARD_METER.ohmRanges.find(([fullScale]) => fullScale === range);
  return kind === 'resistance' && held ? { ...STANDARD_METER, ohmRanges: [held] } : undefined;
}
