import { isOnMains, mainsNets, type CautionedStep } from '@hanzai/core/bench';
import { findPoint, nameKey, type BoardIndex } from '@hanzai/core/board';
import type { Proposal } from '../../workers/engine-messages';

/**
 * Which caution belongs to a proposed measurement: the worst that its place and its instrument ask
 * for.
 */
export function cautionFor(
  index: BoardIndex,
  { setup, kind, at, to }: Pick<Proposal, 'setup' | 'kind' | 'at' | 'to'>,
): CautionedStep {
  const places = [findPoint(index, at), findPoint(index, to)];
  const part = index.partByKey.get(nameKey(at));
  const onMains =
    places.some((place) => place && mainsNets(index).has(nameKey(place.net))) ||
    (part !== undefined && isOnMains(index, part));
  if (setup !== 'off')
    return onMains ? 'primary' : kind === 'current' ? 'current' : 'probe-powered';
  const onHead = places.some(
    (place) => place && (index.pinsOfNet.get(place.net) ?? []).some(({ part: one }) => isHead(one)),
  );
  return onHead && kind !== 'voltage' ? 'head-ohms' : 'before-ohms';
}

/** A magnetic head's winding, by its role. */
export function isHead(part: {
  readonly kind: string;
  readonly role?: string | undefined;
}): boolean {
  return part.kind === 'winding' && /\bhead\b/i.test(part.role ?? '');
}
