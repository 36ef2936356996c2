export { agedParts, likeParts } from './alike';
export {
  bitsOpen,
  coursesOf,
  USUAL_JOB,
  type Course,
  type CourseName,
  type JobFigures,
  type Standing,
} from './courses';
export { inTen, ownerMessage, type MessageInput, type ToldCourse } from './message';
export {
  countsOf,
  FAULT_AHEAD,
  quoteOf,
  usualMinutes,
  wasStored,
  type Quote,
  type QuoteInput,
  type StageAhead,
} from './quote';
export { mayDoFor, neededSpec, salvageOf, type Need, type Salvaged } from './salvage';
