export { changesDc, faultRef, parseFault, severityOf, singleFaults, type Fault, type FaultResult } from './fault';
export { innerNode, isPlugged, stateElements, type BoardState, type FaultState } from './apply';
export { hypothesisSpace, RateTable, type Hypothesis, type HypothesisSpace } from './prior';
export { linearChange, type LinearChange } from './linear-change';
