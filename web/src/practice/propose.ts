import {
  dueRepeats,
  SKILLS,
  skillStates,
  skillToTeach,
  type Skill,
  type SkillState,
} from '@hanzai/core/training';
import { exerciseKey, type PracticeRun } from './run';

/** An exercise goes well from these on; else it comes back. */
const WELL = { cost: 0.5, safety: 1, attribution: 1 } as const;

export function wentWell({ result }: PracticeRun): boolean {
  if (!result?.solved) return false;
  const { cost, safety, attribution } = result.score;
  return (cost ?? 1) >= WELL.cost && safety >= WELL.safety && attribution >= WELL.attribution;
}

/** What is known of each skill, from every exercise that was finished. */
export const statesOf = (runs: readonly PracticeRun[]): readonly SkillState[] =>
  skillStates(runs.flatMap(({ result, tour }) => (tour ? [] : (result?.tried ?? []))));

/** What to practise now, and why. */
export type Proposed =
  | { readonly what: 'repeat'; readonly run: PracticeRun; readonly words: string }
  | { readonly what: 'skill'; readonly skill: Skill; readonly words: string };

export function propose(runs: readonly PracticeRun[], now: number): Proposed {
  const finished = runs.flatMap((run) =>
    run.result && !run.tour
      ? [{ key: exerciseKey(run), at: Date.parse(run.result.finishedAt), wentWell: wentWell(run) }]
      : [],
  );
  const [due] = dueRepeats(finished, now);
  const again = due === undefined ? undefined : runs.find((run) => exerciseKey(run) === due);
  if (again)
    return {
      what: 'repeat',
      run: again,
      words: `Once more: ${again.board.title}, level ${again.level}. It did not go well, and it is time.`,
    };
  const states = statesOf(runs);
  const skill = skillToTeach(states);
  const { tried, done } = states.find((one) => one.skill === skill)!;
  const name = SKILLS[skill].toLowerCase();
  return {
    what: 'skill',
    skill,
    words:
      tried === 0
        ? `Nothing of ${name} was practised yet.`
        : `Least sure so far: ${name}, ${done} of ${tried}.`,
  };
}
