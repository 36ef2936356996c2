import { EVENT, eventOf, ScpiError } from './error';

/** So many errors wait to be asked for. */
const QUEUE_LENGTH = 20;
/** Bits of the status byte. Source: IEEE 488.2, 11.2; SCPI-1999, volume 1, 9. */
const STATUS = { errorQueue: 4, questionable: 8, event: 32, summary: 64, operation: 128 } as const;

/**
 * A condition register with what has happened in it and what is let through to the status byte.
 * Source: SCPI-1999, volume 2, 20.
 */
export class EventRegister {
  condition = 0;
  enable = 0;
  private event = 0;

  /** Bits that go up are remembered until they are asked for. */
  set(condition: number): void {
    this.event |= condition & ~this.condition;
    this.condition = condition;
  }

  takeEvent(): number {
    const event = this.event;
    this.event = 0;
    return event;
  }

  get summary(): boolean {
    return (this.event & this.enable) !== 0;
  }

  clear(): void {
    this.event = 0;
  }
}

/** What an instrument keeps of how it stands: event register, masks, errors. */
export class ScpiStatus {
  readonly operation = new EventRegister();
  readonly questionable = new EventRegister();
  eventEnable = 0;
  private event: number = EVENT.powerOn;
  private enable = 0;
  private readonly errors: ScpiError[] = [];

  /** The bit that asks for itself is left out. */
  set serviceEnable(mask: number) {
    this.enable = mask & ~STATUS.summary;
  }

  get serviceEnable(): number {
    return this.enable;
  }

  report(error: ScpiError): void {
    this.event |= eventOf(error.number);
    if (this.errors.length < QUEUE_LENGTH) this.errors.push(error);
    else this.errors[QUEUE_LENGTH - 1] = new ScpiError('-350');
  }

  /** The oldest error, which leaves the queue; `0,"No error"` where there is none. */
  takeError(): string {
    return this.errors.shift()?.message ?? '0,"No error"';
  }

  takeAllErrors(): string {
    const all = this.errors.splice(0).map(({ message }) => message);
    return all.length === 0 ? '0,"No error"' : all.join(',');
  }

  get errorCount(): number {
    return this.errors.length;
  }

  completed(): void {
    this.event |= EVENT.operationComplete;
  }

  takeEvent(): number {
    const event = this.event;
    this.event = 0;
    return event;
  }

  /** The status byte, with the master summary in bit 6. */
  get byte(): number {
    const bits =
      (this.errors.length > 0 ? STATUS.errorQueue : 0) |
      (this.questionable.summary ? STATUS.questionable : 0) |
      ((this.event & this.eventEnable) !== 0 ? STATUS.event : 0) |
      (this.operation.summary ? STATUS.operation : 0);
    return bits | ((bits & this.enable) !== 0 ? STATUS.summary : 0);
  }

  /** `*CLS`: events and errors go, masks stay. */
  clear(): void {
    this.event = 0;
    this.errors.length = 0;
    this.operation.clear();
    this.questionable.clear();
  }
}
