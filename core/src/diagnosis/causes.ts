import { GROUND, nameKey, pinsOn, type BoardIndex, type Part } from '../board';
import type { SingleHypothesis } from '../fault';

/**
 * How likely a part has opened once something behind it is short. From memory of bench practice.
 */
const OPENS_FOR: Partial<Record<Part['kind'], number>> = {
  fuse: 0.6,
  resistor: 0.3,
  inductor: 0.2,
  regulator: 0.2,
  transistor: 0.15,
  diode: 0.15,
  link: 0.1,
};
/** The same for a track. */
const TRACK_OPENS = 0.03;
/** A resistor above this passes too little to burn, ohm. From memory of bench practice. */
const MOST_BURNING_OHM = 1000;
/**
 * Parts through which the current of a short flows: what is behind them counts as behind; a
 * resistor up to so many ohms.
 */
const CARRIES: readonly Part['kind'][] = [
  'fuse',
  'inductor',
  'link',
  'connectorPin',
  'switch',
  'diode',
  'winding',
  'regulator',
];
const MOST_CARRYING_OHM = 25;
/** How many such parts may lie between. */
const MOST_BETWEEN = 3;

/**
 * A fault that made another one: the short behind, and how likely what is in front of it has
 * opened.
 */
export interface Cause {
  readonly culprit: number;
  readonly chance: number;
}

/**
 * For every fault that opens a supply path the shorts behind it that may have opened it: a fuse
 * blows, a resistor burns, a choke or a track opens because of something. By position in singles.
 */
export function causesOf(
  index: BoardIndex,
  singles: readonly SingleHypothesis[],
): ReadonlyMap<number, readonly Cause[]> {
  const culprits = singles.flatMap((single, i) => (isShort(single) ? [i] : []));
  const netsOfCulprit = new Map(culprits.map((i) => [i, netsOf(singles[i]!)]));
  const found = new Map<number, readonly Cause[]>();
  singles.forEach((victim, v) => {
    const chance = opens(victim);
    if (chance === 0) return;
    const behind = reached(index, victim);
    const list = culprits.filter(
      (c) =>
        !sharePart(victim, singles[c]!) && netsOfCulprit.get(c)!.some((net) => behind.has(net)),
    );
    if (list.length > 0)
      found.set(
        v,
        list.map((culprit) => ({ culprit, chance })),
      );
  });
  return found;
}

function opens({ fault }: SingleHypothesis): number {
  if (fault.type === 'cut') return TRACK_OPENS;
  if (fault.type !== 'mode' || fault.mode.effect !== 'open') return 0;
  if (fault.part.kind === 'resistor' && fault.part.resistanceOhm > MOST_BURNING_OHM) return 0;
  return OPENS_FOR[fault.part.kind] ?? 0;
}

/** Faults that draw a current which opens something: a leak of 60 ohm and more does not. */
function isShort({ fault }: SingleHypothesis): boolean {
  return fault.type === 'bridge' || (fault.type === 'mode' && fault.mode.effect === 'short');
}

function netsOf({ fault }: SingleHypothesis): readonly string[] {
  if (fault.type === 'bridge') return fault.nets.map(nameKey);
  const part =
    fault.type === 'mode' ? fault.part : fault.type === 'dry' ? fault.pin.part : undefined;
  return (part?.pins ?? []).map(nameKey).filter((net) => net !== GROUND);
}

function sharePart(a: SingleHypothesis, b: SingleHypothesis): boolean {
  return a.refs.some((ref) => b.refs.includes(ref));
}

/** Nets that a current through the victim comes to, ground left out. */
function reached(index: BoardIndex, { fault }: SingleHypothesis): ReadonlySet<string> {
  const start = fault.type === 'mode' ? fault.part.pins : fault.type === 'cut' ? [fault.net] : [];
  const own = fault.type === 'mode' ? fault.part : undefined;
  const found = new Set(start.map(nameKey).filter((net) => net !== GROUND));
  let edge = [...found];
  for (let hop = 0; hop < MOST_BETWEEN && edge.length > 0; hop += 1) {
    const next: string[] = [];
    for (const net of edge) {
      for (const { part } of pinsOn(index, net)) {
        if (part === own || !carries(part)) continue;
        const news = part.pins
          .map(nameKey)
          .filter((other) => other !== GROUND && !found.has(other));
        for (const other of news) found.add(other);
        next.push(...news);
      }
    }
    edge = next;
  }
  return found;
}

function carries(part: Part): boolean {
  return (
    CARRIES.includes(part.kind) ||
    (part.kind === 'resistor' && part.resistanceOhm <= MOST_CARRYING_OHM)
  );
}
