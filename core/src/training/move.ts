import type { Measurement, Reading, ReadingValue } from '../instrument';
import type { Help } from './action';

/** Something that was done at the bench, in the order done. */
export type Move =
  | {
      readonly kind: 'reading';
      readonly measurement: Measurement;
      /** Undefined where nothing could be read. */
      readonly reading: Reading | undefined;
      /** Readings that stood before it: those since the last replacement. */
      readonly before: readonly Reading[];
      readonly minutes: number;
      /** What comes and goes was away when it was taken. */
      readonly away?: true;
    }
  | {
      readonly kind: 'replaced';
      readonly ref: string;
      /** Whether it was bad, hidden or happened. */
      readonly wasBad: boolean;
      readonly before: readonly Reading[];
      readonly minutes: number;
    }
  | { readonly kind: 'off'; readonly ref: string; readonly minutes: number }
  /** The same one went on again. */
  | { readonly kind: 'back'; readonly ref: string; readonly minutes: number }
  | { readonly kind: 'swap'; readonly refs: readonly [string, string]; readonly minutes: number }
  /** Anything else that takes its time, in words. */
  | { readonly kind: 'done'; readonly words: string; readonly minutes: number }
  | { readonly kind: 'help'; readonly help: Help; readonly minutes: number };

/** What came of an action: what the meter shows, or what somebody says. */
export interface Answer {
  readonly value?: ReadingValue;
  readonly words?: string;
}

/** What went wrong on the bench, and by whose doing. */
export interface Damage {
  readonly words: string;
  /** Move during which it happened, counted from 0. */
  readonly move: number;
}
