import { findPoint, GROUND, nameKey, replaceableRef, type BoardIndex } from '@hanzai/core/board';
import type { Journal } from '../../case/journal';
import type { LineUp, Proposal } from '../../workers/engine-messages';
import { drawnRef } from '../../drawing/drawn';

/** Parts above this belief are what the question is about. */
const IN_QUESTION = 0.04;
const MOST_FOCUSED = 9;
/** More elements than this are too many to read at arm's length. */
const MOST_DRAWN = 26;

/** The nets that the probes of a proposal go to, ground left out. */
export function probedNets(
  proposal: Pick<Proposal, 'at' | 'to'> | undefined,
  index: BoardIndex,
): ReadonlySet<string> {
  const points = proposal ? [findPoint(index, proposal.at), findPoint(index, proposal.to)] : [];
  return new Set(points.flatMap((point) => (point && point.net !== GROUND ? [point.net] : [])));
}

/**
 * The leading suspects, what shares a net with the next points, and the way from the supply to
 * them.
 */
export function partsInQuestion(
  index: BoardIndex,
  lineUp: LineUp | undefined,
  proposal: Pick<Proposal, 'at' | 'to'> | undefined,
  journal: Journal,
): ReadonlySet<string> | undefined {
  if (!lineUp) return undefined;
  const leading = lineUp.entries
    .filter(({ probability }) => probability >= IN_QUESTION)
    .slice(0, MOST_FOCUSED)
    .map(({ ref }) => ref);
  const wanted = new Set(
    [...leading, ...journal.absent, ...journal.condemned.map(({ body }) => body.ref)].map(nameKey),
  );
  // Of an array or a connector, only the elements that the suspicion is about.
  const named = new Set(
    lineUp.entries
      .filter(({ ref }) => wanted.has(nameKey(ref)))
      .flatMap(({ modes }) => modes.map((mode) => nameKey(mode.split(':')[0]!))),
  );
  const inQuestion = (ref: string): boolean =>
    wanted.has(nameKey(replaceableRef(ref))) &&
    (!/\.\d+$/.test(ref) ||
      [...named].some((name) => name === nameKey(ref) || name.startsWith(`${nameKey(ref)}.`)));
  const nets = new Set(probedNets(proposal, index));
  const chosen = index.board.parts.filter((part) => inQuestion(part.ref));
  chosen.forEach((part) => part.pins.forEach((net) => nets.add(index.netByKey.get(nameKey(net))!)));
  nets.delete('0');
  const around = index.board.parts.filter((part) =>
    part.pins.some((net) => nets.has(index.netByKey.get(nameKey(net))!)),
  );
  const fitting =
    around.length <= MOST_DRAWN ? around : chosen.length > 0 ? chosen : around.slice(0, MOST_DRAWN);
  return fitting.length === 0 ? undefined : new Set(fitting.map(({ ref }) => drawnRef(ref)));
}
