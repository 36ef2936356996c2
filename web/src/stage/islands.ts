import { lazy, type ComponentType } from 'react';
import type { Stage } from '../case/stages';
import type { CaseState } from '../case/use-case';

type StageScreen = ComponentType<{ state: CaseState }>;

const screen = (load: () => Promise<StageScreen>): StageScreen =>
  lazy(async () => ({ default: await load() }));

/** The screen of each stage, loaded when it is first looked at. A stage without one does not compile. */
export const SCREENS: Readonly<Record<Stage, StageScreen>> = {
  'take-in': screen(async () => (await import('./take-in/TakeInStage')).TakeInStage),
  swaps: screen(async () => (await import('./swaps/SwapsStage')).SwapsStage),
  'make-safe': screen(async () => (await import('./make-safe/MakeSafeStage')).MakeSafeStage),
  'open-up': screen(async () => (await import('./open-up/OpenUpStage')).OpenUpStage),
  look: screen(async () => (await import('./look/LookStage')).LookStage),
  'first-aid': screen(async () => (await import('./first-aid/FirstAidStage')).FirstAidStage),
  trace: screen(async () => (await import('./trace/TraceStage')).TraceStage),
  decide: screen(async () => (await import('./decide/DecideStage')).DecideStage),
  repair: screen(async () => (await import('./repair/RepairStage')).RepairStage),
  adjust: screen(async () => (await import('./adjust/AdjustStage')).AdjustStage),
  prove: screen(async () => (await import('./prove/ProveStage')).ProveStage),
  'hand-back': screen(async () => (await import('./hand-back/HandBackStage')).HandBackStage),
};
