export {
  drawExercise,
  isLevel,
  LEVELS,
  NoExercise,
  refsOf,
  type Exercise,
  type Level,
} from './exercise';
export { HELP_MINUTES, Session, type Damage, type Help, type Move } from './session';
export { debrief, measurementWords, type Debrief, type SeenMove } from './debrief';
