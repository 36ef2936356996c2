import { nameKey, powerOf, replaceablePart, replaceableRef, type Setup } from '../board';
import type { Diagnoser } from '../diagnosis';
import {
  measurementKey,
  resolveMeasurement,
  type Measurement,
  type Reading,
  type ReadingValue,
} from '../instrument';
import { DEFAULT_COSTS, planNext, setupMinutes, type CostTable } from '../plan';
import { readOff, seeded, type Random } from '../practice';
import { BenchBoard } from '../simulated';
import type { Action, Help } from './action';
import { measurementWords, refsOf, respond, type Exercise } from './exercise';

/** What help costs, minutes: a colleague is asked. From memory of shop practice. */
export const HELP_MINUTES = {
  next: 3,
  suspects: 4,
  net: 1,
  reading: 2,
} as const satisfies Readonly<Record<Help, number>>;
/** What may happen to a pad when a part comes off for nothing. From memory of bench practice. */
const PAD_RISK = 0.03;
/** A share that moved by less is not worth a word. */
const LEAST_MOVE = 0.01;

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

/**
 * An exercise as it is worked on: a bench with something hidden, a clock of bench minutes, and all
 * that was done. Readings have the meter's noise; power into a short blows the fuse that is in its
 * way.
 */
export class Session {
  readonly moves: Move[] = [];
  readonly damage: Damage[] = [];
  private readonly bench: BenchBoard;
  private readonly random: Random;
  private setup: Setup = 'off';
  /** Parts that are off the board now. */
  private absent: readonly string[] = [];
  private standing: Reading[] = [];

  constructor(
    readonly exercise: Exercise,
    private readonly costs: CostTable = DEFAULT_COSTS,
  ) {
    this.bench = new BenchBoard(exercise.board, exercise.faults, 'off');
    this.random = seeded(exercise.seed * 7 + 3);
  }

  get minutes(): number {
    return this.moves.reduce((sum, move) => sum + move.minutes, 0);
  }

  /** Readings of the board as it is now. */
  get readings(): readonly Reading[] {
    return this.standing;
  }

  /** Whether nothing is wrong with it any more, hidden or happened. */
  get isSound(): boolean {
    return this.bench.wrong.length === 0;
  }

  /** Takes a reading. What it shows; undefined where it can show nothing. */
  take(m: Measurement): ReadingValue | undefined {
    const minutes = setupMinutes(this.setup, m.setup, this.costs) + this.costs.reading[m.kind];
    this.putInto(m.setup);
    const value = this.onRecord(m) ?? this.meterShows(m);
    const reading =
      value === undefined
        ? undefined
        : { measurement: m, value, ...(this.absent.length > 0 ? { absent: this.absent } : {}) };
    this.moves.push({ kind: 'reading', measurement: m, reading, before: this.standing, minutes });
    if (reading) {
      // Read again, the newer one stands.
      const key = measurementKey(m);
      this.standing = [
        ...this.standing.filter((one) => measurementKey(one.measurement) !== key),
        reading,
      ];
    }
    return value;
  }

  private meterShows(m: Measurement): ReadingValue | undefined {
    const response = respond(this.bench, m);
    return response && readOff(m, response, this.random);
  }

  /**
   * What was really read there, where the exercise is a case that was closed, and as long as
   * nothing was changed.
   */
  private onRecord(m: Measurement): ReadingValue | undefined {
    const untouched = this.moves.every(({ kind }) => kind !== 'replaced');
    return untouched && this.damage.length === 0
      ? this.exercise.recorded?.get(measurementKey(m))
      : undefined;
  }

  /**
   * Something that has to be held to was passed over: a hazard that nobody acknowledged, and the
   * like.
   */
  pass(words: string): void {
    // Passed over once, it is passed over: the next reading is no new harm.
    if (this.damage.some((one) => one.words === words)) return;
    this.damage.push({ words, move: this.moves.length });
  }

  /**
   * Does one action. diagnoser: asked for where help is. Nothing is in the answer where nothing
   * could be read, or where the board has no such point.
   */
  act(action: Action, diagnoser: () => Diagnoser): Answer {
    if (action.do === 'replace') this.replace(action.ref);
    else if (action.do === 'off') this.takeOff(action.ref);
    else if (action.do === 'back') this.putBack(action.ref);
    else if (action.do === 'pass') this.pass(action.words);
    else if (action.do === 'help')
      return { words: this.help(diagnoser(), action.help, action.net) };
    else {
      const { setup, kind, at, to } = action;
      const resolved = resolveMeasurement(this.exercise.index, setup, kind, at, to);
      const value = resolved.ok ? this.take(resolved.measurement) : undefined;
      return value === undefined ? {} : { value };
    }
    return {};
  }

  /** Takes a part off the board: half of what replacing it takes. */
  takeOff(ref: string): void {
    const own = this.nameOf(ref);
    if (this.isOff(own)) return;
    this.moves.push({ kind: 'off', ref: own, minutes: this.iron(0.5) });
    this.bench.unplug(own);
    this.absent = [...this.absent, own];
  }

  /** The same part on again. */
  putBack(ref: string): void {
    const own = this.nameOf(ref);
    if (!this.isOff(own)) return;
    this.moves.push({ kind: 'back', ref: own, minutes: this.iron(0.5) });
    this.plug(own);
  }

  /** A part as the board writes it; a place as it was written. */
  private nameOf(ref: string): string {
    if (ref.includes('~')) return ref;
    return replaceablePart(this.exercise.index, ref)?.ref ?? replaceableRef(ref);
  }

  private isOff(ref: string): boolean {
    return this.absent.some((one) => nameKey(one) === nameKey(ref));
  }

  private plug(ref: string): void {
    this.bench.plug(ref);
    this.absent = this.absent.filter((one) => nameKey(one) !== nameKey(ref));
  }

  /**
   * Switches off for work with the iron; minutes that it takes with a share of what a part takes.
   */
  private iron(share: number): number {
    const minutes = setupMinutes(this.setup, 'off', this.costs) + share * this.costs.replace;
    this.putInto('off');
    return minutes;
  }

  /** A good part in the place of this one, or a place mended. Whether it was bad. */
  replace(ref: string): boolean {
    const own = this.nameOf(ref);
    // Where it is off already, half of the work is done.
    const minutes = this.iron(this.isOff(own) ? 0.5 : 1);
    this.plug(own);
    const isOwn = (one: string): boolean =>
      own.includes('~') ? sameNets(one, own) : nameKey(one) === nameKey(own);
    const wasBad = refsOf(this.bench.wrong).some(isOwn);
    if (own.includes('~'))
      for (const fault of this.bench.wrong) {
        if (isOwn(fault.slice(0, fault.lastIndexOf(':')))) this.bench.undo(fault);
      }
    else this.bench.replace(own);
    const at = this.moves.length;
    this.moves.push({ kind: 'replaced', ref: own, wasBad, before: this.standing, minutes });
    if (!wasBad && this.random() < PAD_RISK)
      this.damage.push({ words: `a pad of ${own} came off with it, and it was good`, move: at });
    // What was read before speaks of another board.
    this.standing = [];
    return wasBad;
  }

  /** Asks a colleague: what he would measure next, whom he suspects, or what holds a net. */
  help(diagnoser: Diagnoser, help: Help, net = ''): string {
    this.moves.push({ kind: 'help', help, minutes: HELP_MINUTES[help] });
    const { index } = this.exercise;
    if (help === 'net') {
      const found = index.netByKey.get(nameKey(net));
      const refs = found && [
        ...new Set((index.pinsOfNet.get(found) ?? []).map(({ part }) => replaceableRef(part.ref))),
      ];
      return refs
        ? `On ${found}: ${refs.join(', ')}. Any of them can hold it.`
        : `There is no net ${net}.`;
    }
    if (help === 'reading') return lastReadingWords(diagnoser, this.standing);
    const belief = diagnoser.believe([...this.standing]);
    if (help === 'suspects')
      return belief.byPart
        .slice(0, 3)
        .map(({ ref, probability }) => `${ref} ${Math.round(100 * probability)} %`)
        .join(', ');
    const [first] = planNext(diagnoser, this.standing, belief).measurements;
    return first
      ? `I would measure ${measurementWords(first.measurement)}: it ${first.reason}`
      : 'No reading tells more: replace the likeliest.';
  }

  private putInto(setup: Setup): void {
    if (setup === this.setup) return;
    const wasOn = powerOf(this.setup) === 'on';
    const before = this.bench.events.length;
    this.setup = setup;
    this.bench.putInto(setup);
    this.bench.power(powerOf(setup) === 'on');
    for (const event of this.bench.events.slice(before)) {
      this.damage.push({
        words: `${event}${wasOn ? '' : ', at the moment of power: ohms from the rails to ground would have told'}`,
        move: this.moves.length,
      });
      // Another board: it has a blown fuse more.
      this.standing = [];
    }
  }
}

/** What the newest reading did to the belief: whom it speaks for and against, in shares. */
function lastReadingWords(diagnoser: Diagnoser, readings: readonly Reading[]): string {
  const last = readings.at(-1);
  if (!last) return 'Nothing is read yet of the board as it is now.';
  const share = (list: readonly Reading[]): ReadonlyMap<string, number> =>
    new Map(diagnoser.believe([...list]).byPart.map(({ ref, probability }) => [ref, probability]));
  const [before, after] = [share(readings.slice(0, -1)), share(readings)];
  const moved = [...after]
    .map(([ref, now]) => ({ ref, was: before.get(ref) ?? 0, now }))
    .sort((a, b) => Math.abs(b.now - b.was) - Math.abs(a.now - a.was))
    .slice(0, 3)
    .filter(({ was, now }) => Math.abs(now - was) >= LEAST_MOVE);
  const percent = (of: number): string => `${Math.round(100 * of)} %`;
  const of = measurementWords(last.measurement);
  return moved.length === 0
    ? `${of}: it moved nobody by more than ${percent(LEAST_MOVE)}.`
    : `${of}: ${moved.map(({ ref, was, now }) => `${ref} from ${percent(was)} to ${percent(now)}`).join(', ')}.`;
}

const sameNets = (one: string, other: string): boolean => {
  const key = (name: string): string => name.split('~').map(nameKey).sort().join('~');
  return key(one) === key(other);
};
