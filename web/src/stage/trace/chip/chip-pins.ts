import {
  chipUnits,
  drivenBy,
  levelTaken,
  type ChipUnit,
  type Driven,
  type NetLevels,
} from '@hanzai/core/bench';
import { GROUND, nameKey, pinName, type BoardIndex, type Part } from '@hanzai/core/board';
import type { Journal, TakenReading } from '../../../case/journal';

export type Chip = Extract<Part, { kind: 'chip' }>;

/** One pin of a chip in view. */
export interface PinView extends NetLevels {
  /** Position in the package, from 0. */
  readonly at: number;
  readonly name: string;
  readonly net: string;
  readonly role: Chip['model']['pins'][number]['role'];
  /** What its unit drives by the levels read at its inputs; undefined where that is not known. */
  readonly driven: Driven;
  /** Read against what its unit drives: the unit is dead, or something holds the net. */
  readonly conflict: boolean;
}

/** The chips of a board, those in sockets or not, in board order. */
export const chipsOf = ({ board }: BoardIndex): readonly Chip[] =>
  board.parts.filter((part): part is Chip => part.kind === 'chip');

/** Volts below and above which a level is one, as the logic probe takes them. */
const LOW_VOLT = 0.8;
const HIGH_VOLT = 2;

const levelRead = ({ measurement: { kind, to }, value }: TakenReading): string | undefined => {
  if (kind === 'logic') return String(value);
  if (kind !== 'voltage' || nameKey(to.net) !== GROUND || typeof value !== 'number')
    return undefined;
  return value < LOW_VOLT ? '0' : value > HIGH_VOLT ? '1' : 'Z';
};

/**
 * The level that was last read at a pin, on the board as it is now: at the pin itself, else anywhere
 * on its net.
 */
export function readAt(journal: Journal, part: Part, at: number): string | undefined {
  const net = nameKey(part.pins[at]!);
  let onNet: string | undefined;
  for (const reading of [...journal.readings].reverse()) {
    const { measurement: m, current } = reading;
    if (!current || nameKey(m.at.net) !== net) continue;
    const level = levelRead(reading);
    if (level === undefined) continue;
    if (m.at.pin?.part === part && m.at.pin.index === at) return level;
    onNet ??= level;
  }
  return onNet;
}

/** The level that was last read on a net. */
export function readOnNet(journal: Journal, net: string): string | undefined {
  const key = nameKey(net);
  return journal.readings
    .filter(({ current, measurement }) => current && nameKey(measurement.at.net) === key)
    .map(levelRead)
    .findLast((level) => level !== undefined);
}

/** Whether a level that was read contradicts what an output drives there. */
export function contradicts(driven: Driven, read: string | undefined): boolean {
  if (driven === undefined || read === undefined || driven === 'Z') return false;
  return read !== driven && !(driven === 'P' && read === 'Z');
}

/** Every pin of a chip with what it should have, what was read, and what its unit makes of that. */
export function pinsOf(
  index: BoardIndex,
  journal: Journal,
  part: Chip,
  wanted: Readonly<Record<string, string>>,
): readonly PinView[] {
  const { model } = part;
  const read = part.pins.map((_, at) => readAt(journal, part, at));
  const driven = new Map<number, Driven>(
    chipUnits(model).flatMap((unit: ChipUnit) =>
      unit.remembers ? [] : [...drivenBy(model, unit, (pin) => levelTaken(model, read[pin]))],
    ),
  );
  return part.pins.map((own, at) => {
    const net = index.netByKey.get(nameKey(own)) ?? own;
    const makes = driven.get(at);
    return {
      at,
      name: model.pins[at]!.name,
      net,
      role: model.pins[at]!.role,
      read: read[at],
      wanted: wanted[net],
      driven: makes,
      conflict: contradicts(makes, read[at]),
    };
  });
}

/** What would part the two explanations of a conflict, cheapest first. */
export interface PartingTouch {
  readonly title: string;
  readonly tells: string;
  readonly minutes: number;
}

/**
 * The unit is dead, or something holds the net: what parts the two. Common practice, no published
 * source; minutes from memory of bench practice.
 */
export function partingTouches(
  index: BoardIndex,
  part: Chip,
  pin: PinView,
): readonly PartingTouch[] {
  const next = (index.pinsOfNet.get(pin.net) ?? []).find((place) => place.part !== part);
  const touches: PartingTouch[] = [
    ...(next
      ? [
          {
            title: `the level at ${next.part.ref}.${pinName(next.part, next.index)}, the next pin on the net`,
            tells: 'another level there: the track between is cut',
            minutes: 0.4,
          },
        ]
      : []),
    {
      title: `volts at ${part.ref} pin ${pin.at + 1} to a hundredth`,
      tells:
        pin.read === '0'
          ? '0.1 to 0.4 V: an output pulls it down; below 0.05 V: a short to ground'
          : 'near the supply: something holds it up; about 1.4 V: nobody drives it',
      minutes: 0.5,
    },
    {
      title: `ohms from ${pin.net} to ground, power off`,
      tells: 'below some 20 Ω: a short on the net; else an output or the host',
      minutes: 2.5,
    },
    {
      title: `${part.ref} pin ${pin.at + 1} lifted, the net read again`,
      tells: 'the net goes free: this unit held it; it stays: something else does',
      minutes: 8,
    },
  ];
  return touches.sort((a, b) => a.minutes - b.minutes);
}
