/**
 * How fast a person is played: E2E_PACE=person plays at a person's own pace, to measure how long
 * something takes; else at a sixth of it, to see that it works.
 */
export const atPace = (milliseconds: number): number =>
  process.env.E2E_PACE === 'person' ? milliseconds : milliseconds / 6;
