import { indexBoard, nameKey, type Board } from '../board';
import { Diagnoser } from '../diagnosis';
import { parseFault, type RateTable } from '../fault';
import { measurementKey, type Reading } from '../instrument';
import { NoExercise, type Exercise } from './exercise';
import { refsOf } from './refs';

/** A case that was closed, as far as it makes an exercise. */
export interface ClosedCase {
  readonly board: Board;
  /** What was replaced or mended and cured it. */
  readonly parts: readonly string[];
  /** What was read before that, of the board as it came in. */
  readonly readings: readonly Reading[];
  readonly complaint: string;
  readonly seed: number;
}

/**
 * The exercise that a closed case makes: each of its parts is bad in the way that its readings
 * speak for most.
 * Where something was really read, the meter shows just that; elsewhere what the circuit gives.
 *
 * @throws NoExercise where none of the parts can be bad on this board
 */
export function exerciseOfCase(
  { board, parts, readings, complaint, seed }: ClosedCase,
  rates: RateTable,
): Exercise {
  const index = indexBoard(board);
  const { suspects } = new Diagnoser(index, rates).believe([...readings]);
  const faults = parts.flatMap((ref) => {
    const key = nameKey(ref);
    const [best] = suspects
      .filter(
        ({ hypothesis: { name } }) =>
          parseFault(index, name).ok && refsOf([name]).some((own) => nameKey(own) === key),
      )
      .sort((a, b) => b.probability - a.probability);
    return best ? [best.hypothesis.name] : [];
  });
  if (faults.length === 0)
    throw new NoExercise(
      `${board.title}: none of ${parts.join(', ') || 'the parts of this case'} can be bad on its sheet`,
    );
  return {
    seed,
    level: 2,
    index,
    board,
    faults,
    complaint,
    // What was really read has its leads in it already.
    leadOhm: 0,
    within: '',
    recorded: new Map(
      readings.map(({ measurement, value }) => [measurementKey(measurement), value]),
    ),
  };
}
