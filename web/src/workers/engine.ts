import { accessMinutes } from '@hanzai/core/bench';
import { indexBoard, replaceableRef, type Board, type BoardIndex } from '@hanzai/core/board';
import {
  argueSteps,
  Diagnoser,
  sheetWorth,
  taughtBy,
  whatIf,
  type Belief,
  type SheetWorth,
} from '@hanzai/core/diagnosis';
import { parseFaults } from '@hanzai/core/fault';
import {
  readout,
  resolveMeasurement,
  withinBand,
  type Measurement,
  type Reading,
} from '@hanzai/core/instrument';
import { aheadSteps, handMinutes, planNext, planSteps, type PlanOptions } from '@hanzai/core/plan';
import { RATES } from '@hanzai/data';
import {
  AheadRequest,
  AssessRequest,
  ExpectRequest,
  JournalRequest,
  LevelsRequest,
  MeaningRequest,
  TrailRequest,
  WhatIfRequest,
  WhyRequest,
  WorthRequest,
  type AheadStep,
  type EngineEvent,
  type EngineReading,
  type LineUp,
  type ReadingMeaning,
  type ReportFigures,
  type TrailAnswer,
  type WhatIfAnswer,
  type WhyAnswer,
} from './engine-messages';
import {
  expectationAt,
  inWords,
  judged,
  type Expectation,
  type JudgedExpectation,
} from '../case/expectation';
import { predictorOf } from '../case/good-board';
import { playJournal } from '../case/journal';
import { isRepair, writeAnswers, type WrittenAnswers } from '../case/solved';
import { sideOf, whyAnswer } from './arguing';
import { allowedBy } from './limits';
import { leadersOf, lineUpInWords } from './line-up-words';
import { PartReadings, readingOn } from './part-readings';
import { nextStep, proposalKey, PROPOSALS, stepInWords } from './plan-words';

/** Work goes on for so long before other messages are let in. */
const TURN_MILLISECONDS = 30;
/**
 * When a first line-up is shown while the work goes on, milliseconds, and again after multiples of
 * it.
 */
const EARLY_MILLISECONDS = 500;
/** With more faults than this a first look at what to measure comes before the whole plan. */
const FIRST_LOOK_FROM = 500;
/** Suspects that are named after a reading that is typed. */
const LEADING = 2;
/** And at every moment of a trace. */
const TRAIL_LEADING = 3;
/** Readings in a row that are looked ahead. */
const STEPS_AHEAD = 2;

/** How a request is worked on. */
export interface Course {
  readonly send: (event: EngineEvent) => void;
  /** Lets other messages in between steps. */
  readonly pause: () => Promise<void>;
  /** Whether nobody waits for the answer any more: then the work stops at its next step. */
  readonly stale: () => boolean;
}

/** The core at work on one board, in a worker. One request at a time. */
export class Engine {
  private diagnoser: Diagnoser;
  /**
   * The board as its sheet has it; what the diagnoser works on knows what readings have taught of
   * it.
   */
  private readonly drawn: BoardIndex;
  private taught = '';
  private priors: ReadonlyMap<string, number>;
  private look = '{}';
  /** What readings across single parts say of those. */
  readonly parts: PartReadings;

  constructor(board: Board) {
    this.drawn = indexBoard(board);
    this.parts = new PartReadings(this.drawn);
    this.diagnoser = new Diagnoser(this.drawn, RATES);
    this.priors = this.priorShares();
  }

  private priorShares(): ReadonlyMap<string, number> {
    return new Map(
      this.diagnoser.believe([]).byPart.map(({ ref, probability }) => [ref, probability]),
    );
  }

  /** Takes in what the eye found, where it is other than before. */
  private see(look: Readonly<Record<string, number>>): void {
    const key = JSON.stringify(look);
    if (key === this.look) return;
    this.look = key;
    this.diagnoser.reweigh((ref) => look[ref] ?? 1);
    this.priors = this.priorShares();
  }

  /** Works out the line-up, then what to do next. Each is sent as soon as it is known. */
  async assess(raw: unknown, course: Course): Promise<void> {
    const asked = AssessRequest.parse(raw);
    const { ticket, readings } = asked;
    this.see(asked.look);
    const started = performance.now();
    this.learn(readings);
    const known = readings.flatMap((reading) => this.resolve(reading));
    const given = known.map(({ reading }) => reading);
    const ids = known.map(({ id }) => id);
    const options = this.planOptions(asked, given);
    const opening = options.accessMinutes;
    const firstLook = (belief: Belief): void => {
      const plan = planNext(this.diagnoser, given, belief, {
        ...options,
        quick: true,
        most: PROPOSALS,
      });
      course.send({
        type: 'next',
        ticket,
        next: { ...nextStep(plan, opening), provisional: true },
      });
    };
    // What is known early is shown early: likely faults near the reading are looked at first.
    let shown = 0;
    const soFar = (share: number): void => {
      if (share === 0 || performance.now() - started < EARLY_MILLISECONDS * (1 + 3 * shown)) return;
      const belief = this.diagnoser.believeSoFar(given);
      course.send({
        type: 'line-up',
        ticket,
        lineUp: {
          ...this.lineUp(belief, ids, given, performance.now() - started),
          unexplained: [],
          refining: share,
        },
      });
      if (shown % 3 === 0) firstLook(belief);
      shown += 1;
    };
    if (!(await walk(this.diagnoser.prepare(given), ticket, course, soFar))) return;
    const belief = this.diagnoser.believe(given);
    course.send({
      type: 'line-up',
      ticket,
      lineUp: this.lineUp(belief, ids, given, performance.now() - started),
    });
    if (shown > 0 || this.diagnoser.space.hypotheses.length > FIRST_LOOK_FROM) firstLook(belief);
    const plan = await walk(planSteps(this.diagnoser, given, belief, options), ticket, course);
    if (plan) course.send({ type: 'next', ticket, next: nextStep(plan.value, opening) });
  }

  /** What bounds a plan: what is off, what it costs to get there, what may be proposed at all. */
  private planOptions(
    { absent, access, limits, skips = [], meters }: AssessRequest,
    given: readonly Reading[],
  ): PlanOptions & { readonly accessMinutes: (m: Measurement) => number } {
    const { index } = this.diagnoser;
    const accessOf = (m: Measurement): number =>
      access ? accessMinutes(access.template, access.done, namesAt(index, m)) : 0;
    // Hands are where the last reading was taken.
    const last = given.at(-1)?.measurement;
    return {
      absent,
      accessMinutes: accessOf,
      handMinutes: (m) => handMinutes(index, last, m),
      allowed: allowedBy(index, limits, skips, accessOf),
      touching: limits?.solder ?? true,
      meter: (kind) => meters?.[kind],
    };
  }

  /**
   * What would follow one of the proposed readings, a few steps on. undefined where it is not among
   * those that may be proposed, and where nobody waits for it any more.
   */
  async ahead(raw: unknown, course: Course): Promise<AheadStep | undefined> {
    const { request, key } = AheadRequest.parse(raw);
    this.see(request.look);
    this.learn(request.readings);
    const given = request.readings
      .flatMap((reading) => this.resolve(reading))
      .map(({ reading }) => reading);
    if (!(await walk(this.diagnoser.prepare(given), 0, course))) return undefined;
    const options = this.planOptions(request, given);
    const belief = this.diagnoser.believe(given);
    const plan = await walk(planSteps(this.diagnoser, given, belief, options), 0, course);
    const first = plan?.value.measurements.find((m) => proposalKey(m) === key);
    if (!first) return undefined;
    const steps = await walk(
      aheadSteps(this.diagnoser, given, first, STEPS_AHEAD, options),
      0,
      course,
    );
    return steps && stepInWords(steps.value);
  }

  /** What a sound board shows at a point. */
  expect(raw: unknown): Expectation | undefined {
    return expectationAt(this.drawn, ExpectRequest.parse(raw));
  }

  /**
   * The level that every net with a pin of a chip has on a sound board with the power on: `0`, `1`,
   * `P` or `Z`. absent: the parts that are off it.
   */
  levels(raw: unknown): Readonly<Record<string, string>> {
    const absent = LevelsRequest.parse(raw);
    const predictor = predictorOf(this.drawn);
    return Object.fromEntries(
      this.drawn.nets.flatMap((net): [string, string][] => {
        const onChip = (this.drawn.pinsOfNet.get(net) ?? []).some(
          ({ part }) => part.kind === 'chip',
        );
        const asked = onChip ? resolveMeasurement(this.drawn, 'on', 'logic', net, '') : undefined;
        if (!asked?.ok) return [];
        const response = predictor.healthy(asked.measurement, absent);
        return response.unknown ? [] : [[net, String(readout('logic', response).value)]];
      }),
    );
  }

  /** What the meter would show with faults put on the board, beside each reading and on each net. */
  whatIf(raw: unknown): WhatIfAnswer {
    const { faults: names, readings, absent } = WhatIfRequest.parse(raw);
    const read =
      names.trim() === '' ? { ok: true as const, faults: [] } : parseFaults(this.drawn, names);
    if (!read.ok) return { ok: false, why: `${read.what}; expected ${read.expected}` };
    const known = readings.flatMap((reading) => this.resolve(reading));
    const { readings: shown, volts } = whatIf(
      this.drawn,
      read.faults,
      known.map(({ reading }) => reading),
      absent,
    );
    return {
      ok: true,
      readings: Object.fromEntries(
        known.flatMap(({ id }, i): [string, JudgedExpectation][] => {
          const one = shown[i];
          return one ? [[id, { ...inWords(one.shown), within: one.fits }]] : [];
        }),
      ),
      volts: Object.fromEntries([...volts].map(([net, { display }]) => [net, display])),
    };
  }

  /**
   * Who would lead after the last of the readings. undefined where the sheet does not have its point,
   * and where nobody waits for it any more. What was worked out serves when it is filed.
   */
  async meaning(raw: unknown, course: Course): Promise<ReadingMeaning | undefined> {
    const { readings, look } = MeaningRequest.parse(raw);
    this.see(look);
    this.learn(readings);
    const known = readings.flatMap((reading) => this.resolve(reading));
    if (known.at(-1)?.id !== readings.at(-1)!.id) return undefined;
    const given = known.map(({ reading }) => reading);
    if (!(await walk(this.diagnoser.prepare(given), 0, course))) return undefined;
    const belief = this.diagnoser.believe(given);
    return {
      within: withinBand(given.at(-1)!.value, belief.expected[given.length - 1]!),
      leading: leadersOf(belief, LEADING),
    };
  }

  /**
   * Why one part is believed more than another, or than that nothing is wrong. undefined where nobody
   * waits for it any more. Cost: two line-ups for each reading.
   */
  async why(raw: unknown, course: Course): Promise<WhyAnswer | undefined> {
    const { readings, absent, look, one, other } = WhyRequest.parse(raw);
    this.see(look);
    this.learn(readings);
    const known = readings.flatMap((reading) => this.resolve(reading));
    const given = known.map(({ reading }) => reading);
    if (!(await walk(this.diagnoser.prepare(given), 0, course))) return undefined;
    const argued = await walk(
      argueSteps(this.diagnoser, given, sideOf(one), sideOf(other)),
      0,
      course,
    );
    return argued && whyAnswer(this.drawn, argued.value, known, absent, [one, other]);
  }

  /**
   * What was believed after each of the readings. undefined where nobody waits for it any more. Cost:
   * a line-up for each.
   */
  async trail(raw: unknown, course: Course): Promise<TrailAnswer | undefined> {
    const { readings, look } = TrailRequest.parse(raw);
    this.see(look);
    this.learn(readings);
    const known = readings.flatMap((reading) => this.resolve(reading));
    const given = known.map(({ reading }) => reading);
    if (!(await walk(this.diagnoser.prepare(given), 0, course))) return undefined;
    const found: [string, TrailAnswer[string]][] = [];
    for (const [i, { id, reading }] of known.entries()) {
      const belief = this.diagnoser.believe(given.slice(0, i + 1));
      found.push([
        id,
        {
          expected: judged(belief.expected[i]!, reading.value),
          leading: leadersOf(belief, TRAIL_LEADING),
          healthy: belief.healthy,
        },
      ]);
      await course.pause();
      if (course.stale()) return undefined;
    }
    return Object.fromEntries(found);
  }

  /** What it would bring to draw what hangs on the edges of the sheet. */
  worth(raw: unknown): readonly SheetWorth[] {
    const { suspects, absent } = WorthRequest.parse(raw);
    const faults = suspects.flatMap((name) => {
      const read = parseFaults(this.drawn, name);
      return read.ok ? [read.faults] : [];
    });
    return sheetWorth(this.drawn, faults, absent);
  }

  /** What circuits say of a case: its proof, and what keeps power and fuses out. */
  stand(raw: unknown): WrittenAnswers {
    return writeAnswers(this.drawn, playJournal(JournalRequest.parse(raw), this.drawn));
  }

  /**
   * The engine's words on the readings before the repair, or on all where nothing was fitted.
   * Undefined where nobody waits for it any more. Cost: as a first line-up.
   */
  async account(raw: unknown, course: Course): Promise<ReportFigures | undefined> {
    const journal = playJournal(JournalRequest.parse(raw), this.drawn);
    const readings = journal.ledger.some(isRepair)
      ? journal.readings.filter(({ current }) => !current)
      : journal.readings;
    const weightFor = journal.condemned[0]?.body.ref;
    if (!(await walk(this.diagnoser.prepare(readings), 0, course))) return undefined;
    const belief = this.diagnoser.believe(readings);
    const part = belief.byPart.find(({ ref }) => ref === weightFor);
    const rows = readings.map(({ entry }, i): [string, ReportFigures['readings'][string]] => {
      const shown = belief.expected[i]!;
      const within = withinBand(entry.body.value, shown);
      return [entry.id, { expected: shown.display, within, weight: part?.weights[i] ?? null }];
    });
    return { readings: Object.fromEntries(rows), weightFor: weightFor ?? null };
  }

  private lineUp(
    belief: Belief,
    ids: readonly string[],
    readings: readonly Reading[],
    milliseconds: number,
  ): LineUp {
    return lineUpInWords(this.diagnoser, this.priors, belief, ids, readings, milliseconds);
  }

  /** Takes in what the readings teach of values that the sheet does not know. */
  private learn(readings: readonly EngineReading[]): void {
    if (!this.drawn.board.parts.some((part) => 'unknown' in part && part.unknown)) return;
    const { index, key } = taughtBy(
      this.drawn,
      readings.flatMap((reading) => this.resolve(reading)).map(({ reading }) => reading),
    );
    if (key === this.taught) return;
    this.taught = key;
    this.diagnoser = new Diagnoser(
      index,
      RATES,
      (ref) => (JSON.parse(this.look) as Record<string, number>)[ref] ?? 1,
    );
    this.priors = this.priorShares();
  }

  private resolve(r: EngineReading): { id: string; reading: Reading }[] {
    const reading = readingOn(this.diagnoser.index, r);
    return reading ? [{ id: r.id, reading }] : [];
  }
}

/**
 * Walks through long work, telling how far it is and letting other messages in; undefined where it
 * is wanted no more.
 */
async function walk<T>(
  steps: Generator<number, T>,
  ticket: number,
  { send, pause, stale }: Course,
  onTurn?: (share: number) => void,
): Promise<{ value: T } | undefined> {
  for (let last = performance.now(); ;) {
    const step = steps.next();
    if (step.done) return { value: step.value };
    if (performance.now() - last < TURN_MILLISECONDS) continue;
    send({ type: 'progress', ticket, share: step.value });
    onTurn?.(step.value);
    await pause();
    if (stale()) return undefined;
    last = performance.now();
  }
}

/**
 * Under which names the points of a measurement become reachable: its nets, and the parts it
 * touches.
 */
function namesAt(index: BoardIndex, { at, to }: Measurement): string[] {
  return [at, to].flatMap(({ net, pin }) =>
    pin
      ? [replaceableRef(pin.part.ref)]
      : [net, ...(index.pinsOfNet.get(net) ?? []).map(({ part }) => replaceableRef(part.ref))],
  );
}
