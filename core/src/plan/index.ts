export { candidateMeasurements } from './candidates';
export { DEFAULT_COSTS, setupMinutes, type CostTable } from './cost';
export { expectedInformation, type Information, type Outcome, type Outlook } from './information';
export { touchesOf, type Touch } from './touches';
export { LITTLE, nextMeasurements, planNext, planSteps, type Plan, type PlanOptions } from './next';
export { shortedRail, type ShortedRail } from './no-power';
export type { ProposedMeasurement, ProposedTouch, Prospect } from './proposal';
export {
  expectedRepairMinutes,
  planActions,
  repairOrder,
  type Action,
  type ReadingPromise,
  type RepairStep,
} from './actions';
export { shareCredit, type Change, type Credit } from './attribution';
export { judgeConclusive, type Conclusion } from './conclusive';
export { aheadSteps, type AheadNode, type AheadOutcome } from './ahead';
export { schoolsOf, type School, type Schools } from './schools';
export { handMinutes, sidesOf } from './hand-movement';
