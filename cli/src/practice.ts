import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { nameKey, replaceablePart } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import { resolveMeasurement, type ReadingKind } from '@hanzai/core/instrument';
import {
  Action,
  debrief,
  drawExercise,
  HELP_MINUTES,
  isLevel,
  LEVELS,
  NoExercise,
  Session,
  valueWords,
  type Debrief,
} from '@hanzai/core/training';
import { RATES } from '@hanzai/data';
import { InputError, readArguments, UsageError } from './arguments';
import { loadBoard } from './files';

/** How a kind of reading is typed. */
const KINDS: Readonly<Record<string, ReadingKind>> = {
  v: 'voltage',
  r: 'resistance',
  beep: 'continuity',
  d: 'diode',
  esr: 'esr',
  l: 'logic',
  i: 'current',
  see: 'symptom',
};

const HELP = `  v NET [NET]      volts, power on          r A B   ohms, power off
  beep A B         continuity               d A B   diode test
  esr C.1 C.2      ESR                      l NET   logic level, power on
  i REF            current through a part   see NAME   what is seen of the unit
  replace REF      a good part in its place (of a bridge: NETA~NETB)
  ask              what to measure next (${HELP_MINUTES.next} min)   suspects (${HELP_MINUTES.suspects} min)   net NET (${HELP_MINUTES.net} min)   what (${HELP_MINUTES.reading} min): what the last reading says
  off REF          takes a part off        back REF       the same one on again
  zero             leads touched together, what they read taken off
  wait MIN         leaves it on            chill REF      sprays a part cold
  press [REF]      presses on a part, or flexes the board; let go ends it
  swap REF REF     two of a kind change places   mark REF   writes down how a trimmer stands
  done             it is sound, or you give up: what could have been`;

const WHAT_IT_NEEDS = 'wait and 1 to 60 minutes, or the name of a part';

/** A line as an action, not yet checked; undefined where it is none of these. */
function deedOf(verb: string, [first = '', second = '']: readonly string[]): object | undefined {
  switch (verb) {
    case 'off':
    case 'back':
    case 'chill':
    case 'press':
    case 'mark':
      return { do: verb, ref: first };
    case 'swap':
      return { do: verb, ref: first, with: second };
    case 'wait':
      return { do: verb, minutes: Number(first) };
    case 'zero':
      return { do: verb };
    case 'let':
    case 'release':
      return { do: 'release' };
    default:
      return undefined;
  }
}

/** What a line made of the exercise. end: nothing more is taken. */
export interface Answered {
  readonly text: string;
  readonly end: boolean;
}

/** One exercise in a terminal: a line in, an answer out. */
export class PracticeGame {
  private readonly diagnoser: Diagnoser;

  constructor(readonly session: Session) {
    this.diagnoser = new Diagnoser(session.exercise.index, RATES);
  }

  get greeting(): string {
    const { exercise } = this.session;
    const { level, index, complaint } = exercise;
    const { words } = LEVELS.find((one) => one.level === level)!;
    return [
      `Practice, no real unit: ${index.board.title}. Level ${level}: ${words}.`,
      `The owner says: ${complaint}`,
      'Power is off. In a real unit: follow local codes; mains and laser work only if you are qualified.',
      HELP,
    ].join('\n');
  }

  /** Takes a line; nothing of it throws. */
  answer(line: string): Answered {
    const [word = '', ...rest] = line.trim().split(/\s+/);
    const verb = word.toLowerCase();
    const more = (text: string): Answered => ({ text: `${text}   [${this.clock()}]`, end: false });
    if (verb === '') return { text: '', end: false };
    if (verb === 'help' || verb === '?') return { text: HELP, end: false };
    if (verb === 'done' || verb === 'quit') return { text: '', end: true };
    if (verb === 'ask') return more(this.session.help(this.diagnoser, 'next'));
    if (verb === 'suspects') return more(this.session.help(this.diagnoser, 'suspects'));
    if (verb === 'net') return more(this.session.help(this.diagnoser, 'net', rest[0] ?? ''));
    if (verb === 'what') return more(this.session.help(this.diagnoser, 'reading'));
    if (verb === 'replace') return this.replace(rest[0] ?? '');
    const deed = deedOf(verb, rest);
    if (deed) return this.attend(deed);
    if (!Object.hasOwn(KINDS, verb))
      return { text: `"${word}" is nothing that can be done here; help says what is`, end: false };
    const { index } = this.session.exercise;
    const resolved = resolveMeasurement(index, '', KINDS[verb]!, rest[0] ?? '', rest[1] ?? '');
    if (!resolved.ok)
      return { text: `${resolved.what}; expected ${resolved.expected}`, end: false };
    const damage = this.session.damage.length;
    const value = this.session.take(resolved.measurement);
    const shown = this.session.slipped ?? valueWords(resolved.measurement, value);
    const happened = this.session.damage.slice(damage).map(({ words }) => `\n  ${words}`);
    return more([shown, ...happened].join(''));
  }

  /** A small thing at the bench, or a part off or on again, where the line says one that can be. */
  private attend(typed: object): Answered {
    const { success, data } = Action.safeParse(typed);
    if (!success) return { text: `expected ${WHAT_IT_NEEDS}`, end: false };
    const { index } = this.session.exercise;
    const named = 'ref' in data && data.ref !== '' ? data.ref : undefined;
    if (named !== undefined && !replaceablePart(index, named))
      return { text: `no part "${named}" on this board`, end: false };
    const damage = this.session.damage.length;
    const { words = 'done' } = this.session.act(data, () => this.diagnoser);
    const happened = this.session.damage.slice(damage).map((one) => `\n  ${one.words}`);
    return { text: `${words}${happened.join('')}   [${this.clock()}]`, end: false };
  }

  private replace(name: string): Answered {
    const { index } = this.session.exercise;
    const isPlace =
      name.includes('~') && name.split('~').every((net) => index.netByKey.has(nameKey(net)));
    const ref = isPlace ? name : replaceablePart(index, name)?.ref;
    if (ref === undefined) return { text: `no part "${name}" on this board`, end: false };
    this.session.replace(ref);
    // What it was is told afterwards: at a bench nobody says so either.
    return {
      text: `${ref} is new. Read again: what was read before speaks of the board as it was.   [${this.clock()}]`,
      end: false,
    };
  }

  private clock(): string {
    return `${this.session.minutes.toFixed(1)} min`;
  }
}

/** What is said afterwards, in lines. */
export function debriefText(said: Debrief): string {
  const share = (of: number): string => `${Math.round(100 * of)} %`;
  return [
    said.solved ? 'It is sound.' : 'It is not sound.',
    `It was: ${said.truth.join(', ')}.`,
    ...said.moves.map(
      ({ words, minutes, worthBits, better, belief }, i) =>
        `${String(i + 1).padStart(3)}. ${words}, ${minutes.toFixed(1)} min${worthBits === undefined ? '' : `, worth ${worthBits.toFixed(2)} bit`}${better ? ` (${better.words}: ${better.bits.toFixed(2)})` : ''}${belief === undefined ? '' : `; belief in what was bad: ${share(belief)}`}`,
    ),
    said.decidedAt === undefined
      ? 'It was never decided by readings.'
      : `Decided with move ${said.decidedAt + 1}${said.noticedAt === undefined ? ', and not noticed' : `, acted on with move ${said.noticedAt + 1}`}.`,
    ...said.wrong.map((words) => `Wrong: ${words}.`),
    ...said.notes.map((words) => `Mind: ${words}.`),
    ...(said.optimum
      ? [
          `The best order there can be: ${said.optimum.minutes.toFixed(1)} min until it is known (${said.optimum.meanMinutes.toFixed(1)} on average of ${said.optimum.kinds} kinds of fault): ${said.optimum.words.join('; ')}.`,
        ]
      : []),
    said.best
      ? `You took ${said.minutes.toFixed(1)} min, the planner ${said.best.minutes.toFixed(1)}: ${said.best.words.join('; ')}.`
      : `You took ${said.minutes.toFixed(1)} min; the planner did not come through it.`,
    `Cost ${said.score.cost === undefined ? 'not judged' : share(said.score.cost)}, safety ${share(said.score.safety)}, attribution ${share(said.score.attribution)}.`,
  ].join('\n');
}

/**
 * practice BOARD --seed N --level L [--within NET]: an exercise in the terminal, a line for each thing done. With
 * --json what is said afterwards is one JSON object on standard output, all else on standard error.
 */
export async function practice(
  words: readonly string[],
  input: Readable = process.stdin,
  output: Writable = process.stdout,
  aside: Writable = process.stderr,
): Promise<number> {
  const args = readArguments(words, ['seed', 'level', 'within']);
  const [file, surplus] = args.positionals;
  if (file === undefined || surplus !== undefined)
    throw new UsageError('expected practice BOARD --seed N --level L [--within NET]');
  const seed = Number(args.text('seed') ?? '1');
  if (!Number.isInteger(seed) || seed < 1 || seed > 50_000_000)
    throw new UsageError('expected --seed and a whole number from 1 to 50000000');
  const level = Number(args.text('level') ?? '1');
  if (!isLevel(level))
    throw new UsageError(
      `expected --level and one of ${LEVELS.map((one) => `${one.level} (${one.words})`).join(', ')}`,
    );
  const { board } = loadBoard(file);
  let game: PracticeGame;
  try {
    game = new PracticeGame(
      new Session(drawExercise(board, RATES, seed, level, args.text('within') ?? '')),
    );
  } catch (error) {
    if (error instanceof NoExercise) throw new InputError(`${file}: ${error.message}`);
    throw error;
  }
  const told = args.flag('json') ? aside : output;
  told.write(`${game.greeting}\n`);
  for await (const line of createInterface({ input, terminal: false })) {
    const { text, end } = game.answer(line);
    if (end) break;
    if (text !== '') told.write(`${text}\n`);
  }
  const said = debrief(game.session, RATES);
  output.write(`${args.flag('json') ? JSON.stringify(said) : debriefText(said)}\n`);
  return 0;
}
