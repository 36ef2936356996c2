import type { NextStep, Proposal } from '../../workers/engine-messages';

/** Proposals that leave a group nearly as it was are not worth naming for it. */
const LEAST_PARTED = 0.1;

/** What would tell parts apart that nothing read so far does. */
export interface Parting {
  readonly proposal: Proposal;
  /** What to do before it, where it is not a reading alone. */
  readonly title: string | undefined;
}

/**
 * The cheapest of what is proposed that parts a group: after it one of the group stands out more
 * than before. undefined where nothing does.
 */
export function partingOf(
  group: readonly string[],
  next: NextStep | undefined,
): Parting | undefined {
  if (!next) return undefined;
  const all: Parting[] = [
    ...next.proposals.map((proposal) => ({ proposal, title: undefined })),
    ...next.touches.map((touch) => ({ proposal: touch, title: touch.title })),
  ];
  const parting = all
    .map((one) => ({ ...one, parted: partedBy(group, one.proposal) }))
    .filter(({ parted }) => parted >= LEAST_PARTED)
    .sort((a, b) => a.proposal.minutes / a.parted - b.proposal.minutes / b.parted)[0];
  return parting && { proposal: parting.proposal, title: parting.title };
}

/**
 * How much more one of a group stands out after a reading than it does in the likeliest outcomes
 * taken together: 0 where every outcome leaves the group as it is, 1 where each singles one out.
 */
function partedBy(group: readonly string[], { prospects }: Proposal): number {
  const told = prospects.map(({ probability, leading }) => ({
    probability,
    shares: group.map((ref) => leading.find((one) => one.ref === ref)?.probability ?? 0),
  }));
  const inGroup = told.filter(({ shares }) => shares.some((share) => share > 0));
  const weight = inGroup.reduce((sum, { probability }) => sum + probability, 0);
  if (weight === 0) return 0;
  const standsOut = (shares: readonly number[]): number =>
    Math.max(...shares) / shares.reduce((a, b) => a + b, 0);
  const after = inGroup.reduce((sum, t) => sum + (t.probability / weight) * standsOut(t.shares), 0);
  const together = group.map((_, i) =>
    inGroup.reduce((sum, { probability, shares }) => sum + probability * shares[i]!, 0),
  );
  return after - standsOut(together);
}
