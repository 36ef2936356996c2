export { readQuickList, type QuickList } from './quick-list';
export { CapacitorSurvey, surveyCapacitors, type CapacitorVerdict } from './capacitors';
export { dissipationOfEsr, esrLimit, esrOfDissipation, largestDissipation } from './dissipation';
export { judgeOffBoard, type OffBoardReading, type OffBoardVerdict } from './off-board';
export { failsWithin } from './age';
export { acrossEsr, surveyOrder } from './order';
export { zeroAsked } from './lead-zero';
export {
  extentPlans,
  isWet,
  likeness,
  USUAL_FIGURES,
  worthOf,
  type ExtentFigures,
  type ExtentPlan,
  type PartWorth,
} from './extent';
