import { nameKey, powerOf, replaceablePart, replaceableRef, type Setup } from '../board';
import type { Diagnoser } from '../diagnosis';
import {
  measurementKey,
  resolveMeasurement,
  type Measurement,
  type Reading,
  type ReadingValue,
} from '../instrument';
import { DEFAULT_COSTS, setupMinutes, type CostTable } from '../plan';
import { readOff, seeded, type Random } from '../practice';
import { BenchBoard } from '../simulated';
import type { Action, Attention, Help } from './action';
import { LooseFault } from './come-and-go';
import { colleagueSays, HELP_MINUTES } from './help';
import { isAlike, isTrimmer, swappedName } from './like-parts';
import { respond, type Exercise } from './exercise';
import type { Answer, Damage, Move } from './move';
import { refsOf } from './refs';

/** What may happen to a pad when a part comes off for nothing. From memory of bench practice. */
const PAD_RISK = 0.03;
/** How often a probe slips from a chip's pin under power. From memory of bench practice. */
const SLIPS = 0.02;
/** What small things at the bench take, minutes. From memory of bench practice. */
const SMALL_MINUTES = { mark: 0.5, zero: 0.3, chill: 0.5, press: 0.5, slip: 0.5 } as const;
/** A hand that presses is missing at the probes: a reading takes so much longer, minutes. */
const ONE_HANDED = 0.5;

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
  private readonly mishaps: Random;
  private readonly loose: LooseFault | undefined;
  private isPressed = false;
  private leadOhm: number;
  private readonly marked = new Set<string>();
  private slip: string | undefined;

  /** careful: nothing slips and the leads are zeroed, as for whoever shows how it could be done. */
  constructor(
    readonly exercise: Exercise,
    private readonly costs: CostTable = DEFAULT_COSTS,
    private readonly careful = false,
  ) {
    const { comesAndGoes, faults, board, seed } = exercise;
    this.bench = new BenchBoard(board, faults, 'off');
    this.random = seeded(seed * 7 + 3);
    // Of their own: what mishap happens changes no reading.
    this.mishaps = seeded(seed * 17 + 11);
    this.leadOhm = careful ? 0 : exercise.leadOhm;
    this.loose = comesAndGoes && new LooseFault(comesAndGoes, this.bench, this.mishaps);
    this.loose?.look();
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
    return this.bench.wrong.length === 0 && this.loose?.fault === undefined;
  }

  /** Whether no warmth has to be brought for what comes and goes. */
  get isWarm(): boolean {
    return this.loose?.when.isWarm !== false;
  }

  /** What became of a probe that slipped at the last reading, in words; undefined where none did. */
  get slipped(): string | undefined {
    return this.slip;
  }

  /** Takes a reading. What it shows; undefined where it can show nothing. */
  take(m: Measurement): ReadingValue | undefined {
    const minutes =
      setupMinutes(this.setup, m.setup, this.costs) +
      this.costs.reading[m.kind] +
      (this.isPressed ? ONE_HANDED : 0);
    this.putInto(m.setup);
    this.goesBy(minutes);
    this.watched(
      () => this.loose?.look(),
      (event) => `${event}, when what comes and goes came`,
    );
    this.slip = this.slipAt(m);
    const value = this.slip === undefined ? (this.onRecord(m) ?? this.meterShows(m)) : undefined;
    const reading =
      value === undefined
        ? undefined
        : { measurement: m, value, ...(this.absent.length > 0 ? { absent: this.absent } : {}) };
    this.moves.push({
      kind: 'reading',
      measurement: m,
      reading,
      before: this.standing,
      minutes,
      ...(this.loose?.isAway ? { away: true as const } : {}),
    });
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
    if (!response) return undefined;
    const leads = m.kind === 'resistance' || m.kind === 'continuity' ? this.leadOhm : 0;
    return readOff(m, { ...response, value: response.value + leads }, this.random);
  }

  /** Under power a probe may slip from a chip's pin to the next one: nothing is read then. */
  private slipAt({ kind, at, setup }: Measurement): string | undefined {
    const { pin } = at;
    const isFine = pin?.part.kind === 'chip' && (kind === 'voltage' || kind === 'logic');
    if (!isFine || powerOf(setup) !== 'on' || this.exercise.level === 1 || this.careful)
      return undefined;
    if (this.mishaps() >= SLIPS) return undefined;
    const next = pin.part.pins[pin.index + 1] ?? pin.part.pins[pin.index - 1];
    if (next === undefined) return undefined;
    const joined = `the probe slipped from ${pin.part.ref}.${pin.index + 1} to the pin beside it`;
    const before = this.damage.length;
    this.watched(
      () => this.bench.bridgeForAMoment(at.net, next),
      (event) => `${event}: ${joined}, with the power on`,
    );
    return this.damage.length > before ? joined : `${joined}; nothing came of it this time`;
  }

  /**
   * What was really read there, where the exercise is a case that was closed, and as long as
   * nothing was changed.
   */
  private onRecord(m: Measurement): ReadingValue | undefined {
    const untouched = this.moves.every(({ kind }) => kind !== 'replaced' && kind !== 'swap');
    return untouched && this.absent.length === 0 && this.damage.length === 0
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
    switch (action.do) {
      case 'take':
        return this.takeTyped(action);
      case 'help':
        return { words: this.help(diagnoser(), action.help, action.net) };
      case 'replace':
        this.replace(action.ref);
        return {};
      case 'off':
        this.takeOff(action.ref);
        return {};
      case 'back':
        this.putBack(action.ref);
        return {};
      case 'pass':
        this.pass(action.words);
        return {};
      case 'swap':
      case 'mark':
      case 'zero':
      case 'wait':
      case 'chill':
      case 'press':
      case 'release':
        return { words: this.attend(action) };
    }
  }

  private takeTyped({ setup, kind, at, to }: Extract<Action, { do: 'take' }>): Answer {
    const resolved = resolveMeasurement(this.exercise.index, setup, kind, at, to);
    if (!resolved.ok) return {};
    const value = this.take(resolved.measurement);
    if (this.slip !== undefined) return { words: this.slip };
    return value === undefined ? {} : { value };
  }

  /** The small things: what was done, in words. */
  attend(action: Attention): string {
    if (action.do === 'swap') return this.swap(action.ref, action.with);
    const done = (words: string, minutes: number): string => {
      this.moves.push({ kind: 'done', words, minutes });
      this.goesBy(minutes);
      return words;
    };
    if (action.do === 'wait') {
      const minutes = setupMinutes(this.setup, 'on', this.costs) + action.minutes;
      this.putInto('on');
      return done(`left on for ${action.minutes} min`, minutes);
    }
    if (action.do === 'zero') {
      this.leadOhm = 0;
      return done('leads touched together, and what they read taken off', SMALL_MINUTES.zero);
    }
    if (action.do === 'release') {
      this.isPressed = false;
      this.loose?.when.press(undefined);
      return done('let go', 0);
    }
    const ref = action.ref === '' ? '' : this.nameOf(action.ref);
    if (action.do === 'press') {
      this.isPressed = true;
      this.loose?.when.press(ref);
      return done(ref === '' ? 'the board held flexed' : `${ref} pressed on`, SMALL_MINUTES.press);
    }
    if (action.do === 'chill') {
      // Minutes go by before it is cold.
      const words = done(`${ref} sprayed cold`, SMALL_MINUTES.chill);
      this.loose?.when.chill(ref);
      return words;
    }
    this.marked.add(nameKey(ref));
    return done(`how ${ref} stands is written down`, SMALL_MINUTES.mark);
  }

  /** Two of a kind change places. What came of it, in words: what is bad goes with its part. */
  swap(ref: string, other: string): string {
    const { index } = this.exercise;
    const [a, b] = [replaceablePart(index, ref), replaceablePart(index, other)];
    if (!a || !b || a.ref === b.ref || !isAlike(a.parts, b.parts))
      return `${a?.ref ?? ref} and ${b?.ref ?? other} are not two of a kind: nothing is swapped`;
    if (this.isOff(a.ref) || this.isOff(b.ref))
      return `${this.isOff(a.ref) ? a.ref : b.ref} is off: put it back first, then swap`;
    this.keepSetting(a.ref);
    this.keepSetting(b.ref);
    const minutes = this.iron(1);
    this.moves.push({ kind: 'swap', refs: [a.ref, b.ref], minutes });
    this.goesBy(minutes);
    const loose = this.loose?.fault;
    const to = (name: string): string | undefined => swappedName(name, a.ref, b.ref);
    const moved = this.bench.wrong.filter((name) => name !== loose && to(name) !== undefined);
    for (const name of moved) this.bench.undo(name);
    for (const name of moved) this.bench.spoil(to(name)!);
    if (loose !== undefined) this.loose!.moved(to(loose) ?? loose);
    this.standing = [];
    return `${a.ref} and ${b.ref} have changed places`;
  }

  /** Takes a part off the board: half of what replacing it takes. */
  takeOff(ref: string): void {
    const own = this.nameOf(ref);
    if (this.isOff(own)) return;
    this.keepSetting(own);
    const minutes = this.iron(0.5);
    this.moves.push({ kind: 'off', ref: own, minutes });
    this.goesBy(minutes);
    this.bench.unplug(own);
    this.absent = [...this.absent, own];
  }

  /** The same part on again. */
  putBack(ref: string): void {
    const own = this.nameOf(ref);
    if (!this.isOff(own)) return;
    const minutes = this.iron(0.5);
    this.moves.push({ kind: 'back', ref: own, minutes });
    this.goesBy(minutes);
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

  /** A trimmer that goes without its setting written down has to be set anew. */
  private keepSetting(ref: string): void {
    const part = replaceablePart(this.exercise.index, ref)?.parts[0];
    if (part && isTrimmer(part) && !this.marked.has(nameKey(ref)))
      this.pass(`${ref} is a trimmer, and nobody wrote down how it stood: it has to be set anew`);
  }

  /** Bench minutes go by. */
  private goesBy(minutes: number): void {
    this.loose?.when.pass(minutes, powerOf(this.setup) === 'on');
  }

  /** Does something to the bench, and keeps what happened by itself as harm. */
  private watched(work: () => void, words: (event: string) => string): void {
    const before = this.bench.events.length;
    work();
    const happened = this.bench.events.slice(before);
    for (const event of happened)
      this.damage.push({ words: words(event), move: this.moves.length });
    // Another board: it has a blown fuse more.
    if (happened.length > 0) this.standing = [];
  }

  /** A good part in the place of this one, or a place mended. Whether it was bad. */
  replace(ref: string): boolean {
    const own = this.nameOf(ref);
    this.keepSetting(own);
    // Where it is off already, half of the work is done.
    const minutes = this.iron(this.isOff(own) ? 0.5 : 1);
    this.plug(own);
    const isOwn = (one: string): boolean =>
      own.includes('~') ? sameNets(one, own) : nameKey(one) === nameKey(own);
    const loose = this.loose?.fault;
    const isLoose = loose !== undefined && refsOf([loose]).some(isOwn);
    const wasBad = isLoose || refsOf(this.bench.wrong).some(isOwn);
    if (isLoose) this.loose!.cure();
    if (own.includes('~'))
      for (const fault of this.bench.wrong) {
        if (isOwn(fault.slice(0, fault.lastIndexOf(':')))) this.bench.undo(fault);
      }
    else this.bench.replace(own);
    const at = this.moves.length;
    this.moves.push({ kind: 'replaced', ref: own, wasBad, before: this.standing, minutes });
    this.goesBy(minutes);
    if (!wasBad && this.random() < PAD_RISK)
      this.damage.push({ words: `a pad of ${own} came off with it, and it was good`, move: at });
    // What was read before speaks of another board.
    this.standing = [];
    return wasBad;
  }

  /** Asks a colleague: what he would measure next, whom he suspects, or what holds a net. */
  help(diagnoser: Diagnoser, help: Help, net = ''): string {
    this.moves.push({ kind: 'help', help, minutes: HELP_MINUTES[help] });
    return colleagueSays({ diagnoser, readings: this.standing, help, net });
  }

  private putInto(setup: Setup): void {
    if (setup === this.setup) return;
    const wasOn = powerOf(this.setup) === 'on';
    this.setup = setup;
    this.watched(
      () => {
        this.bench.putInto(setup);
        this.bench.power(powerOf(setup) === 'on');
      },
      (event) =>
        `${event}${wasOn ? '' : ', at the moment of power: ohms from the rails to ground would have told'}`,
    );
  }
}

const sameNets = (one: string, other: string): boolean => {
  const key = (name: string): string => name.split('~').map(nameKey).sort().join('~');
  return key(one) === key(other);
};
