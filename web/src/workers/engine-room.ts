import type { Board } from '@hanzai/core/board';
import type { SheetWorth } from '@hanzai/core/diagnosis';
import type { Expectation } from '../case/expectation';
import type { WrittenAnswers } from '../case/solved';
import { Engine, type Course } from './engine';
import {
  OpenRequest,
  type AheadStep,
  type EngineEvent,
  type ReadingConclusion,
  type ReadingMeaning,
  type SurveyedCapacitor,
  type TrailAnswer,
  type ReportFigures,
  type WhatIfAnswer,
  type WhyAnswer,
} from './engine-messages';

/**
 * Parts on all boards whose engines are kept, the newest apart: what one of a thousand parts holds
 * comes to some 250 MB.
 */
const MOST_PARTS = 700;

interface Kept {
  /** The board as text: two pages with one board share its engine. */
  readonly text: string;
  readonly parts: number;
  readonly engine: Engine;
}

/** What a page can ask. */
export interface EngineDoor {
  /**
   * Takes a board in; everything else waits for it. Tells whether the engine was at work on this
   * board already.
   */
  open(request: unknown): boolean;
  /**
   * Works out the line-up and what to do next; a newer request through the same door makes an older
   * one stop.
   */
  assess(request: unknown, send: (event: EngineEvent) => void): Promise<void>;
  /** What a sound board shows at a point. Answered at once, between the steps of other work. */
  expect(request: unknown): Expectation | undefined;
  /** What the meter would show with faults put on the board. At once, too. */
  whatIf(request: unknown): WhatIfAnswer;
  /**
   * Who would lead after a reading that is not filed. In turn with other work; a newer question and
   * a newer request make it stop.
   */
  meaning(request: unknown): Promise<ReadingMeaning | undefined>;
  /** Why one part is believed more than another. In turn; a newer question makes it stop. */
  why(request: unknown): Promise<WhyAnswer | undefined>;
  /** What would follow a proposed reading. In turn; a newer question and request make it stop. */
  ahead(request: unknown): Promise<AheadStep | undefined>;
  /** The level of every net of a chip on a sound board. At once. */
  levels(absent: unknown): Readonly<Record<string, string>>;
  /** Whether readings across parts say what they seem to say. In turn; a newer question makes it stop. */
  conclude(request: unknown): Promise<Readonly<Record<string, ReadingConclusion>> | undefined>;
  /** Every capacitor judged by its ESR. In turn; a newer question makes it stop. */
  survey(request: unknown): Promise<readonly SurveyedCapacitor[] | undefined>;
  /** What was believed after each reading. In turn; a newer question makes it stop. */
  trail(request: unknown): Promise<TrailAnswer | undefined>;
  /** What it would bring to draw what hangs on the edges of the sheet. At once, too. */
  worth(request: unknown): readonly SheetWorth[];
  /** What circuits say of a case: its proof, and what keeps power and fuses out. At once, too. */
  stand(entries: unknown): WrittenAnswers;
  /** The engine's words on the readings of a case, for its report. In turn with other work. */
  account(entries: unknown): Promise<ReportFigures | undefined>;
  /** Nobody waits for the answers any more. What is worked out by then is kept. */
  leave(): void;
}

/**
 * Engines by board, for all pages that are open and those that follow: what was worked out for one
 * serves the next. One request is worked on at a time.
 */
export class EngineRoom {
  /** The one asked last at the end. */
  private kept: readonly Kept[] = [];
  private busy: Promise<void> = Promise.resolve();

  /** pause: lets other messages in between steps. make: a new engine. */
  constructor(
    private readonly pause: () => Promise<void>,
    private readonly make: (board: Board) => Engine = (board) => new Engine(board),
  ) {}

  door(): EngineDoor {
    let engine: Engine | undefined;
    let newest = 0;
    /** For one kind of question: only the newest is answered, and none past a newer request. */
    const newestOnly = () => {
      let asked = 0;
      return <T>(work: (course: Course) => Promise<T | undefined>): Promise<T | undefined> => {
        const [own, since] = [++asked, newest];
        const stale = (): boolean => own !== asked || since !== newest;
        const course = { send: () => undefined, pause: this.pause, stale };
        return this.inTurn(async () => (stale() ? undefined : work(course)));
      };
    };
    const [askAhead, askWhy, askMeaning, askTrail, askSurvey, askConclude] = [
      newestOnly(),
      newestOnly(),
      newestOnly(),
      newestOnly(),
      newestOnly(),
      newestOnly(),
    ];
    return {
      open: (request) => {
        const { known, kept } = this.enter(request);
        engine = kept.engine;
        return known;
      },
      assess: async (request, send) => {
        const own = ++newest;
        await this.inTurn(async () => {
          if (own === newest)
            await engine?.assess(request, { send, pause: this.pause, stale: () => own !== newest });
        });
      },
      expect: (request) => opened(engine).expect(request),
      whatIf: (request) => opened(engine).whatIf(request),
      meaning: (request) => askMeaning((course) => opened(engine).meaning(request, course)),
      ahead: (request) => askAhead((course) => opened(engine).ahead(request, course)),
      why: (request) => askWhy((course) => opened(engine).why(request, course)),
      conclude: (request) =>
        askConclude((course) => opened(engine).parts.conclude(request, course)),
      survey: (request) => askSurvey(async () => opened(engine).parts.survey(request)),
      levels: (absent) => opened(engine).levels(absent),
      trail: (request) => askTrail((course) => opened(engine).trail(request, course)),
      worth: (request) => opened(engine).worth(request),
      stand: (entries) => opened(engine).stand(entries),
      account: async (entries) => {
        const own = newest;
        const course = { send: () => undefined, pause: this.pause, stale: () => own !== newest };
        return this.inTurn(() => opened(engine).account(entries, course));
      },
      leave: () => void (newest += 1),
    };
  }

  /** Work that waits for what is under way. One that fails tells who asked; the next goes on. */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const done = this.busy.then(work);
    this.busy = done.then(
      () => undefined,
      () => undefined,
    );
    return done;
  }

  private enter(request: unknown): { known: boolean; kept: Kept } {
    const text = JSON.stringify((request as { board?: unknown } | undefined)?.board);
    const known = this.kept.find((one) => one.text === text);
    const kept = known ?? this.take(text, OpenRequest.parse(request).board);
    this.kept = [
      ...latestWithin(
        MOST_PARTS,
        this.kept.filter((one) => one !== kept),
      ),
      kept,
    ];
    return { known: known !== undefined, kept };
  }

  private take(text: string, board: Board): Kept {
    return { text, parts: board.parts.length, engine: this.make(board) };
  }
}

function opened(engine: Engine | undefined): Engine {
  if (!engine) throw new Error('no board was opened through this door');
  return engine;
}

/** The last of a list that have so many parts together. */
function latestWithin(parts: number, list: readonly Kept[]): readonly Kept[] {
  let from = list.length;
  for (let left = parts; from > 0 && (left -= list[from - 1]!.parts) >= 0; from -= 1);
  return list.slice(from);
}
