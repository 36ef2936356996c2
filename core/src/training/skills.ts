import { z } from 'zod';
import { nameKey, replaceablePart, type BoardIndex } from '../board';
import { supplyRails } from '../device';
import { shareInterval, type Interval } from '../statistics';
import type { Debrief } from './debrief';
import { faultAfter } from './like-parts';
import { refsOf } from './refs';
import type { Session } from './session';

/** What is practised. */
export const SKILLS = {
  supply: 'Supply path',
  logic: 'Logic',
  esr: 'Capacitors and ESR',
  coils: 'Coils',
  order: 'Order of readings',
  safety: 'Safety',
  bookkeeping: 'Bookkeeping',
} as const;
export const Skill = z.enum(Object.keys(SKILLS) as [keyof typeof SKILLS]);
export type Skill = z.infer<typeof Skill>;
/** Those that a hidden fault calls for. */
export const FAULT_SKILLS: readonly Skill[] = ['supply', 'logic', 'esr', 'coils'];

/** A skill that was called for, and how often it was there. */
export const Tried = z.object({
  skill: Skill,
  tried: z.number().int().min(0).max(100_000),
  done: z.number().int().min(0).max(100_000),
});
export type Tried = z.infer<typeof Tried>;

/**
 * A reading was well chosen where it told at least this share, for its minutes, of what the best
 * would have.
 */
const WELL_CHOSEN = 0.5;

/** What a fault calls for; undefined where it is none of the skills. */
export function skillOf(index: BoardIndex, fault: string): Skill | undefined {
  const [ref = ''] = refsOf([fault]);
  const part = ref.includes('~') ? undefined : replaceablePart(index, ref)?.parts[0];
  if (!part) return undefined;
  if (part.kind === 'chip') return 'logic';
  if (part.kind === 'capacitor') return 'esr';
  if (part.kind === 'winding' || part.kind === 'inductor') return 'coils';
  const rails = new Set(supplyRails(index).map(nameKey));
  const nets = part.pins.map(nameKey);
  const feeds = ['fuse', 'switch', 'regulator', 'diode'].includes(part.kind);
  return feeds || nets.every((net) => rails.has(net) || net === nameKey('0'))
    ? 'supply'
    : undefined;
}

/**
 * What a finished session says of each skill. tidy: the ledger has every part that came off and
 * went on.
 */
export function triedIn(session: Session, said: Debrief, tidy: boolean): readonly Tried[] {
  const { exercise, moves, damage } = session;
  const byFault = exercise.faults.flatMap((fault): Tried[] => {
    const skill = skillOf(exercise.index, fault);
    const found = moves.some(
      (move, i) =>
        move.kind === 'replaced' &&
        move.wasBad &&
        refsOf([faultAfter(fault, moves.slice(0, i))]).some(
          (ref) => nameKey(ref) === nameKey(move.ref),
        ),
    );
    return skill ? [{ skill, tried: 1, done: found ? 1 : 0 }] : [];
  });
  const readings = said.moves.filter(({ worthBits }) => worthBits !== undefined);
  const well = readings.filter(
    ({ worthBits, minutes, better }) =>
      !better || worthBits! / minutes >= (WELL_CHOSEN * better.bits) / better.minutes,
  );
  const worked = moves.some(({ kind }) => kind !== 'help');
  return [
    ...byFault,
    { skill: 'order', tried: readings.length, done: well.length },
    ...(worked
      ? [
          { skill: 'safety' as const, tried: 1, done: damage.length === 0 ? 1 : 0 },
          { skill: 'bookkeeping' as const, tried: 1, done: tidy ? 1 : 0 },
        ]
      : []),
  ];
}

/** A skill as far as it is known: how often of how often, and where its share lies (95 %). */
export interface SkillState extends Tried {
  readonly interval: Interval;
}

export function skillStates(tried: readonly Tried[]): readonly SkillState[] {
  return Skill.options.map((skill) => {
    const own = tried.filter((one) => one.skill === skill);
    const sum = (key: 'tried' | 'done'): number => own.reduce((n, one) => n + one[key], 0);
    const [n, done] = [sum('tried'), sum('done')];
    return { skill, tried: n, done, interval: shareInterval(done, n) };
  });
}

/**
 * The skill of a hidden fault in which an exercise teaches most: where it is least sure that one
 * has it.
 * That is the lowest lower end of its interval; of several alike, the one tried least.
 */
export function skillToTeach(states: readonly SkillState[], of = FAULT_SKILLS): Skill {
  const open = states.filter(({ skill }) => of.includes(skill));
  const [first] = [...open].sort(
    (a, b) =>
      a.interval.low - b.interval.low ||
      a.tried - b.tried ||
      of.indexOf(a.skill) - of.indexOf(b.skill),
  );
  return first?.skill ?? of[0]!;
}

/**
 * Days after which an exercise comes back, by how often in a row it went well. From memory of how
 * teachers do it.
 */
export const REPEAT_DAYS = [1, 3, 7, 16, 35] as const;

/** An exercise that was finished, as far as repeats go by it. */
export interface Finished {
  /** What tells one exercise from another: its board, seed and level. */
  readonly key: string;
  /** When, milliseconds. */
  readonly at: number;
  readonly wentWell: boolean;
}

/**
 * Exercises whose repeat is due, the longest overdue first. Only what once went wrong is repeated:
 * it comes back until it went well as often in a row as there are intervals.
 */
export function dueRepeats(finished: readonly Finished[], now: number): readonly string[] {
  const byKey = new Map<string, Finished[]>();
  for (const one of [...finished].sort((a, b) => a.at - b.at))
    byKey.set(one.key, [...(byKey.get(one.key) ?? []), one]);
  return [...byKey.entries()]
    .flatMap(([key, times]) => {
      const lastBad = times.findLastIndex(({ wentWell }) => !wentWell);
      const inRow = times.length - 1 - lastBad;
      const days = REPEAT_DAYS[inRow];
      if (lastBad < 0 || days === undefined) return [];
      const overdue = now - times.at(-1)!.at - days * 86_400_000;
      return overdue >= 0 ? [{ key, overdue }] : [];
    })
    .sort((a, b) => b.overdue - a.overdue)
    .map(({ key }) => key);
}
