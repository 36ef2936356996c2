import { ScpiArguments } from './arguments';
import { ScpiError } from './error';
import { headerNodes, matchHeader, type HeaderNode } from './header';
import { readMessage, type ScpiUnit } from './message';
import { ScpiStatus, type EventRegister } from './status';

/** What one header does, as a command and as a query. */
export interface ScpiCommand {
  /** As a manual writes it: `CONFigure[:SCALar]:VOLTage[:DC]`. */
  readonly header: string;
  /** The most arguments that the command takes, and the query; none where not given. */
  readonly takes?: number;
  readonly asks?: number;
  readonly set?: (args: ScpiArguments) => void | Promise<void>;
  readonly query?: (args: ScpiArguments) => string | Promise<string>;
}

/** What the common commands ask of an instrument. */
export interface ScpiDevice {
  /** Maker, model, serial number, version; without commas. */
  readonly identity: readonly [string, string, string, string];
  readonly commands: (status: ScpiStatus) => readonly ScpiCommand[];
  readonly reset: () => void;
  /** 0 where all is well. */
  readonly selfTest: () => number;
  /** Waits until nothing is under way. */
  readonly settled: () => Promise<void>;
  /** `*TRG`. @throws ScpiError -211 where nobody waits for it. */
  readonly trigger: () => void | Promise<void>;
}

/** The longest program message that is read, characters. */
const LONGEST_MESSAGE = 4096;
/** Bit 4 of the status byte: an answer is on its way. */
const MESSAGE_AVAILABLE = 16;

/**
 * Where the next header of a message may go on from: the path of the last one as it was written,
 * and as it is with the nodes that were left out.
 */
type Paths = readonly (readonly string[])[];

interface Found {
  readonly command: ScpiCommand;
  readonly written: readonly string[];
  readonly way: readonly string[];
}

interface Known {
  readonly command: ScpiCommand;
  readonly nodes: readonly HeaderNode[];
}

/**
 * An instrument that takes program messages and answers them. One message after the other: a
 * message waits until the one before it has been carried out. Sources: IEEE 488.2 (messages, status,
 * common commands) and SCPI-1999 (headers, errors, the SYSTem and STATus commands).
 */
export class ScpiInstrument {
  readonly status = new ScpiStatus();
  private readonly known: readonly Known[];
  private turn: Promise<unknown> = Promise.resolve();
  private answers: string[] = [];

  constructor(private readonly device: ScpiDevice) {
    this.known = [
      ...this.common(),
      ...system(this.status),
      ...statusCommands(this.status),
      ...device.commands(this.status),
    ].map((command) => ({ command, nodes: headerNodes(command.header) }));
  }

  /** Carries out one program message. Returns its answers joined by semicolons; undefined for none. */
  execute(message: string): Promise<string | undefined> {
    const done = this.turn.then(() => this.carryOut(message));
    this.turn = done;
    return done;
  }

  private async carryOut(message: string): Promise<string | undefined> {
    this.answers = [];
    if (message.length > LONGEST_MESSAGE) {
      this.status.report(new ScpiError('-363'));
      return undefined;
    }
    let paths: Paths = [];
    try {
      for (const unit of readMessage(message)) paths = await this.unit(unit, paths);
    } catch (error) {
      // A mistake ends the message; what was carried out before it stands.
      if (!(error instanceof ScpiError)) throw error;
      this.status.report(error);
    }
    return this.answers.length === 0 ? undefined : this.answers.join(';');
  }

  /** Returns the paths that the next header of the message may go on from. */
  private async unit(unit: ScpiUnit, paths: Paths): Promise<Paths> {
    const { command, written: whole, way } = this.find(unit, paths);
    const run = unit.isQuery ? command.query : command.set;
    if (!run) throw new ScpiError('-113', written(unit));
    const most = (unit.isQuery ? command.asks : command.takes) ?? 0;
    if (unit.data.length > most) throw new ScpiError('-108', written(unit));
    const answer = await run(new ScpiArguments(unit.data));
    if (typeof answer === 'string') this.answers.push(answer);
    // A common command leaves the path as it was. Source: SCPI-1999, volume 1, 6.2.4.
    if (unit.path[0]!.startsWith('*')) return paths;
    return [whole.slice(0, -1), way.slice(0, -1)];
  }

  /** The command that a header names, as it was written from the root and with every node passed. */
  private find(unit: ScpiUnit, paths: Paths): Found {
    const starts = unit.rooted || paths.length === 0 ? [[]] : paths;
    for (const start of starts) {
      const whole = [...start, ...unit.path];
      for (const { command, nodes } of this.known) {
        const way = matchHeader(nodes, whole);
        if (way) return { command, written: whole, way };
      }
    }
    throw new ScpiError('-113', written(unit));
  }

  private common(): readonly ScpiCommand[] {
    const { status, device } = this;
    return [
      { header: '*IDN', query: () => device.identity.join(',') },
      { header: '*RST', set: () => device.reset() },
      { header: '*CLS', set: () => status.clear() },
      {
        header: '*ESE',
        takes: 1,
        set: (args) => void (status.eventEnable = args.whole(0, 255)),
        query: () => String(status.eventEnable),
      },
      { header: '*ESR', query: () => String(status.takeEvent()) },
      {
        header: '*SRE',
        takes: 1,
        set: (args) => void (status.serviceEnable = args.whole(0, 255)),
        query: () => String(status.serviceEnable),
      },
      {
        header: '*STB',
        query: () => String(status.byte | (this.answers.length > 0 ? MESSAGE_AVAILABLE : 0)),
      },
      {
        header: '*OPC',
        set: () => void device.settled().then(() => status.completed()),
        query: () => device.settled().then(() => '1'),
      },
      { header: '*TST', query: () => String(device.selfTest()) },
      { header: '*WAI', set: () => device.settled() },
      { header: '*TRG', set: () => device.trigger() },
    ];
  }
}

function written({ path, isQuery }: ScpiUnit): string {
  return `${path.join(':')}${isQuery ? '?' : ''}`;
}

/** Source: SCPI-1999, volume 2, 21.8 and 21.21. */
function system(status: ScpiStatus): readonly ScpiCommand[] {
  return [
    { header: 'SYSTem:ERRor[:NEXT]', query: () => status.takeError() },
    { header: 'SYSTem:ERRor:ALL', query: () => status.takeAllErrors() },
    { header: 'SYSTem:ERRor:COUNt', query: () => String(status.errorCount) },
    { header: 'SYSTem:VERSion', query: () => '1999.0' },
  ];
}

/** Source: SCPI-1999, volume 2, 20. */
function statusCommands(status: ScpiStatus): readonly ScpiCommand[] {
  const of = (name: string, register: EventRegister): readonly ScpiCommand[] => [
    { header: `STATus:${name}[:EVENt]`, query: () => String(register.takeEvent()) },
    { header: `STATus:${name}:CONDition`, query: () => String(register.condition) },
    {
      header: `STATus:${name}:ENABle`,
      takes: 1,
      set: (args) => void (register.enable = args.whole(0, 32_767)),
      query: () => String(register.enable),
    },
  ];
  const registers = [status.operation, status.questionable];
  return [
    ...of('OPERation', status.operation),
    ...of('QUEStionable', status.questionable),
    {
      header: 'STATus:PRESet',
      set: () => registers.forEach((register) => (register.enable = 0)),
    },
  ];
}
