import type { Gate, Hazard, LedgerLine } from '@hanzai/core/bench';
import type { UnitModel } from '@hanzai/core/block';
import type { BoardIndex } from '@hanzai/core/board';
import type { Entry, EntryBody } from '../entry';
import type { Draft, Journal, Of } from '../journal';
import type { Solved } from '../solved';

export type Kind = EntryBody['kind'];
export type BodyOf<K extends Kind> = Extract<EntryBody, { kind: K }>;

/** What a rule may look at. What costs something is a function, asked only where it is needed. */
export interface Situation {
  readonly journal: Journal;
  /** All entries, also those taken back. */
  readonly entries: readonly Entry[];
  readonly index: BoardIndex | undefined;
  readonly model: UnitModel | undefined;
  readonly hazards: () => readonly Hazard[];
  /** What stands against closing. Solves circuits where something is to be proven. */
  readonly obstacles: () => readonly string[];
  /** What circuits say of the case. */
  readonly solved: Solved;
}

/** Sections of the report that are lists of what was entered; the others are tables of their own. */
export type ReportList = 'findings' | 'tried' | 'verdict' | 'decided' | 'powered';

/**
 * One kind of thing that a person does to a case, whole: what it is called, when it may be done,
 * how it is taken back, what it makes of the case, and its line in the report. Its schema is in
 * `entry.ts`.
 */
export interface Definition<Body extends EntryBody, Made extends Entry> {
  /** What it is called, in a refusal or a notice. */
  readonly words: string;
  /** What one says, in the words it was made in; empty where there are none. */
  readonly said: (body: Body) => string;
  /**
   * free: at any time, because nothing rests on it but belief. never: it is undone by an entry of
   * another kind. Else why not now, undefined where it may.
   */
  readonly takeBack: 'free' | 'never' | ((entry: Made, situation: Situation) => string | undefined);
  /** The gate it stands behind: what Make safe has to hold before it. */
  readonly gate?: (body: Body) => Gate | undefined;
  /** Whether it had power on the board. */
  readonly powered?: (body: Body) => boolean;
  /** Why it may not be made now, with the way out; undefined where it may. */
  readonly objection: 'none' | ((body: Body, situation: Situation) => string | undefined);
  /** The line it writes into the ledger of parts. */
  readonly ledger?: (body: Body) => LedgerLine;
  /** True for what makes another board for good: what was read before speaks of the old one. */
  readonly repairs?: true;
  /** What it makes of the case. */
  readonly add: (draft: Draft, entry: Made) => void;
  /**
   * Its line in a list of the report, undefined where this one has none; table: it stands in a table
   * there; none: the report does not tell of it.
   */
  readonly report:
    | 'table'
    | 'none'
    | {
        readonly list: ReportList;
        readonly line: (body: Body, index: BoardIndex | undefined) => string | undefined;
      };
}

/** The definition of one kind. */
export type KindOfEntry<K extends Kind> = Definition<BodyOf<K>, Of<K>>;

/** Definitions of some kinds. */
export type KindsOf<K extends Kind> = { readonly [One in K]: KindOfEntry<One> };
