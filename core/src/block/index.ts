export { UnitModel, unitModelIssues, type BlockEvidence } from './unit-model';
export { believeBlocks, type BlockBelief } from './belief';
export { nextTrials, possibleTrials, type ProposedTrial, type Trial } from './next-trial';
