import { findPin, findPoint, replaceablePart, replaceableRef } from '../board';
import type { BenchBoard } from './bench-board';
import type { SimulatedMeter } from './meter';

/** One thing a hand does to the board. Returns false where the board has no such place. */
type Action = (board: BenchBoard, places: readonly string[], meter: SimulatedMeter) => boolean;

const hasPart = (board: BenchBoard, ref: string | undefined): ref is string =>
  ref !== undefined && board.index.replaceable.has(refOf(board, ref));

/** A designator as the board writes it. */
function refOf({ index }: BenchBoard, ref: string): string {
  return replaceablePart(index, replaceableRef(ref))?.ref ?? ref;
}

const onPart =
  (act: (board: BenchBoard, ref: string) => void): Action =>
  (board, [ref, more]) => {
    if (more !== undefined || !hasPart(board, ref)) return false;
    act(board, refOf(board, ref));
    return true;
  };

const onPin =
  (act: (board: BenchBoard, fault: string) => boolean): Action =>
  (board, [pin, more]) => {
    const found = more === undefined ? findPin(board.index, pin ?? '') : undefined;
    return found ? act(board, `${found.part.ref}.${found.index + 1}:dry`) : false;
  };

const onNets =
  (act: (board: BenchBoard, a: string, b: string) => boolean): Action =>
  (board, [a, b, more]) => {
    const nets = [a, b].map((name) => name && findPoint(board.index, name)?.net);
    if (more !== undefined || !nets[0] || !nets[1] || nets[0] === nets[1]) return false;
    return act(board, nets[0], nets[1]);
  };

// prettier-ignore
const ACTIONS: Readonly<Record<string, Action>> = {
  unplug: onPart((board, ref) => board.unplug(ref)),
  plug: onPart((board, ref) => board.plug(ref)),
  replace: onPart((board, ref) => board.replace(ref)),
  lift: onPin((board, fault) => { board.spoil(fault); return true; }),
  solder: onPin((board, fault) => board.undo(fault)),
  bridge: onNets((board, a, b) => { board.spoil(`${a}~${b}:bridge`); return true; }),
  cut: onNets((board, a, b) => board.undo(`${a}~${b}:bridge`) || board.undo(`${b}~${a}:bridge`)),
  'meter-fuse': (_board, places, meter) => { if (places.length > 0) return false; meter.isFuseBlown = false; return true; },
};

/** What may be asked for, in words. */
export const ACTIONS_EXPECTED =
  'unplug REF, plug REF, replace REF, lift REF.PIN, solder REF.PIN, bridge NET NET, cut NET NET or meter-fuse';

/** Does to the board what the words say: `unplug P2`. Returns false where they say nothing known. */
export function carryOut(board: BenchBoard, meter: SimulatedMeter, text: string): boolean {
  const [verb = '', ...places] = text.trim().split(/\s+/);
  const action = Object.hasOwn(ACTIONS, verb.toLowerCase())
    ? ACTIONS[verb.toLowerCase()]
    : undefined;
  return action?.(board, places, meter) ?? false;
}
