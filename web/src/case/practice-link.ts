import type { BoardIndex } from '@hanzai/core/board';
import type { MeasurementResult, ReadingKind } from '@hanzai/core/instrument';
import type { Attention, Help, HelpGiven } from '@hanzai/core/training';
import type { ProposedPoints } from './strip/grammar';

/** Something that was asked, and what was said. */
export interface PracticeSaid {
  readonly asked: Help;
  readonly net: string;
  readonly words: string;
}

/** A step of the tour through the reading line. */
export interface TourStep {
  readonly words: string;
  /** What can be typed. */
  readonly example: string;
  readonly isDone: boolean;
}

/** What became of something that was to be measured. */
export type PracticeMeasured =
  | { readonly ok: true; readonly words: string; readonly kind: ReadingKind }
  | { readonly ok: false; readonly why: string };

/**
 * The exercise behind a case that is none: the same screens, a simulated bench, a clock of bench
 * minutes.
 * Nothing of it reaches the workshop.
 */
export interface PracticeLink {
  readonly help: HelpGiven;
  /** Bench minutes so far; undefined while its bench is being set up. */
  readonly minutes: number | undefined;
  readonly boardTitle: string;
  readonly level: string;
  readonly complaint: string;
  /** What was harmed so far. */
  readonly damage: readonly string[];
  /** What was said for a price, the newest last. */
  readonly said: readonly PracticeSaid[];
  /** What is to be tried, where it is a tour. */
  readonly tour: readonly TourStep[] | undefined;
  /** Why the bench does nothing any more. */
  readonly failure: string | undefined;
  readonly busy: boolean;
  /** The board on the bench. Where there is no sheet of it, only what is seen of it may be told. */
  readonly bench: BoardIndex;
  readonly hasSheet: boolean;
  /** What was done beside readings, the newest last, in words. */
  readonly deeds: readonly string[];
  /** What a text without a value points at. */
  readonly points: (text: string) => MeasurementResult;
  /** Does one of the small things at the bench: provokes, zeroes, swaps, writes a setting down. */
  readonly attend: (deed: Attention) => void;
  readonly ask: (question: Help, net?: string) => void;
  /**
   * Puts the probes on what was typed, or on what is first on a list, and files what the meter
   * shows.
   */
  readonly measure: (
    text: string,
    proposed: ProposedPoints | undefined,
  ) => Promise<PracticeMeasured>;
}
