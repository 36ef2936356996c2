import { PRACTISED, type Stage } from '../case/stages';

export interface PracticePlaceOf {
  readonly id: string;
  readonly stage: Stage | 'debrief';
}

/** Which exercise and stage an address names; undefined where it names none. */
export function practicePlaceOf(path: string): PracticePlaceOf | undefined {
  const [, id, stage] = /^\/practice\/([0-9a-f-]{36})\/([a-z-]+)\/?$/.exec(path) ?? [];
  if (id === undefined || stage === undefined) return undefined;
  if (stage === 'debrief') return { id, stage };
  const own = PRACTISED.find((one) => one === stage);
  return own && { id, stage: own };
}

export const isPracticePlace = (path: string): boolean => practicePlaceOf(path) !== undefined;
