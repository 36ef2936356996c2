import type { BoardChoice } from './board-choice';

/**
 * The options of a select that chooses a board sheet. current: the one chosen already, which stays
 * an option while the others are fetched, and where it was set aside.
 */
export function BoardOptions({
  boards,
  current,
}: {
  boards: readonly BoardChoice[];
  current?: { readonly id: string; readonly title: string } | undefined;
}) {
  const others = boards.filter(({ id }) => id !== current?.id);
  const own = boards.find(({ id }) => id === current?.id);
  return (
    <>
      <option value="">none yet</option>
      {current && (
        <option value={current.id}>
          {current.title}
          {own && ` (${own.parts} parts)`}
        </option>
      )}
      {others.map(({ id, title, parts }) => (
        <option key={id} value={id}>
          {title} ({parts} parts)
        </option>
      ))}
    </>
  );
}
