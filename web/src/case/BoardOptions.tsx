import type { BoardChoice } from './board-choice';

/** The options of a select that chooses a board sheet. */
export function BoardOptions({ boards }: { boards: readonly BoardChoice[] }) {
  return (
    <>
      <option value="">none yet</option>
      {boards.map(({ id, title, parts }) => (
        <option key={id} value={id}>
          {title} ({parts} parts)
        </option>
      ))}
    </>
  );
}
