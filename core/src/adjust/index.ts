export {
  gotWorse,
  isSettable,
  neverMoved,
  scoreOf,
  settingsOf,
  STEP_DEGREES,
  touchObjections,
  wayBack,
  type AsFound,
  type BeforeTouch,
  type Outcome,
  type Setting,
  type Touch,
} from './settings';
export { bestOf, movesTo, nextSetting, type Axis, type Proposal, type Tried } from './search';
export { drivenTurns, laserAmpere, LASER_WORN_SHARE, turnsByTone } from './speed';
