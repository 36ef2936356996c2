export {
  drawExercise,
  isLevel,
  LEVELS,
  measurementWords,
  NoExercise,
  refsOf,
  type Exercise,
  valueWords,
  type Level,
} from './exercise';
export { HELP_MINUTES, Session, type Damage, type Help, type Move } from './session';
export { debrief, type Debrief, type SeenMove } from './debrief';
