import { nameKey } from '../board';
import type { Random } from '../practice';
import type { BenchBoard } from '../simulated';

/** What brings a fault that comes and goes. */
export type Brought = 'warmth' | 'touch';

/** A fault that is not always there. */
export interface ComeAndGo {
  /** Its name. */
  readonly fault: string;
  /** Its part, as `refsOf` names it. */
  readonly ref: string;
  readonly by: Brought;
}

/**
 * Time constants of a small board that warms up and cools down, minutes, and the share of its end
 * temperature from which on a fault of warmth is there. From memory of bench practice.
 */
const WARMS = 4;
const COOLS = 8;
const WARM_ENOUGH = 0.6;
/** How long cold spray keeps a part cold, minutes. From memory of bench practice. */
const STAYS_COLD = 3;
/** How often a fault of touch is there while nobody touches it. From memory of bench practice. */
const BY_ITSELF = 0.25;

/** Of a whole board that is flexed: every joint of it is. */
export const WHOLE_BOARD = '';

/**
 * Whether a fault that comes and goes is there: how warm the board is, what was sprayed cold, what
 * is pressed on. Time: bench minutes.
 */
export class Intermittence {
  private warmth = 0;
  private cold: { readonly ref: string; readonly left: number } | undefined;
  private pressed: string | undefined;

  constructor(
    private readonly of: ComeAndGo,
    private readonly random: Random,
  ) {}

  /** Minutes go by with the power on or off. */
  pass(minutes: number, isOn: boolean): void {
    const end = isOn ? 1 : 0;
    this.warmth = end + (this.warmth - end) * Math.exp(-minutes / (isOn ? WARMS : COOLS));
    const left = (this.cold?.left ?? 0) - minutes;
    this.cold = this.cold && left > 0 ? { ref: this.cold.ref, left } : undefined;
  }

  chill(ref: string): void {
    this.cold = { ref, left: STAYS_COLD };
  }

  /** Presses on a part, or flexes the whole board, until it is let go. */
  press(ref: string | undefined): void {
    this.pressed = ref;
  }

  /** Whether warmth would not have to be brought. */
  get isWarm(): boolean {
    return this.of.by !== 'warmth' || this.warmth >= WARM_ENOUGH;
  }

  /** Whether it is there at the next look; of touch it may be there by itself. */
  isThere(): boolean {
    if (this.of.by === 'warmth')
      return this.warmth >= WARM_ENOUGH && !(this.cold && this.isOwn(this.cold.ref));
    const { pressed } = this;
    const isTouched = pressed !== undefined && (pressed === WHOLE_BOARD || this.isOwn(pressed));
    // Drawn in any case: what is pressed does not change what is drawn later.
    return this.random() < BY_ITSELF || isTouched;
  }

  private isOwn(ref: string): boolean {
    return nameKey(ref) === nameKey(this.of.ref);
  }
}

/** A fault that comes and goes, on the bench that it comes to and goes from. */
export class LooseFault {
  readonly when: Intermittence;
  private name: string | undefined;
  private away = false;

  constructor(
    of: ComeAndGo,
    private readonly bench: BenchBoard,
    random: Random,
  ) {
    this.when = new Intermittence(of, random);
    this.name = of.fault;
  }

  /** Its name as long as it is on the board, there or away. */
  get fault(): string | undefined {
    return this.name;
  }

  get isAway(): boolean {
    return this.away;
  }

  /** Puts it on the bench or takes it off, as it is at this moment. */
  look(): void {
    if (this.name === undefined) return;
    const isThere = this.when.isThere();
    if (!isThere && !this.away) this.bench.undo(this.name);
    if (isThere && this.away) this.bench.spoil(this.name);
    this.away = !isThere;
  }

  /** It is gone for good. */
  cure(): void {
    if (this.name !== undefined) this.bench.undo(this.name);
    this.name = undefined;
    this.away = false;
  }

  /** Its part has changed places with another. */
  moved(to: string): void {
    if (this.name !== undefined && !this.away) {
      this.bench.undo(this.name);
      this.bench.spoil(to);
    }
    this.name = to;
  }
}
