import { isStage, type Stage } from '../case/stages';

export interface Place {
  readonly number: number;
  readonly stage: Stage;
}

/** Which case and stage an address names; undefined where it names none. */
export function placeOf(path: string): Place | undefined {
  const [, number, stage] = /^\/case\/(\d{1,9})\/([a-z-]+)\/?$/.exec(path) ?? [];
  return number && stage && isStage(stage) ? { number: Number(number), stage } : undefined;
}
