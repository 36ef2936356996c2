import { GROUND, nameKey, type BoardIndex, type Part } from '../board';
import type { Belief, Diagnoser } from '../diagnosis';
import { measurementKey, type Measurement, type Reading } from '../instrument';
import { setupMinutes, type CostTable } from './cost';
import { informationOf, outlooksOf, type OutlookBase } from './outlook';
import { rateOf, type WeighedMeasurement } from './weighed';

/**
 * Something done to the board without a meter, after which a reading says more: parts of it are
 * then out of the circuit.
 */
export interface Touch {
  /** `lift one leg of C3`. */
  readonly title: string;
  /** What is out of the circuit then, by the designator under which it is replaced. */
  readonly refs: readonly string[];
  /** Doing it and putting it back. */
  readonly minutes: number;
  readonly caution: string;
}

/** A touch with the reading that says most after it. */
export interface WeighedTouch extends WeighedMeasurement {
  readonly touch: Touch;
}

/**
 * Minutes of each kind of touch, putting it back included, and what a lifted pin of a chip costs.
 * From memory of bench practice.
 */
const MINUTES = { leg: 6, pin: 8, plug: 2, loads: 3 } as const;
/**
 * Suspects below this are not touched; suspects touched at most, and readings weighed after each.
 */
const SUSPECT_FROM = 0.04;
const MOST_TOUCHED = 4;
const MOST_READINGS = 5;

const CAUTION = {
  iron: 'power off and discharged first; hold the leg, not the body; a pad lifts when it is pulled',
  plug: 'power off first; note which way round the plug sits',
} as const;

/** What could be done to the leading suspects so that a reading tells them apart. */
export function touchesOf(index: BoardIndex, { byPart }: Belief): readonly Touch[] {
  const suspects = byPart
    .filter(({ probability }) => probability >= SUSPECT_FROM)
    .slice(0, MOST_TOUCHED);
  const own = suspects.flatMap(({ ref }) => {
    const touch = touchOf(ref, index.replaceable.get(ref) ?? []);
    return touch ? [touch] : [];
  });
  const loads = [...index.replaceable]
    .filter(([, parts]) => parts.some(isLoad))
    .map(([ref]) => ref);
  if (loads.length > 1)
    own.push({
      title: `unplug ${loads.join(', ')}`,
      refs: loads,
      minutes: MINUTES.loads,
      caution: CAUTION.plug,
    });
  return own;
}

const isLoad = ({ role }: Part): boolean => /^load\b/i.test(role ?? '');

function touchOf(ref: string, parts: readonly Part[]): Touch | undefined {
  const [part] = parts;
  if (!part || part.kind === 'voltageSource' || part.kind === 'currentSource') return undefined;
  if (parts.some(isLoad))
    return { title: `unplug ${ref}`, refs: [ref], minutes: MINUTES.plug, caution: CAUTION.plug };
  if (part.kind === 'connectorPin')
    return { title: `pull plug ${ref}`, refs: [ref], minutes: MINUTES.plug, caution: CAUTION.plug };
  if (part.pins.length === 2 && parts.length === 1)
    return {
      title: `lift one leg of ${ref}`,
      refs: [ref],
      minutes: MINUTES.leg,
      caution: CAUTION.iron,
    };
  return {
    title: `lift the pin of ${ref} there, or take ${ref} off`,
    refs: [ref],
    minutes: MINUTES.pin,
    caution: CAUTION.iron,
  };
}

/**
 * The touches that say something, best first by bits a minute, each with the reading to be taken
 * after it.
 */
export function weighTouches(
  diagnoser: Diagnoser,
  view: OutlookBase,
  belief: Belief,
  readings: readonly Reading[],
  absent: readonly string[],
  costs: CostTable,
): readonly WeighedTouch[] {
  const found = touchesOf(diagnoser.index, belief).flatMap((touch): WeighedTouch[] => {
    const off = [...absent, ...touch.refs];
    const weighed = readingsAfter(diagnoser.index, touch, readings).map(
      (measurement): WeighedTouch => {
        const information = informationOf(
          outlooksOf(diagnoser, view, measurement, off),
          view,
          measurement,
        );
        const minutes =
          touch.minutes +
          setupMinutes('off', measurement.setup, costs) +
          costs.reading[measurement.kind];
        return { measurement, information, minutes, touch };
      },
    );
    return weighed.sort((a, b) => b.information.gainBits - a.information.gainBits).slice(0, 1);
  });
  return found.sort((a, b) => rateOf(b) - rateOf(a));
}

/**
 * What is read once more after a touch: the readings nearest to it first, as nets, for its own pins
 * are off the board then; else the nets that it hung on.
 */
function readingsAfter(
  index: BoardIndex,
  { refs }: Touch,
  readings: readonly Reading[],
): readonly Measurement[] {
  const nets = new Set(
    refs.flatMap((ref) =>
      (index.replaceable.get(ref) ?? []).flatMap(({ pins }) => pins.map(nameKey)),
    ),
  );
  nets.delete(GROUND);
  const touches = ({ at, to }: Measurement): boolean =>
    nets.has(nameKey(at.net)) || nets.has(nameKey(to.net));
  const taken = readings.map(({ measurement: { setup, kind, at, to } }): Measurement => ({
    setup,
    kind,
    at: { net: at.net },
    to: { net: to.net },
  }));
  const again = taken
    .filter(({ kind, at, to }) => kind !== 'current' && kind !== 'symptom' && at.net !== to.net)
    .sort((a, b) => Number(touches(b)) - Number(touches(a)));
  const ohms = [...nets].map((net): Measurement => ({
    setup: 'off',
    kind: 'resistance',
    at: { net: index.netByKey.get(net)! },
    to: { net: GROUND },
  }));
  const all = new Map(
    [...again, ...(index.netByKey.has(GROUND) ? ohms : [])].map((m) => [measurementKey(m), m]),
  );
  return [...all.values()].slice(0, MOST_READINGS);
}

/** What it would take where no reading tells the suspects apart: best first. */
export function whatItTakes(index: BoardIndex, belief: Belief): readonly string[] {
  const doubts = belief.sheet
    .filter(({ probability }) => probability >= 0.05)
    .slice(0, 3)
    .map(({ title, check }) => `${title}: ${check}`);
  const edges = (index.board.edges ?? []).map(({ net }) => net);
  const undrawn =
    edges.length > 0
      ? [`draw what hangs on ${edges.slice(0, 4).join(', ')}: the sheet ends there`]
      : [];
  const odd =
    belief.unexplained.length > 0
      ? ['repeat the readings that nothing explains, on the pins themselves']
      : [];
  return [
    ...odd,
    ...doubts,
    ...undrawn,
    'a board of the same kind that is known good: read the same points on both',
  ];
}
