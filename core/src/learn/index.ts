export { Lesson, LESSON_GRADES, type Exposure, type Exposures, type LessonGrade } from './lesson';
export { exposureOf, kindOfPart } from './exposure';
export {
  ageFactor,
  BEFORE_WORTH,
  learnedFactor,
  learnRates,
  rateKey,
  rateNames,
  shareOut,
  TABLE_HOURS,
  TABLE_YEARS,
  teaches,
  type LearnedRate,
  type LearnedRates,
  type Shares,
} from './rates';
export {
  learnModes,
  learnPatterns,
  learnShares,
  usualEnds,
  usualParts,
  type LearnedModes,
  type LearnedPattern,
  type LearnedShare,
  type UsualEnd,
  type UsualPart,
} from './patterns';
export {
  besideOthers,
  makePack,
  packHash,
  PatternPack,
  pooledFactor,
  readPack,
  similarity,
  standingPacks,
  type OthersRate,
} from './pack';
