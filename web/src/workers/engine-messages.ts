import { OpenUpStep } from '@hanzai/core/bench';
import { Board, Setup } from '@hanzai/core/board';
import { MeterProfile, ReadingKind } from '@hanzai/core/instrument';
import type { Action, ShortedRail, AheadNode, Schools } from '@hanzai/core/plan';
import type { CapacitorVerdict } from '@hanzai/core/survey';
import { z } from 'zod';
import { Entry, SkipReason } from '../case/entry';
import type { Expectation, JudgedExpectation } from '../case/expectation';

/** A reading as it goes to the engine. `id` names it in the answer. */
export const EngineReading = z.object({
  id: z.string(),
  setup: Setup,
  kind: ReadingKind,
  at: z.string(),
  to: z.string(),
  value: z.union([z.number(), z.enum(['OL', 'beep', 'open', '0', '1', 'P', 'Z', 'yes', 'no'])]),
  absent: z.array(z.string()),
  /** What it was read with; the standard meter where it is left out. */
  meter: MeterProfile.optional(),
});
export type EngineReading = z.infer<typeof EngineReading>;

/** What may be proposed. Left out: everything. */
export const Limits = z.object({
  /** Kinds of reading for which there is an instrument. */
  kinds: z.array(ReadingKind),
  power: z.enum(['any', 'on', 'off']),
  /** The side of the board that lies up. */
  side: z.enum(['any', 'top', 'bottom']),
  /** Only what is reached without opening anything more. */
  open: z.boolean(),
  /** Whether a leg may be lifted or a joint made for it. */
  solder: z.boolean(),
});
export type Limits = z.infer<typeof Limits>;

/** A reading that was proposed and not taken. */
export const Skipped = z.object({
  setup: Setup,
  kind: ReadingKind,
  at: z.string(),
  to: z.string(),
  why: SkipReason,
});
export type Skipped = z.infer<typeof Skipped>;

export const AssessRequest = z.object({
  ticket: z.number().int(),
  readings: z.array(EngineReading),
  absent: z.array(z.string()),
  /** What the eye multiplies the odds of parts by. */
  look: z.record(z.string(), z.number().positive()),
  /** How an earlier unit of this model came apart, and how far this one is. */
  access: z.object({ template: z.array(OpenUpStep), done: z.number().int().min(0) }).optional(),
  limits: Limits.optional(),
  skips: z.array(Skipped).optional(),
  /** What kinds are read with that are not read with the standard meter. */
  meters: z.partialRecord(ReadingKind, MeterProfile).optional(),
});
export type AssessRequest = z.infer<typeof AssessRequest>;
export const OpenRequest = z.object({ board: Board });

/** A point of which is asked what a sound board shows there. absent: the parts off it. */
export const ExpectRequest = z.object({
  setup: z.string(),
  kind: z.string(),
  at: z.string(),
  to: z.string(),
  absent: z.array(z.string()),
  meter: MeterProfile.optional(),
});
export type ExpectRequest = z.infer<typeof ExpectRequest>;

/** A board with faults put on it, of which is asked what the meter would show. */
export const WhatIfRequest = z.object({
  /** `L2:open`, or two joined by ` + `; empty for a sound board. */
  faults: z.string().max(200),
  readings: z.array(EngineReading),
  absent: z.array(z.string()),
});
export type WhatIfRequest = z.infer<typeof WhatIfRequest>;

/** A reading of which is asked what would follow it. */
export const AheadRequest = z.object({ request: AssessRequest, key: z.string() });

/** A few steps ahead, each reading in words. */
export type AheadStep = AheadNode<Pick<Proposal, 'kind' | 'setup' | 'at' | 'to' | 'minutes'>>;

/** Readings in the order taken, of which is asked what was believed after each. */
export const TrailRequest = z.object({
  readings: z.array(EngineReading),
  look: z.record(z.string(), z.number().positive()),
});

/** By reading id: what a sound board shows there, and who led after it. */
export type TrailAnswer = Readonly<
  Record<
    string,
    {
      readonly expected: JudgedExpectation;
      readonly leading: readonly { readonly ref: string; readonly probability: number }[];
      readonly healthy: number;
    }
  >
>;

/** The readings that a capacitor survey judges. */
export const SurveyRequest = z.object({
  readings: z.array(EngineReading),
  /** What the eye multiplies the odds of parts by: a leak seen beside one. */
  look: z.record(z.string(), z.number().positive()).optional(),
});

/** Whether a reading across a part says what it seems to say, in words. */
export interface ReadingConclusion {
  readonly conclusive: boolean;
  readonly words: string;
  /** The cheapest way to make it conclusive; empty where it is. */
  readonly remedy: string;
}

/** One capacitor of a survey. */
export interface SurveyedCapacitor extends CapacitorVerdict {
  /** What a sound board shows across it, ohm. */
  readonly expectedOhm: number | null;
  /** Beyond it a wet one is out of its standard; null where there is no such limit. */
  readonly limitOhm: number | null;
}

/** Two sides of an argument about a case: designators, or empty for "nothing is wrong". */
export const WhyRequest = z.object({
  readings: z.array(EngineReading),
  absent: z.array(z.string()),
  look: z.record(z.string(), z.number().positive()),
  one: z.string().max(80),
  other: z.string().max(80),
});

/** What one reading did to the odds of one side against another, decibans; see `argueSteps`. */
export interface WhyRow {
  readonly id: string;
  readonly moved: number;
  readonly after: number;
  readonly without: number;
  /** What either side would show there; undefined where it has no answer. */
  readonly one: JudgedExpectation | undefined;
  readonly other: JudgedExpectation | undefined;
  /** The number that the one side would show, in the reading's unit. */
  readonly shown: number | undefined;
}

export interface WhyAnswer {
  /** The likeliest fault of either side; empty for a sound board. */
  readonly one: string;
  readonly other: string;
  readonly before: number;
  readonly after: number;
  /** Id of the reading on which the order turns. */
  readonly turnsOn: string | undefined;
  /** In the order taken. */
  readonly rows: readonly WhyRow[];
}

/** Readings with one at the end that is typed and not filed, of which is asked what it would mean. */
export const MeaningRequest = z.object({
  readings: z.array(EngineReading).min(1),
  absent: z.array(z.string()),
  look: z.record(z.string(), z.number().positive()),
});

/** Who would lead after a reading, likeliest first, and whether a sound board shows it. */
export interface ReadingMeaning {
  readonly within: boolean;
  readonly leading: readonly { readonly ref: string; readonly probability: number }[];
}

/** The leading suspects, of which is asked what more of the sheet would tell them apart. */
export const WorthRequest = z.object({
  /** Names of hypotheses. */
  suspects: z.array(z.string().max(200)).max(12),
  absent: z.array(z.string()),
});

export type WhatIfAnswer =
  | { readonly ok: false; readonly why: string }
  | {
      readonly ok: true;
      /** By reading id; a reading that this board has no answer to is left out. */
      readonly readings: Readonly<Record<string, JudgedExpectation>>;
      /** Volts of every net to ground with the power on, as the meter shows them. */
      readonly volts: Readonly<Record<string, string>>;
    };

/** Parts that are off a board of which the levels are asked. */
export const LevelsRequest = z.array(z.string());

/** A case's journal, of which is asked what circuits say of it. */
export const JournalRequest = z.array(Entry);

/** What the report needs beyond the journal: the engine's words on the readings before the repair. */
export interface ReportFigures {
  /**
   * By entry id: what a sound board shows, whether the reading was in its band, and its weight for
   * the condemned part, decibans.
   */
  readonly readings: Readonly<
    Record<
      string,
      { readonly expected: string; readonly within: boolean; readonly weight: number | null }
    >
  >;
  readonly weightFor: string | null;
}

/** What one reading did to one part, decibans; positive speaks against the part being sound. */
export interface WeighedReading {
  readonly id: string;
  readonly decibans: number;
}

export interface LineUpEntry {
  readonly ref: string;
  readonly title: string;
  readonly probability: number;
  readonly prior: number;
  /** Fault modes that carry the probability, likeliest first. */
  readonly modes: readonly string[];
  /** All of its faults that are worth a line, with how likely each is. */
  readonly faults: readonly { readonly name: string; readonly probability: number }[];
  readonly weights: readonly WeighedReading[];
  readonly loudest: WeighedReading | undefined;
  readonly cleared: boolean;
}

/** Two faults that belong together. */
export interface SuspectPair {
  readonly name: string;
  readonly probability: number;
  /** The fault of the two that made the other; undefined where neither did. */
  readonly because: { readonly victim: string; readonly culprit: string } | undefined;
}

export interface LineUp {
  readonly entries: readonly LineUpEntry[];
  /** Parts that the readings taken do not tell apart. */
  readonly alike: readonly (readonly string[])[];
  readonly pairs: readonly SuspectPair[];
  readonly healthy: number;
  readonly unmodelled: number;
  /** Where the sheet may be wrong, likeliest first, with what settles it. */
  readonly sheet: readonly {
    readonly title: string;
    readonly check: string;
    readonly probability: number;
  }[];
  /** Ids of readings that nothing explains, worst first. */
  readonly unexplained: readonly string[];
  /** By reading id. */
  readonly expected: Readonly<Record<string, JudgedExpectation>>;
  readonly milliseconds: number;
  /** Share of the faults looked at, where some are still to come. */
  readonly refining?: number;
}

export interface Proposal {
  readonly key: string;
  readonly setup: Setup;
  readonly kind: ReadingKind;
  readonly at: string;
  readonly to: string;
  readonly gainBits: number;
  readonly minutes: number;
  /** Of these, minutes of opening up. */
  readonly accessMinutes: number;
  readonly expected: Expectation;
  readonly prospects: readonly {
    readonly probability: number;
    readonly display: string;
    readonly leading: readonly { readonly ref: string; readonly probability: number }[];
  }[];
}

export interface NextStep {
  readonly state: 'measure' | 'replace' | 'verify';
  /** A first look, with a better one to come. */
  readonly provisional?: boolean;
  readonly proposals: readonly Proposal[];
  /** What could be done without a meter, each with the reading that says most after it. */
  readonly touches: readonly (Proposal & {
    readonly title: string;
    readonly refs: readonly string[];
    readonly caution: string;
  })[];
  /** Every reading in every setup was weighed, and none tells more; takes: what it would take. */
  readonly exhausted: boolean;
  readonly takes: readonly string[];
  readonly replace: readonly { readonly ref: string; readonly probability: number }[];
  /**
   * Work that can cure, and readings, on one scale: expected minutes to a proven repair, least
   * first.
   */
  readonly actions: readonly Pick<
    Action,
    'kind' | 'title' | 'cures' | 'minutes' | 'expectedMinutes'
  >[];
  /** What measuring first and replacing first are expected to cost. */
  readonly schools: Schools | undefined;
  /** A rail that reads as shorted: nothing with the power on is proposed until that is found. */
  readonly noPower?: ShortedRail;
}

/** What the engine sends back while it works on a request. */
export type EngineEvent =
  | { readonly type: 'line-up'; readonly ticket: number; readonly lineUp: LineUp }
  | { readonly type: 'progress'; readonly ticket: number; readonly share: number }
  | { readonly type: 'next'; readonly ticket: number; readonly next: NextStep };
