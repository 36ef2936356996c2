import {
  GROUND,
  isBusyNet,
  isInsidePackage,
  pinPoint,
  setupNames,
  type BoardIndex,
  type Part,
  type Point,
} from '../board';
import type { Fault } from '../fault';
import { observableMeasurements, type Measurement, type ReadingKind } from '../instrument';
import type { OutlookBase } from './outlook';
import { oncePer } from '../once-per';

/** By the kinds allowed. */
const candidatesOf = oncePer((_: BoardIndex) => new Map<string, readonly Measurement[]>());

/**
 * Everything worth measuring on a board with the kinds allowed, kept with the board: every net's
 * volts and ohms to ground, the level of every net of a chip, every two-pin part's own
 * reading, every junction, every capacitor's ESR, and a look at everything the board names as
 * observable. Current is left out: it needs a cut.
 */
export function candidateMeasurements(
  index: BoardIndex,
  allow?: readonly ReadingKind[],
): readonly Measurement[] {
  const known = candidatesOf(index);
  const key = allow ? [...allow].sort().join() : 'all';
  let found = known.get(key);
  if (!found) known.set(key, (found = everyMeasurement(index, allow)));
  return found;
}

function everyMeasurement(
  index: BoardIndex,
  allow?: readonly ReadingKind[],
): readonly Measurement[] {
  const allowed = (kind: ReadingKind): boolean => allow === undefined || allow.includes(kind);
  const nets = index.nets.filter((net) => net !== GROUND && isReachable(index, net));
  const ground: Point = { net: GROUND };
  const found: Measurement[] = [];
  const add = (setup: 'on' | 'off', kind: ReadingKind, at: Point, to: Point): void => {
    if (allowed(kind) && at.net !== to.net) found.push({ setup, kind, at, to });
  };
  const hasGround = index.netByKey.has(GROUND);
  for (const net of nets) {
    if (!hasGround) break;
    add('on', 'voltage', { net }, ground);
    if (allow?.includes('logic') || isLogic(index, net)) add('on', 'logic', { net }, ground);
    add('off', 'resistance', { net }, ground);
  }
  if (allowed('symptom')) found.push(...observableMeasurements(index));
  for (const part of index.board.parts) {
    if (isInsidePackage(part.ref)) continue;
    const point = (pin: number): Point => pinPoint(index, part, pin);
    for (const kind of ownReadings(part))
      if (part.pins.length === 2) add('off', kind, point(0), point(1));
    if (part.kind === 'transistor') {
      const [base, others] = [point(1), [point(0), point(2)]];
      for (const other of others)
        add(
          'off',
          'diode',
          ...((part.model.polarity === 'npn' ? [base, other] : [other, base]) as [Point, Point]),
        );
      add('off', 'resistance', point(0), point(2));
    }
  }
  return found;
}

/**
 * The candidates, and beside them volts and levels in every setup that the board names: all that
 * can be read without a cut.
 */
export function everyReading(
  index: BoardIndex,
  allow?: readonly ReadingKind[],
): readonly Measurement[] {
  const own = candidateMeasurements(index, allow);
  const powered = own.filter(({ setup, kind }) => setup === 'on' && kind !== 'symptom');
  const setups = ['unloaded', ...(index.board.setups ?? []).map(({ name }) => name)].filter(
    (setup) => setupNames(index.board).includes(setup),
  );
  return [...own, ...setups.flatMap((setup) => powered.map((m): Measurement => ({ ...m, setup })))];
}

/** A net on which a chip's signal pin hangs. */
function isLogic(index: BoardIndex, net: string): boolean {
  return (index.pinsOfNet.get(net) ?? []).some(
    ({ part, index: pin }) =>
      part.kind === 'chip' &&
      ['input', 'output', 'both'].includes(part.model.pins[pin]?.role ?? ''),
  );
}

/** A net that joins at least two pins, one of them outside a package. */
function isReachable(index: BoardIndex, net: string): boolean {
  const pins = index.pinsOfNet.get(net) ?? [];
  return pins.length > 1 && pins.some(({ part }) => !isInsidePackage(part.ref));
}

function ownReadings(part: Part): readonly ReadingKind[] {
  switch (part.kind) {
    case 'resistor':
      return ['resistance'];
    case 'fuse':
    case 'switch':
    case 'connectorPin':
    case 'link':
    case 'inductor':
    case 'winding':
      return ['continuity', 'resistance'];
    case 'diode':
      return ['diode', 'resistance'];
    case 'capacitor':
      return ['esr', 'resistance'];
    default:
      return [];
  }
}

/**
 * Of many measurements those around the suspects: every look at the powered board, and ohms,
 * diodes, continuity and ESR where both points lie on a net of a suspect or one part away from it.
 */
export function aroundSuspects(
  index: BoardIndex,
  { entries }: OutlookBase,
  all: readonly Measurement[],
): readonly Measurement[] {
  const own = new Set(
    entries.flatMap(({ hypothesis }) =>
      (hypothesis.type === 'joint' ? hypothesis.members : [hypothesis]).flatMap(({ fault }) =>
        netsOf(fault),
      ),
    ),
  );
  const near = new Set([...own, GROUND]);
  for (const part of index.board.parts) {
    if (part.pins.some((net) => own.has(net) && net !== GROUND && !isBusyNet(index, net)))
      for (const net of part.pins) near.add(net);
  }
  return all.filter(
    ({ setup, at, to }) => setup !== 'off' || (near.has(at.net) && near.has(to.net)),
  );
}

function netsOf(fault: Fault): readonly string[] {
  if (fault.type === 'bridge') return fault.nets;
  if (fault.type === 'cut') return [fault.net, ...fault.pins.flatMap(({ part }) => part.pins)];
  return (fault.type === 'mode' ? fault.part : fault.pin.part).pins;
}
