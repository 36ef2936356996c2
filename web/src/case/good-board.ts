import type { BoardIndex } from '@hanzai/core/board';
import { Predictor } from '@hanzai/core/diagnosis';

const PREDICTORS = new WeakMap<BoardIndex, Predictor>();

/** What the good board shows, solved once a board and kept as long as the board is. */
export function predictorOf(index: BoardIndex): Predictor {
  let known = PREDICTORS.get(index);
  if (!known) PREDICTORS.set(index, (known = new Predictor(index)));
  return known;
}
