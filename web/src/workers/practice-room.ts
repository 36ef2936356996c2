import { indexBoard, type Board } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import { hypothesisSpace } from '@hanzai/core/fault';
import { resolveMeasurement, type ReadingValue } from '@hanzai/core/instrument';
import {
  debriefSteps,
  drawExercise,
  exerciseOfCase,
  NoExercise,
  Session,
  skillOf,
  triedIn,
  type Action,
  type Answer,
  type Debrief,
  type Exercise,
  type Level,
  type Skill,
  type Tried,
} from '@hanzai/core/training';
import { RATES } from '@hanzai/data';
import type { ClosedSource } from '../practice/run';

/** Seeds that are looked through for a fault of one skill. */
const MOST_SEEDS = 40;

/** What is put on the bench of an exercise, with what was done to it already. */
export interface PracticeOrder {
  readonly board: Board;
  readonly seed: number;
  readonly level: Level;
  /** The net or section that it lies around; empty or left out for the whole board. */
  readonly within?: string | undefined;
  readonly closed?: ClosedSource | undefined;
  readonly actions: readonly Action[];
}

/** How an exercise stands, without a word about what is hidden. */
export interface PracticeStand {
  readonly complaint: string;
  readonly minutes: number;
  readonly damage: readonly string[];
}

export interface Debriefed {
  readonly debrief: Debrief;
  readonly tried: readonly Tried[];
}

/** The bench of an exercise, wherever it runs. */
export class PracticeDoor {
  private session?: Session;
  private asked?: Diagnoser;
  private wantsWay = true;

  /** Sets an exercise up and does to it what was done before; why not, in words. */
  open(order: PracticeOrder): PracticeStand | string {
    try {
      this.session = new Session(exerciseOf(order));
    } catch (error) {
      if (error instanceof NoExercise) return error.message;
      throw error;
    }
    for (const action of order.actions) this.act(action);
    return this.stand();
  }

  act(action: Action): Answer & { readonly stand: PracticeStand } {
    const session = this.own();
    const answer = session.act(action, () => this.diagnoser());
    return { ...answer, stand: this.stand() };
  }

  /**
   * What could have been. Takes seconds to minutes: the planner goes its own way through. onStep:
   * told how far it is.
   */
  async debrief(isTidy: boolean, onStep: (words: string) => void): Promise<Debriefed> {
    const session = this.own();
    const steps = debriefSteps(session, RATES);
    this.wantsWay = true;
    for (;;) {
      const step = steps.next(this.wantsWay);
      if (step.done) return { debrief: step.value, tried: triedIn(session, step.value, isTidy) };
      onStep(step.value);
      // Lets whoever does not want the planner's way be heard.
      await new Promise((resolve) => setTimeout(resolve));
    }
  }

  /** Leaves the planner's own way out of the debrief that is being worked out. */
  withoutWay(): void {
    this.wantsWay = false;
  }

  /**
   * The first seed from this one on that hides something of a skill; undefined where none soon
   * does.
   */
  find(board: Board, level: Level, skill: Skill, from: number): number | undefined {
    if (!callsFor(board, skill)) return undefined;
    for (let seed = from; seed < from + MOST_SEEDS; seed += 1) {
      try {
        const { faults, index } = drawExercise(board, RATES, seed, level);
        if (faults.some((fault) => skillOf(index, fault) === skill)) return seed;
      } catch (error) {
        if (!(error instanceof NoExercise)) throw error;
      }
    }
    return undefined;
  }

  private own(): Session {
    if (!this.session) throw new Error('no exercise is set up');
    return this.session;
  }

  private diagnoser(): Diagnoser {
    return (this.asked ??= new Diagnoser(this.own().exercise.index, RATES));
  }

  private stand(): PracticeStand {
    const { exercise, minutes, damage } = this.own();
    return { complaint: exercise.complaint, minutes, damage: damage.map(({ words }) => words) };
  }
}

/** Whether anything that can fail on a board is of a skill. */
function callsFor(board: Board, skill: Skill): boolean {
  const index = indexBoard(board);
  return hypothesisSpace(index, RATES).hypotheses.some(
    ({ name }) => skillOf(index, name) === skill,
  );
}

function exerciseOf({ board, seed, level, within, closed }: PracticeOrder): Exercise {
  if (!closed) return drawExercise(board, RATES, seed, level, within);
  const index = indexBoard(board);
  const readings = closed.readings.flatMap(({ setup, kind, at, to, value }) => {
    const resolved = resolveMeasurement(index, setup, kind, at, to);
    return resolved.ok ? [{ measurement: resolved.measurement, value: value as ReadingValue }] : [];
  });
  const { parts, complaint } = closed;
  return exerciseOfCase({ board, parts, readings, complaint, seed }, RATES);
}
