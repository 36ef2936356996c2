export { FirstAid, HazardKind, UnitModel, unitModelIssues, type BlockEvidence } from './unit-model';
export { believeBlocks, type BlockBelief } from './belief';
export { nextTrials, possibleTrials, type ProposedTrial, type Trial } from './next-trial';
export { rankAids, type RankedAid } from './first-aid';
export { expectedAnomalies, explainedBy, type Masked } from './anomalies';
export { decodeTaps, type Rhythm } from './lamp-rhythm';
export { bitsPerTurn, capacityBytes, DiskGeometry, forecast, type MediumForecast, type Mismatch } from './medium';
export { cleanRun, cleanStartsNeeded, exactTest, failureRate, rateLeftOpen, testConditions, type ConditionTest, type Start } from './starts';
export { recognise, type Recognised } from './recognise';
