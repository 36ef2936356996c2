export {
  COPPER_OHM_MM2,
  gaugeMm,
  jumperAmpere,
  trackAmpere,
  trackOhm,
  trackWidthMm,
  wireHenry,
  wireOhm,
} from './copper';
export {
  besidePart,
  isOnPlane,
  jumperOf,
  JUMPER_GAUGE,
  keepOut,
  landings,
  type Jumper,
  type Landing,
} from './jumper';
export {
  HEAT_CELSIUS,
  reworkPlan,
  TORN_CONNECTOR,
  type LiftSchool,
  type ReworkPlan,
  type ReworkStep,
  type StepCheck,
} from './steps';
