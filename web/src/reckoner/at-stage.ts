import type { Typed } from '@hanzai/core/reckon';
import { formatCompact } from '@hanzai/core/quantity';
import { caseHazards } from '../case/unit';
import type { Stage } from '../case/stages';
import type { CaseState } from '../case/use-case';

/** A calculator that a stage has use for, filled in as far as the case knows. */
export interface Offered {
  readonly name: string;
  readonly typed: Typed;
}

type Knows = Pick<CaseState, 'journal' | 'model' | 'index'>;
const plain = (...names: string[]): Offered[] => names.map((name) => ({ name, typed: {} }));

/** Starts as a proof reckons with them: those up to the last repair, and the clean run since. */
function startsOf({ journal: { startsBefore, startsSince, starts } }: Knows): Typed {
  const before = startsBefore.length > 0 ? startsBefore : starts;
  const tries = before.reduce((sum, { body }) => sum + body.tries, 0);
  if (tries === 0) return {};
  const failed = before.reduce(
    (sum, { body }) => sum + (body.failedAt === null ? 0 : body.tries),
    0,
  );
  const lastBad = startsSince.findLastIndex(({ body }) => body.failedAt !== null);
  const clean = startsSince.slice(lastBad + 1).reduce((sum, { body }) => sum + body.tries, 0);
  return { failed: String(failed), tries: String(tries), clean: String(clean) };
}

/** The largest charge that the unit keeps. */
function chargeOf({ model, index, journal }: Knows): Typed {
  const charges = caseHazards(model, index, journal).flatMap(({ charge }) =>
    charge?.farad === undefined ? [] : [{ volt: charge.volt, farad: charge.farad }],
  );
  const [first] = charges.sort((a, b) => b.farad * b.volt ** 2 - a.farad * a.volt ** 2);
  return first ? { volt: String(first.volt), farad: formatCompact(first.farad, 'F') } : {};
}

/** The capacitor that was read last, with its ESR where that was read. */
function lastCapacitor({ journal, index }: Knows): Typed {
  const last = journal.readings.findLast(
    ({ measurement: { at } }) => at.pin?.part.kind === 'capacitor',
  );
  const part = last?.measurement.at.pin?.part;
  if (!index || !last || part?.kind !== 'capacitor' || part.unknown) return {};
  const { kind } = last.measurement;
  return {
    farad: formatCompact(part.capacitanceFarad, 'F'),
    ...(kind === 'esr' && typeof last.value === 'number'
      ? { esr: formatCompact(last.value, '') }
      : {}),
  };
}

const AT: Readonly<Partial<Record<Stage, (knows: Knows) => readonly Offered[]>>> = {
  'take-in': () => plain('date', 'share'),
  swaps: (knows) => [
    { name: 'proof', typed: startsOf(knows) },
    ...plain('two-conditions', 'bayes', 'layout', 'adapter'),
  ],
  trace: (knows) => [
    { name: 'reactance', typed: lastCapacitor(knows) },
    { name: 'rc', typed: { ...lastCapacitor(knows) } },
    ...plain('divider', 'together', 'switch', 'pull-up', 'fan-out', 'regulator', 'bayes'),
  ],
  'make-safe': (knows) => [{ name: 'discharge', typed: chargeOf(knows) }],
  look: () => plain('rings', 'code', 'date'),
  'first-aid': () => plain('peroxide', 'slip', 'belt'),
  decide: () => plain('swaps', 'life', 'share'),
  repair: () => plain('preferred', 'wire', 'track', 'fuse', 'ceramic', 'life', 'rings', 'code'),
  adjust: () => plain('speed', 'slip', 'belt', 'stepper', 'divider'),
  prove: (knows) => [
    { name: 'proof', typed: startsOf(knows) },
    ...plain('fuse', 'regulator', 'share'),
  ],
};

/** The calculators that a stage has use for; none where it has none. */
export const offeredAt = (stage: Stage, knows: Knows): readonly Offered[] =>
  AT[stage]?.(knows) ?? [];
