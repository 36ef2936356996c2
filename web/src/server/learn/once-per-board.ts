import type { Database } from '../db/client';

/**
 * Works something out once for each board, since a sheet under an id never changes. most: boards of
 * which it is kept. What failed is forgotten, and tried again by whoever asks next.
 */
export function oncePerBoard<T>(
  most: number,
  make: (db: Database, boardId: string) => Promise<T>,
): (db: Database, boardId: string) => Promise<T> {
  const kept = new Map<string, Promise<T>>();
  return (db, boardId) => {
    const known = kept.get(boardId);
    if (known) return known;
    const made = make(db, boardId);
    if (kept.size >= most) kept.delete(kept.keys().next().value!);
    kept.set(boardId, made);
    made.catch(() => kept.delete(boardId));
    return made;
  };
}
