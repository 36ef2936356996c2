import { nameKey, replaceableRef } from '../board';
import type { Diagnoser } from '../diagnosis';
import type { Reading } from '../instrument';
import { planNext } from '../plan';
import type { Help } from './action';
import { measurementWords } from './exercise';

/** What help costs, minutes: a colleague is asked. From memory of shop practice. */
export const HELP_MINUTES = {
  next: 3,
  suspects: 4,
  net: 1,
  reading: 2,
} as const satisfies Readonly<Record<Help, number>>;
/** A share that moved by less is not worth a word. */
const LEAST_MOVE = 0.01;

/** What a colleague says to a question. readings: of the board as it is now. net: the one asked about. */
export function colleagueSays({
  diagnoser,
  readings,
  help,
  net,
}: {
  readonly diagnoser: Diagnoser;
  readonly readings: readonly Reading[];
  readonly help: Help;
  readonly net: string;
}): string {
  const { index } = diagnoser;
  if (help === 'net') {
    const found = index.netByKey.get(nameKey(net));
    const refs = found && [
      ...new Set((index.pinsOfNet.get(found) ?? []).map(({ part }) => replaceableRef(part.ref))),
    ];
    return refs
      ? `On ${found}: ${refs.join(', ')}. Any of them can hold it.`
      : `There is no net ${net}.`;
  }
  if (help === 'reading') return lastReadingWords(diagnoser, readings);
  const belief = diagnoser.believe([...readings]);
  if (help === 'suspects')
    return belief.byPart
      .slice(0, 3)
      .map(({ ref, probability }) => `${ref} ${Math.round(100 * probability)} %`)
      .join(', ');
  const [first] = planNext(diagnoser, readings, belief).measurements;
  return first
    ? `I would measure ${measurementWords(first.measurement)}: it ${first.reason}`
    : 'No reading tells more: replace the likeliest.';
}

/** What the newest reading did to the belief: whom it speaks for and against, in shares. */
function lastReadingWords(diagnoser: Diagnoser, readings: readonly Reading[]): string {
  const last = readings.at(-1);
  if (!last) return 'Nothing is read yet of the board as it is now.';
  const share = (list: readonly Reading[]): ReadonlyMap<string, number> =>
    new Map(diagnoser.believe([...list]).byPart.map(({ ref, probability }) => [ref, probability]));
  const [before, after] = [share(readings.slice(0, -1)), share(readings)];
  const moved = [...after]
    .map(([ref, now]) => ({ ref, was: before.get(ref) ?? 0, now }))
    .sort((a, b) => Math.abs(b.now - b.was) - Math.abs(a.now - a.was))
    .slice(0, 3)
    .filter(({ was, now }) => Math.abs(now - was) >= LEAST_MOVE);
  const percent = (of: number): string => `${Math.round(100 * of)} %`;
  const of = measurementWords(last.measurement);
  return moved.length === 0
    ? `${of}: it moved nobody by more than ${percent(LEAST_MOVE)}.`
    : `${of}: ${moved.map(({ ref, was, now }) => `${ref} from ${percent(was)} to ${percent(now)}`).join(', ')}.`;
}
