import { indexBoard, nameKey, setupNames, type Board, type Setup } from '../board';
import { STANDARD_METER } from '../instrument';
import { seeded, variedBoard } from '../practice';
import {
  ScpiError,
  ScpiInstrument,
  type ScpiArguments,
  type ScpiCommand,
  type ScpiDevice,
  type ScpiStatus,
} from '../scpi';
import { ACTIONS_EXPECTED, carryOut } from './actions';
import { BenchBoard } from './bench-board';
import { SIMULATED } from './name';
import { OVERLOAD, SimulatedMeter, type BenchFunction, type Taken } from './meter';

/** What a simulated bench is made of. */
export interface BenchWish {
  readonly board: Board;
  /** Hidden faults by name, with a severity if need be. */
  readonly faults: readonly string[];
  readonly setup?: Setup;
  /** Where the parts' true values, noise and slips come from: a whole number above zero. */
  readonly seed: number;
  readonly slips: boolean;
  /** Whether the parts have the values of the sheet to the last digit. */
  readonly exact?: boolean;
}

/** Time, as the bench sees it. */
export interface BenchTime {
  /** Milliseconds from any start. */
  readonly now: () => number;
  readonly wait: (milliseconds: number) => Promise<void>;
}

/** The functions by their headers, with their ranges: full scales, smallest first. */
const HEADERS: readonly {
  readonly kind: BenchFunction;
  readonly header: string;
  readonly name: string;
  readonly unit?: 'V' | 'OHM';
  readonly ranges: readonly number[];
}[] = [
  { kind: 'voltage', header: 'VOLTage[:DC]', name: 'VOLT', unit: 'V', ranges: STANDARD_METER.voltRanges },
  { kind: 'resistance', header: 'RESistance', name: 'RES', unit: 'OHM', ranges: STANDARD_METER.ohmRanges.map(([range]) => range) },
  { kind: 'continuity', header: 'CONTinuity', name: 'CONT', ranges: [STANDARD_METER.ohmRanges[0]![0]] },
  { kind: 'diode', header: 'DIODe', name: 'DIOD', ranges: [4] },
  { kind: 'esr', header: 'IMPedance:ESR', name: 'IMP:ESR', unit: 'OHM', ranges: [100] },
  { kind: 'logic', header: 'LOGic', name: 'LOG', ranges: [5] },
]; // prettier-ignore

/** How long a reading waits for the probes to come to rest where nobody says otherwise, s. */
const AUTO_DELAY = 0.4;
const LONGEST_DELAY = 60;
const MOST_READINGS = 1000;
/** Bits of the STATus registers. Source: SCPI-1999, volume 2, 20. */
const MEASURING = 16;
const WAITING_FOR_TRIGGER = 32;

/**
 * A bench with a board on it that is spoken to by program messages: meter, ESR meter, logic probe
 * and supply. The commands are those of docs/formats/bench.md.
 *
 * @throws Error where a fault is none of the board's.
 */
export function simulatedBench(wish: BenchWish, time: BenchTime): ScpiInstrument {
  return new ScpiInstrument(new Bench(wish, time));
}

class Bench implements ScpiDevice {
  readonly identity = [SIMULATED.maker, SIMULATED.model, '0', '1'] as const;
  private readonly board: BenchBoard;
  private readonly meter: SimulatedMeter;
  private kind: BenchFunction = 'voltage';
  /** Full scale by function where it is fixed. */
  private readonly ranges = new Map<BenchFunction, number>();
  private source: 'IMMediate' | 'BUS' = 'IMMediate';
  private delay: number | 'auto' = 'auto';
  private count = 1;
  private isArmed = false;
  private readings: readonly Taken[] = [];
  private lastEvents = 0;
  private work: Promise<void> = Promise.resolve();
  private status?: ScpiStatus;

  constructor(
    wish: BenchWish,
    private readonly time: BenchTime,
  ) {
    const random = seeded(wish.seed);
    const real = wish.exact ? wish.board : variedBoard(wish.board, random);
    this.board = new BenchBoard(real, wish.faults, wish.setup ?? 'on');
    this.meter = new SimulatedMeter(this.board, random, time.now, wish.slips);
  }

  reset(): void {
    this.kind = 'voltage';
    this.ranges.clear();
    this.source = 'IMMediate';
    this.delay = 'auto';
    this.count = 1;
    this.abort();
    this.readings = [];
    this.meter.lift();
    this.meter.forgetZero();
    this.board.power(false);
    this.board.limitSupply(Infinity);
  }

  selfTest(): number {
    return this.meter.isFuseBlown ? 1 : 0;
  }

  settled(): Promise<void> {
    return this.work;
  }

  trigger(): Promise<void> {
    if (!this.isArmed) throw new ScpiError('-211');
    return this.measureNow();
  }

  private abort(): void {
    this.isArmed = false;
    this.status?.operation.set(0);
  }

  private async initiate(): Promise<void> {
    if (this.isArmed) throw new ScpiError('-213');
    this.readings = [];
    if (this.source === 'BUS') {
      this.isArmed = true;
      this.status?.operation.set(WAITING_FOR_TRIGGER);
      return;
    }
    await this.measureNow();
  }

  private measureNow(): Promise<void> {
    this.isArmed = false;
    return (this.work = this.takeAll());
  }

  private async takeAll(): Promise<void> {
    this.status?.operation.set(MEASURING);
    const taken: Taken[] = [];
    const seconds = this.delay === 'auto' ? AUTO_DELAY : this.delay;
    await this.time.wait(1000 * seconds);
    for (let i = 0; i < this.count; i += 1) {
      await this.time.wait(this.meter.duration(this.kind, this.ranges.get(this.kind)));
      taken.push(this.meter.take(this.kind, this.ranges.get(this.kind)));
    }
    this.readings = taken;
    this.status?.operation.set(0);
  }

  private fetch(): string {
    if (this.readings.length === 0) throw new ScpiError('-230', 'no reading has been taken');
    return this.readings.map(({ value }) => response(value)).join(',');
  }

  /** Takes up what has happened to the board, so that the next reading comes to rest anew. */
  private disturbed(): void {
    this.meter.disturb();
  }

  commands(status: ScpiStatus): readonly ScpiCommand[] {
    this.status = status;
    return [
      ...HEADERS.flatMap((function_) => this.functionCommands(function_)),
      { header: 'CONFigure', query: () => `"${this.configuration()}"` },
      ...this.takingCommands(),
      ...this.triggerCommands(),
      ...this.probeCommands(),
      ...this.benchCommands(),
    ];
  }

  private configuration(): string {
    const range = this.ranges.get(this.kind);
    return `${nameOf(this.kind)} ${range === undefined ? 'AUTO' : response(range)}`;
  }

  private functionCommands({
    kind,
    header,
    unit,
    ranges,
  }: (typeof HEADERS)[number]): readonly ScpiCommand[] {
    const limits = {
      ...(unit ? { unit } : {}),
      least: ranges[0]!,
      most: ranges.at(-1)!,
      usual: ranges.at(-1)!,
    };
    // A range is named by the largest value expected: the smallest that shows it is taken.
    const takeRange = (args: ScpiArguments): number => {
      const value = args.number({ ...limits, least: 0 });
      return ranges.find((range) => value <= range)!;
    };
    const configure = (args: ScpiArguments): void => {
      const range =
        args.isDone || args.takesKeyword('AUTO') || args.takesKeyword('DEFault')
          ? undefined
          : takeRange(args);
      // The resolution is that of the range.
      if (!args.isDone && !args.takesKeyword('DEFault')) args.number({ ...limits, least: 0 });
      this.abort();
      this.kind = kind;
      this.source = 'IMMediate';
      this.delay = 'auto';
      this.count = 1;
      this.readings = [];
      if (range === undefined) this.ranges.delete(kind);
      else this.ranges.set(kind, range);
    };
    return [
      { header: `CONFigure[:SCALar]:${header}`, takes: 2, set: configure },
      {
        header: `MEASure[:SCALar]:${header}`,
        asks: 2,
        query: async (args) => {
          configure(args);
          await this.initiate();
          return this.fetch();
        },
      },
      {
        header: `[SENSe]:${header}:RANGe[:UPPer]`,
        takes: 1,
        asks: 1,
        set: (args) => void this.ranges.set(kind, takeRange(args)),
        query: (args) =>
          response(args.isDone ? (this.ranges.get(kind) ?? ranges.at(-1)!) : args.number(limits)),
      },
      {
        header: `[SENSe]:${header}:RANGe:AUTO`,
        takes: 1,
        set: (args) => {
          if (args.boolean()) this.ranges.delete(kind);
          else this.ranges.set(kind, this.readings.at(-1)?.fullScale ?? ranges.at(-1)!);
        },
        query: () => (this.ranges.has(kind) ? '0' : '1'),
      },
    ];
  }

  private takingCommands(): readonly ScpiCommand[] {
    return [
      {
        header: '[SENSe]:FUNCtion[:ON]',
        takes: 1,
        set: (args) => {
          const name = args.string().toUpperCase();
          const found = HEADERS.find((one) => namesOf(one.header).includes(name));
          if (!found) throw new ScpiError('-224', name);
          this.abort();
          this.kind = found.kind;
        },
        query: () => `"${nameOf(this.kind)}"`,
      },
      { header: 'INITiate[:IMMediate]', set: () => this.initiate() },
      { header: 'FETCh', query: () => this.fetch() },
      {
        header: 'READ',
        query: async () => {
          this.abort();
          if (this.source === 'BUS') throw new ScpiError('-221', 'it waits for a trigger');
          await this.initiate();
          return this.fetch();
        },
      },
      { header: 'ABORt', set: () => this.abort() },
    ];
  }

  private triggerCommands(): readonly ScpiCommand[] {
    return [
      { header: 'TRIGger[:SEQuence][:IMMediate]', set: () => this.trigger() },
      {
        header: 'TRIGger[:SEQuence]:SOURce',
        takes: 1,
        set: (args) => void (this.source = args.keyword('IMMediate', 'BUS')),
        query: () => (this.source === 'BUS' ? 'BUS' : 'IMM'),
      },
      {
        header: 'TRIGger[:SEQuence]:DELay',
        takes: 1,
        set: (args) =>
          void (this.delay = args.number({
            unit: 'S',
            least: 0,
            most: LONGEST_DELAY,
            usual: AUTO_DELAY,
          })),
        query: () => response(this.delay === 'auto' ? AUTO_DELAY : this.delay),
      },
      {
        header: 'TRIGger[:SEQuence]:DELay:AUTO',
        takes: 1,
        set: (args) => void (this.delay = args.boolean() ? 'auto' : AUTO_DELAY),
        query: () => (this.delay === 'auto' ? '1' : '0'),
      },
      {
        header: 'TRIGger[:SEQuence]:COUNt',
        takes: 1,
        set: (args) => void (this.count = args.whole(1, MOST_READINGS)),
        query: () => String(this.count),
      },
    ];
  }

  private probeCommands(): readonly ScpiCommand[] {
    return [
      {
        header: 'ROUTe:PROBe',
        takes: 2,
        set: (args) => {
          const at = args.string();
          const to = args.isDone ? '0' : args.string();
          try {
            this.meter.probe(at, to);
          } catch (error) {
            if (!(error instanceof RangeError)) throw error;
            throw new ScpiError('-224', `no net or pin ${error.message}`);
          }
        },
        query: () => {
          const where = this.meter.where;
          if (typeof where === 'string') return '"",""';
          return `${quoted(where.at)},${quoted(where.to)}`;
        },
      },
      { header: 'ROUTe:OPEN', set: () => this.meter.lift() },
      { header: 'ROUTe:SHORt', set: () => this.meter.lift(true) },
      { header: '[SENSe]:LEADs:ZERO', set: () => this.meter.zeroLeads() },
    ];
  }

  private benchCommands(): readonly ScpiCommand[] {
    const { board } = this;
    return [
      {
        header: 'BENCh:POWer',
        takes: 1,
        set: (args) => {
          board.power(args.boolean());
          this.disturbed();
        },
        query: () => (board.isPowered ? '1' : '0'),
      },
      {
        header: 'BENCh:SETup',
        takes: 1,
        set: (args) => {
          const name = nameKey(args.string());
          const setup = setupNames(board.index.board).find((one) => one === name);
          if (setup === undefined) throw new ScpiError('-224', name);
          // Off is a state of the switch, not of the board.
          if (setup === 'off') board.power(false);
          else board.putInto(setup);
          this.disturbed();
        },
        query: () => quoted(board.setupName),
      },
      {
        header: 'BENCh:ACTion',
        takes: 1,
        set: (args) => {
          const text = args.string();
          if (!carryOut(board, this.meter, text))
            throw new ScpiError('-224', `${text}: expected ${ACTIONS_EXPECTED}`);
          this.disturbed();
        },
      },
      {
        header: 'BENCh:SUPPly:LIMit',
        takes: 1,
        set: (args) => {
          board.limitSupply(args.number({ unit: 'A', least: 0.001, most: 100, usual: 100 }));
          this.disturbed();
        },
        query: () => response(Math.min(100, board.supplyLimit)),
      },
      { header: 'BENCh:SUPPly:CURRent', query: () => response(board.drawn()) },
      {
        // What has happened by itself since it was asked last.
        header: 'BENCh:EVENts',
        query: () => {
          const news = board.events.slice(this.lastEvents);
          this.lastEvents = board.events.length;
          return news.length === 0 ? '""' : news.map(quoted).join(',');
        },
      },
    ];
  }
}

/** Checks a wish for a bench before it is made. @throws Error with what is wrong. */
export function checkBench(wish: BenchWish): void {
  const index = indexBoard(wish.board);
  if (wish.setup !== undefined && !setupNames(index.board).includes(wish.setup))
    throw new Error(`unknown setup "${wish.setup}"; expected ${setupNames(wish.board).join(', ')}`);
  new BenchBoard(wish.board, wish.faults, wish.setup ?? 'on');
}

function nameOf(kind: BenchFunction): string {
  return HEADERS.find((one) => one.kind === kind)!.name;
}

/** The names under which a function may be asked for: `VOLT`, `VOLTAGE:DC`. */
function namesOf(header: string): readonly string[] {
  const long = header.replace(/[[\]]/g, '').toUpperCase();
  const short = header.replace(/[[\]]/g, '').replace(/[a-z]/g, '');
  const bare = [long, short].map((name) => name.replace(/:DC$/, ''));
  return [long, short, ...bare];
}

/** A number as IEEE 488.2 has it in answers (NR3); a level as the probe shows it. */
function response(value: Taken['value']): string {
  if (typeof value === 'string') return value;
  const [mantissa, exponent] = (value === OVERLOAD ? OVERLOAD : value)
    .toExponential(8)
    .split('e') as [string, string];
  const sign = mantissa.startsWith('-') ? '' : '+';
  const power = Number(exponent);
  return `${sign}${mantissa}E${power < 0 ? '-' : '+'}${String(Math.abs(power)).padStart(2, '0')}`;
}

function quoted(text: string): string {
  return `"${text.replace(/"/g, '""')}"`;
}
