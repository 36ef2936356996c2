import { indexBoard, type Board } from '../board';
import { hypothesisSpace, rateOf, type RateTable } from '../fault';
import { seeded } from '../practice';

/**
 * One fault to be hidden on a board, as often as its rate has it; none where nothing of it can fail.
 * seed: a whole number above zero; the same seed gives the same fault.
 */
export function hiddenFault(board: Board, seed: number, rates: RateTable): readonly string[] {
  const index = indexBoard(board);
  const faults = hypothesisSpace(index, rates).hypotheses.map(({ fault }) => fault);
  const weights = faults.map((fault) => rateOf(index, rates, fault));
  // The first numbers of small seeds lie near together.
  const random = seeded(seed);
  for (let i = 0; i < 8; i += 1) random();
  let left = random() * weights.reduce((sum, weight) => sum + weight, 0);
  const chosen = faults.find((_, i) => (left -= weights[i]!) <= 0);
  return chosen ? [chosen.name] : [];
}
