import { namedSetup, nameKey, replaceableRef, type Board, type Part, type Setup } from '../board';
import { isSource } from '../device';

/** True where the part takes part in the circuit in this setup. */
export function isPlugged(board: Board, part: Part, setup: Setup): boolean {
  if (setup === 'off') return !isSource(part);
  if (setup === 'unloaded') return !part.role?.toLowerCase().startsWith('load');
  const named = namedSetup(board, setup);
  return !named?.unplugged?.some(
    (ref) =>
      nameKey(ref) === nameKey(replaceableRef(part.ref)) || nameKey(ref) === nameKey(part.ref),
  );
}
