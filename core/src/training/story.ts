import { nameKey, replaceableRef, type BoardIndex } from '../board';
import { observableMeasurements } from '../instrument';
import type { Random } from '../practice';
import { BenchBoard } from '../simulated';
import type { Exercise } from './exercise';
import { refsOf } from './refs';

// What is told of an exercise before it begins.

/**
 * Of its usual current: what draws less is dead, what draws more gets hot. From memory of bench
 * practice.
 */
const DEAD_SHARE = 0.15;
const HOT_SHARE = 1.6;
/** Parts that somebody soldered at for nothing. */
const SOLDERED_FOR_NOTHING = 2;

/**
 * Where somebody's solder is fresh: at what he botched (of a bridge: at a part on one of its nets)
 * and at some parts that he suspected for nothing; never at what was bad from the beginning.
 */
export function visitedParts(
  index: BoardIndex,
  asked: readonly string[],
  botched: string,
  random: Random,
): readonly string[] {
  const innocent = (ref: string): boolean =>
    !refsOf(asked).some((own) => nameKey(own) === nameKey(ref));
  const [place] = refsOf([botched]);
  const solderedAt = place!.includes('~')
    ? place!
        .split('~')
        .flatMap((net) => index.pinsOfNet.get(index.netByKey.get(nameKey(net))!) ?? [])
        .map(({ part }) => replaceableRef(part.ref))
        .filter(innocent)
        .slice(0, 1)
    : [place!];
  const others = index.board.parts
    .filter(({ kind }) => kind !== 'voltageSource' && kind !== 'unspecified')
    .map(({ ref }) => replaceableRef(ref))
    .filter((ref) => innocent(ref) && !solderedAt.includes(ref));
  for (let i = 0; i < SOLDERED_FOR_NOTHING && others.length > 0; i += 1)
    solderedAt.push(...others.splice(Math.floor(random() * others.length), 1));
  // In the order of the board: the order of guilt would tell.
  return [...new Set(solderedAt)].sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
}

/** What of an exercise its owner knows. */
type Known = Pick<Exercise, 'index' | 'board' | 'faults' | 'level'> & {
  readonly comesAndGoes: Exercise['comesAndGoes'];
  readonly visited: Exercise['visited'];
};

/** What of it is seen to be wrong, in an owner's words. */
export function complaintOf(known: Known): string {
  const { level, comesAndGoes, visited } = known;
  if (level === 5 || level === 8) return 'It stopped one day. Nobody touched it.';
  const words = seenToBeWrong(known);
  const more = visited
    ? ` Somebody tried to mend it: his solder is at ${visited.join(', ')}.`
    : comesAndGoes
      ? comesAndGoes.by === 'warmth'
        ? ' It works when it is cold; after some minutes it goes.'
        : ' Now and then; a knock helps, or makes it worse.'
      : '';
  return `${words}${more && !words.endsWith('.') ? '.' : ''}${more}`;
}

function seenToBeWrong({ index, board, faults }: Known): string {
  const [sound, bad] = [[], faults].map((with_) => {
    const bench = new BenchBoard(board, with_, 'on');
    bench.power(true);
    return bench;
  });
  const wrong = observableMeasurements(index).flatMap((m) => {
    const name = m.observable!;
    const [was, is] = [sound!, bad!].map((bench) => bench.respond('symptom', name.name, '')?.value);
    if (was === undefined || is === undefined || was >= 0.5 === is >= 0.5) return [];
    return [`${name.title}: ${is >= 0.5 ? 'so, and should not be' : 'not so'}`];
  });
  if (wrong.length > 0) return wrong.join('; ');
  // Without anything to look at on the board an owner still knows whether it draws current.
  const [was, is] = [sound!.drawn(), bad!.drawn()];
  if (was > 0 && is < DEAD_SHARE * was) return 'Dead. Nothing happens when it is switched on.';
  if (was > 0 && is > HOT_SHARE * was) return 'It gets hot and smells.';
  return 'It is not right, and nobody can say how.';
}
