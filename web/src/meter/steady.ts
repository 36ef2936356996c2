import type { ReadingValue } from '@hanzai/core/instrument';

/** Of all this: common practice, no published source. */
const STEADY = {
  /** A reading counts as at rest when it has stayed within this share of itself … */
  share: 0.005,
  /** … or this much, for readings near nothing, by unit. */
  floor: { V: 0.002, ohm: 0.02, A: 1e-4, '': 0, F: 0, H: 0, Hz: 0 },
  /** … for this many readings in a row, and so long, ms. */
  readings: 3,
  milliseconds: 700,
} as const;

interface Seen {
  readonly value: ReadingValue;
  readonly at: number;
}

/**
 * Tells when what a meter shows has come to rest. After it has told, it tells again only when the
 * value has left where it was: a probe that stays is one reading.
 */
export class SteadyHold {
  private run: Seen[] = [];
  private told: ReadingValue | undefined;

  /** needsMove: what is shown first is what the probes lay on before, and is not told. */
  constructor(
    private readonly unit: keyof typeof STEADY.floor,
    private needsMove = false,
  ) {}

  /** Takes in a value shown at a moment, ms. Returns it once where it has come to rest. */
  see(value: ReadingValue, at: number): ReadingValue | undefined {
    if (this.needsMove) {
      this.told = value;
      this.needsMove = false;
    }
    if (this.run.length > 0 && !this.isLike(this.run[0]!.value, value)) this.run = [];
    this.run.push({ value, at });
    if (this.told !== undefined && !this.isLike(this.told, value)) this.told = undefined;
    if (!this.isAtRest || this.told !== undefined) return undefined;
    this.told = value;
    return value;
  }

  /** Whether the value has been at rest for long enough. */
  get isAtRest(): boolean {
    const [first] = this.run;
    const last = this.run.at(-1);
    return this.run.length >= STEADY.readings && last!.at - first!.at >= STEADY.milliseconds;
  }

  private isLike(a: ReadingValue, b: ReadingValue): boolean {
    if (typeof a !== 'number' || typeof b !== 'number') return a === b;
    const size = Math.max(Math.abs(a), Math.abs(b));
    return Math.abs(a - b) <= Math.max(STEADY.floor[this.unit], STEADY.share * size);
  }
}
