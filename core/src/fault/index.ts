export {
  changesDc,
  faultRef,
  isOpenFault,
  parseFault,
  parseFaults,
  severityOf,
  singleFaults,
  siteKind,
  type Fault,
  type FaultResult,
  type SiteKind,
} from './fault';
export {
  siteElements,
  faultsKey,
  isAlteredInASetup,
  partsChangedBy,
  partsOf,
  nodeBehind,
  parseFaultState,
  stateElements,
  stateParts,
  withFaults,
  type BoardState,
  type FaultState,
  type PartElements,
} from './apply';
export {
  hypothesisSpace,
  jointHypothesis,
  rateOf,
  rateClass,
  RateTable,
  type Hypothesis,
  type HypothesisSpace,
  type JointHypothesis,
  type SingleHypothesis,
} from './prior';
export { primaryFeed, starvedBy } from './feed';
export { isPlugged } from './plugged';
export { linearChange, sameDcKey, type LinearChange } from './linear-change';
export { trackCuts, type TrackCut } from './track-cuts';
