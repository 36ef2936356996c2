import type { BoardIndex } from '@hanzai/core/board';
import { Predictor } from '@hanzai/core/diagnosis';
import { oncePer } from '@hanzai/core/once-per';

/** What the good board shows, solved once a board and kept as long as the board is. */
export const predictorOf = oncePer((index: BoardIndex) => new Predictor(index));
