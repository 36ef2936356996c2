export {
  drawExercise,
  isLevel,
  LEVELS,
  measurementWords,
  NoExercise,
  type Exercise,
  valueWords,
  Level,
  isWithoutSheet,
} from './exercise';
export { refsOf } from './refs';
export type { ComeAndGo } from './come-and-go';
export { optimumOf, type Optimum } from './optimum';
export { HELP_MINUTES } from './help';
export { isAlike, isTrimmer } from './like-parts';
export type { Answer, Damage, Move } from './move';
export { Session } from './session';
export { Action, Help, type Attention } from './action';
export { readPoints } from './points';
export { exerciseOfCase, type ClosedCase } from './closed-case';
export { Course, CourseResults, ExerciseResult, HelpGiven } from './course';
export {
  dueRepeats,
  FAULT_SKILLS,
  REPEAT_DAYS,
  Skill,
  skillOf,
  SKILLS,
  skillStates,
  skillToTeach,
  Tried,
  triedIn,
  type Finished,
  type SkillState,
} from './skills';
export { debrief, debriefSteps, type Debrief, type SeenMove } from './debrief';
