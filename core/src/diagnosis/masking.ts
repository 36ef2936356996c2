import { GROUND, nameKey, pinPoint, type BoardIndex, type Part } from '../board';
import { linearChange, parseFault, type Fault } from '../fault';
import { BenchState, combinedSpread, COVERAGE, type Measurement } from '../instrument';

/** How far a capacitor's ESR may have grown before a reading in circuit says so. */
export interface EsrVerdict {
  readonly ref: string;
  /** Healthy reading across its pins, ohm, and the top of its band. */
  readonly expectedOhm: number;
  readonly bandOhm: number;
  /**
   * The largest factor on its own ESR that the reading still hides; infinite where one with next to
   * nothing left of it reads like a healthy one.
   */
  readonly hiddenFactor: number;
  /** Other capacitors that share the reading: they join the same two nets. */
  readonly together: readonly string[];
}

/** What ESR readings on a board can say, and the one lifted leg that would help most. */
export interface EsrSurvey {
  readonly verdicts: readonly EsrVerdict[];
  /** Capacitors of which a reading in circuit says nothing useful. */
  readonly hidden: readonly string[];
  /**
   * The leg whose lifting settles most of the hidden ones, and which those are. Undefined where
   * nothing is hidden.
   */
  readonly lift: { readonly ref: string; readonly settles: readonly string[] } | undefined;
}

/**
 * A reading that hides less than this factor judges the part: high ESR begins at 15 times the
 * healthy value.
 */
const JUDGES_BELOW = 15;
const MOST_FACTOR = 3000;
/** Steps in which the worst hidden factor is looked for. */
const LOOKED_STEP = 2;
const LIFTS_TRIED = 12;

/**
 * Works out for every capacitor how bad its ESR could be without the reading leaving the healthy
 * band. Cost: one solve a capacitor and one a lifted leg tried.
 */
export function esrSurvey(index: BoardIndex): EsrSurvey {
  const capacitors = index.board.parts.filter(
    (part): part is Capacitor => part.kind === 'capacitor',
  );
  const inCircuit = new BenchState(index, { setup: 'off', faults: [], absent: [] });
  const verdicts = capacitors.map((part) => judge(index, inCircuit, part));
  const hidden = verdicts
    .filter(({ hiddenFactor }) => hiddenFactor >= JUDGES_BELOW)
    .map(({ ref }) => ref);
  return { verdicts, hidden, lift: bestLift(index, capacitors, hidden) };
}

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

function judge(index: BoardIndex, state: BenchState, part: Capacitor): EsrVerdict {
  const m: Measurement = {
    setup: 'off',
    kind: 'esr',
    at: pinPoint(index, part, 0),
    to: pinPoint(index, part, 1),
  };
  const healthy = state.respond(m);
  const [expectedOhm, band] =
    'ok' in healthy
      ? [Infinity, Infinity]
      : [healthy.value, healthy.value + COVERAGE * combinedSpread('esr', healthy)];
  const parsed = parseFault(index, `${part.ref}:high-esr`);
  const nets = part.pins.map(nameKey).sort().join(' ');
  const together = index.board.parts
    .filter(
      (other) =>
        other !== part &&
        other.kind === 'capacitor' &&
        other.pins.map(nameKey).sort().join(' ') === nets,
    )
    .map(({ ref }) => ref);
  return {
    ref: part.ref,
    expectedOhm,
    bandOhm: band,
    hiddenFactor: parsed.ok ? hiddenFactor(state, m, parsed.fault, band) : Infinity,
    together,
  };
}

/**
 * The factor beyond which the reading stays outside the band. It does not simply grow with the
 * factor: a capacitor that is all but gone leaves a reading to what
 * stands beside it, which may look healthy again. So the worst factor that still does is looked for
 * from above, in steps, then by bisection on a log scale.
 */
function hiddenFactor(state: BenchState, m: Measurement, fault: Fault, band: number): number {
  const hides = (factor: number): boolean => {
    const change = linearChange(fault, factor);
    return ((change && state.respondAfter(m, change)?.value) ?? 0) <= band;
  };
  if (hides(MOST_FACTOR)) return Infinity;
  let high = MOST_FACTOR;
  let low = MOST_FACTOR / LOOKED_STEP;
  while (low > 1 && !hides(low)) [low, high] = [low / LOOKED_STEP, low];
  low = Math.max(1, low);
  while (high / low > 1.02) {
    const middle = Math.sqrt(low * high);
    if (hides(middle)) low = middle;
    else high = middle;
  }
  return high;
}

/**
 * Tries lifting the capacitors that stand beside hidden ones. A lifted part is itself judged by its
 * own, undisturbed reading.
 */
function bestLift(
  index: BoardIndex,
  capacitors: readonly Capacitor[],
  hidden: readonly string[],
): EsrSurvey['lift'] {
  if (hidden.length === 0) return undefined;
  const isHidden = new Set(hidden);
  const nets = new Set(
    capacitors
      .filter(({ ref }) => isHidden.has(ref))
      .flatMap(({ pins }) => pins.map(nameKey).filter((net) => net !== GROUND)),
  );
  const beside = capacitors.filter(({ pins }) => pins.some((net) => nets.has(nameKey(net))));
  const tried = [...beside]
    .sort((a, b) => b.capacitanceFarad - a.capacitanceFarad)
    .slice(0, LIFTS_TRIED);
  const results = tried.map((lifted) => {
    const state = new BenchState(index, { setup: 'off', faults: [], absent: [lifted.ref] });
    const others = capacitors
      .filter(
        ({ ref }) =>
          ref !== lifted.ref &&
          isHidden.has(ref) &&
          judge(index, state, part(capacitors, ref)).hiddenFactor < JUDGES_BELOW,
      )
      .map(({ ref }) => ref);
    return {
      ref: lifted.ref,
      settles: isHidden.has(lifted.ref) ? [lifted.ref, ...others] : others,
    };
  });
  return results.reduce(
    (best, result) => (result.settles.length > best.settles.length ? result : best),
    results[0]!,
  );
}

function part(capacitors: readonly Capacitor[], ref: string): Capacitor {
  return capacitors.find((candidate) => candidate.ref === ref)!;
}
