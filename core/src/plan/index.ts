export { candidateMeasurements } from './candidates';
export { DEFAULT_COSTS, setupMinutes, type CostTable } from './cost';
export { expectedInformation, type Information, type Outcome, type Outlook } from './information';
export { nextMeasurements, planNext, planSteps, type Plan, type PlanOptions, type ProposedMeasurement, type Prospect } from './next';
