import { nameKey } from '../board';
import { Diagnoser } from '../diagnosis';
import type { RateTable } from '../fault';
import { measurementKey, type Reading } from '../instrument';
import { DEFAULT_COSTS, planNext } from '../plan';
import { WHOLE_BOARD } from './come-and-go';
import { faultAfter } from './like-parts';
import { measurementWords, valueWords, type Exercise } from './exercise';
import { refsOf } from './refs';
import { optimumOf, type Optimum } from './optimum';
import type { Move } from './move';
import { Session } from './session';

/** From so much belief on a part is decided. */
const DECIDED = 0.9;
/** What warms a cold board up until a fault of warmth is there, minutes. */
const BRINGS_MINUTES = 5;
/** Readings after which the planner's own way is given up. */
const MOST_READINGS = 90;

/** One move as it looks afterwards. */
export interface SeenMove {
  readonly words: string;
  readonly minutes: number;
  /** What it was expected to tell when it was made, bits; undefined for what is no reading. */
  readonly worthBits: number | undefined;
  /** What would have told most for a minute then, and how much it would have told. */
  readonly better:
    { readonly words: string; readonly bits: number; readonly minutes: number } | undefined;
  /** Belief that one could have had after it in what is truly bad. */
  readonly belief: number | undefined;
}

export interface Debrief {
  readonly truth: readonly string[];
  readonly moves: readonly SeenMove[];
  readonly minutes: number;
  /** The planner's way on the same bench; undefined where it does not come through. */
  readonly best: { readonly minutes: number; readonly words: readonly string[] } | undefined;
  /** The best order of readings that there can be; undefined where it is not worked out. */
  readonly optimum: Optimum | undefined;
  /** Move after which it was decided, and the one at which it was noticed; undefined: never. */
  readonly decidedAt: number | undefined;
  readonly noticedAt: number | undefined;
  readonly wrong: readonly string[];
  /** What else there is to learn from it: of what comes and goes, of a place that was botched. */
  readonly notes: readonly string[];
  /** Each 0 to 1. */
  readonly score: {
    /** Undefined where the planner's minutes are not known. */
    readonly cost: number | undefined;
    readonly safety: number;
    readonly attribution: number;
  };
  readonly solved: boolean;
}

/**
 * What was done, beside what could have been: each reading by what it was worth when it was taken,
 * the belief that followed from it, where it was decided and where that was noticed.
 */
export function debrief(session: Session, rates: RateTable): Debrief {
  const steps = debriefSteps(session, rates);
  for (;;) {
    const step = steps.next(true);
    if (step.done) return step.value;
  }
}

/**
 * `debrief` in steps, for whoever shows how far it is: on a board of hundreds of parts each takes
 * seconds.
 * Yields words; is told whether the planner's own way is still wanted.
 */
export function* debriefSteps(
  session: Session,
  rates: RateTable,
): Generator<string, Debrief, boolean> {
  const { exercise, moves, damage } = session;
  const diagnoser = new Diagnoser(exercise.index, rates);
  let left = exercise.faults;
  const seen: SeenMove[] = [];
  for (const [i, move] of moves.entries()) {
    yield `move ${i + 1} of ${moves.length}`;
    const isAt = (fault: string): ReadonlySet<string> =>
      new Set(refsOf([faultAfter(fault, moves.slice(0, i))]).map(nameKey));
    seen.push(seenMove(move, diagnoser, new Set(left.flatMap((fault) => [...isAt(fault)]))));
    if (move.kind === 'replaced')
      left = left.filter((fault) => !isAt(fault).has(nameKey(move.ref)));
  }
  const decided = seen.findIndex(
    ({ belief = 0 }, i) => moves[i]!.kind === 'reading' && belief >= DECIDED,
  );
  const noticed = moves.findIndex((move) => move.kind === 'replaced' && move.wasBad);
  const replaced = moves.flatMap((move) => (move.kind === 'replaced' ? [move] : []));
  const guilty = replaced.filter(({ wasBad }) => wasBad).length;
  yield 'the best order that there can be';
  const optimum = optimumOf(exercise, rates);
  const best = yield* bestWay(exercise, diagnoser);
  return {
    truth: exercise.faults,
    moves: seen,
    minutes: session.minutes,
    best,
    optimum,
    decidedAt: decided < 0 ? undefined : decided,
    noticedAt: noticed < 0 ? undefined : noticed,
    wrong: [
      ...replaced
        .filter(({ wasBad }) => !wasBad)
        .map(
          ({ ref, before }) =>
            `${ref} was good: ${shareWords(beliefIn(diagnoser, before, ref))} when it went`,
        ),
      ...damage.map(({ words }) => words),
    ],
    notes: notesOn(session),
    score: {
      cost: costScore(session, best),
      safety: Math.max(0, 1 - 0.5 * damage.length),
      attribution: replaced.length === 0 ? 0 : guilty / replaced.length,
    },
    solved: session.isSound,
  };
}

/** A fault's name as one reads it: `S2.2 dry`. */
const readable = (fault: string): string => fault.replace(/:(?=[^:]*$)/, ' ').replace('~', ' to ');

function notesOn({ exercise, moves }: Session): readonly string[] {
  const { comesAndGoes, visited, faults } = exercise;
  const readings = moves.filter(({ kind }) => kind === 'reading');
  const away = readings.filter((move) => move.kind === 'reading' && move.away).length;
  return [
    ...(comesAndGoes
      ? [
          `${readable(comesAndGoes.fault)} came with ${comesAndGoes.by}: ${away} of ${readings.length} readings were taken while it was away, and what they show is a board that works`,
        ]
      : []),
    ...(visited
      ? [
          `somebody had soldered at ${visited.join(', ')}: what he left was ${faults.slice(1).map(readable).join(', ')}, the rest of his places was sound`,
        ]
      : []),
  ];
}

/** Minutes beside the planner's; undefined where there are none to stand beside. */
function costScore(session: Session, best: Debrief['best']): number | undefined {
  if (!session.isSound) return 0;
  return best && Math.min(1, best.minutes / Math.max(session.minutes, 1e-9));
}

const shareWords = (share: number): string =>
  share < 0.01 ? 'next to nothing spoke against it' : `${Math.round(100 * share)} % of the belief`;

function beliefIn(diagnoser: Diagnoser, readings: readonly Reading[], ref: string): number {
  const found = diagnoser
    .believe([...readings])
    .byPart.find((one) => nameKey(one.ref) === nameKey(ref));
  return found?.probability ?? 0;
}

/** The most believed of what is still bad: one fault at a time is looked for. */
function beliefInTruth(
  diagnoser: Diagnoser,
  readings: readonly Reading[],
  left: ReadonlySet<string>,
): number {
  return diagnoser
    .believe([...readings])
    .byPart.filter(({ ref }) => left.has(nameKey(ref)))
    .reduce((most, { probability }) => Math.max(most, probability), 0);
}

/** A move as it looks afterwards. left: the parts that were still bad when it was made. */
function seenMove(move: Move, diagnoser: Diagnoser, left: ReadonlySet<string>): SeenMove {
  const { minutes } = move;
  const plain = (words: string): SeenMove => ({
    words,
    minutes,
    worthBits: undefined,
    better: undefined,
    belief: undefined,
  });
  if (move.kind === 'help') return plain(`help: ${move.help}`);
  if (move.kind === 'off') return plain(`${move.ref} taken off`);
  if (move.kind === 'back') return plain(`${move.ref} put back`);
  if (move.kind === 'swap') return plain(`${move.refs.join(' and ')} changed places`);
  if (move.kind === 'done') return plain(move.words);
  if (move.kind === 'replaced')
    return {
      ...plain(`${move.ref} replaced: ${move.wasBad ? 'it was bad' : 'it was good'}`),
      belief: beliefInTruth(diagnoser, move.before, left),
    };
  const { measurement, reading, before, away } = move;
  const plan = planNext(diagnoser, before, diagnoser.believe([...before]), {
    most: Number.POSITIVE_INFINITY,
    ...(reading?.absent ? { absent: reading.absent } : {}),
  }).measurements;
  const own = plan.find((one) => measurementKey(one.measurement) === measurementKey(measurement));
  const [first] = plan;
  const better =
    first && first !== own
      ? { words: measurementWords(first.measurement), bits: first.gainBits, minutes: first.minutes }
      : undefined;
  return {
    words: `${measurementWords(measurement)}: ${valueWords(measurement, reading?.value)}${away ? ' (the fault was away)' : ''}`,
    minutes,
    // What is not among them tells less than is worth proposing.
    worthBits: own?.gainBits ?? 0,
    better,
    belief: beliefInTruth(diagnoser, reading ? [...before, reading] : before, left),
  };
}

/**
 * The planner's own way through the same exercise: what it measures and replaces until all is
 * sound.
 */
function* bestWay(
  exercise: Exercise,
  diagnoser: Diagnoser,
): Generator<string, Debrief['best'], boolean> {
  const session = new Session(exercise, DEFAULT_COSTS, true);
  if (session.isSound) return { minutes: 0, words: [] };
  const words: string[] = [];
  // What comes and goes is brought first, and kept there: without it nothing is to be read.
  const keepThere = (): void => {
    if (!session.isWarm) words.push(session.attend({ do: 'wait', minutes: BRINGS_MINUTES }));
  };
  if (exercise.comesAndGoes?.by === 'touch')
    words.push(session.attend({ do: 'press', ref: WHOLE_BOARD }));
  const unreadable = new Set<string>();
  const tried = new Set<string>();
  for (let taken = 0; taken < MOST_READINGS; taken += 1) {
    if (!(yield `the planner's way, step ${words.length + 1}`)) return undefined;
    keepThere();
    const belief = diagnoser.believe([...session.readings]);
    const plan = planNext(diagnoser, session.readings, belief);
    const next = plan.measurements.find(
      ({ kind, measurement }) => kind !== 'symptom' && !unreadable.has(measurementKey(measurement)),
    );
    const [top] = belief.byPart.filter(({ ref }) => !tried.has(nameKey(ref)));
    if (top && (top.probability >= DECIDED || plan.state === 'replace' || !next)) {
      tried.add(nameKey(top.ref));
      const wasBad = session.replace(top.ref);
      words.push(`${top.ref} replaced: ${wasBad ? 'it was bad' : 'it was good'}`);
      if (session.isSound) return { minutes: session.minutes, words };
      // What was good may be suspected again with other readings; what was bad is new now.
      if (wasBad) tried.clear();
      continue;
    }
    if (!next) return undefined;
    const value = session.take(next.measurement);
    words.push(`${measurementWords(next.measurement)}: ${valueWords(next.measurement, value)}`);
    if (value === undefined) unreadable.add(measurementKey(next.measurement));
  }
  return undefined;
}
