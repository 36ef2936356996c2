import { GROUND, type BoardIndex, type PinPlace } from '../board';
import { STAGE_SPREAD } from '../device';
import type { Measurement } from './measurement';
import { meterOf, voltRange } from './meter';
import { UNMOVED_SHARE, type Response } from './response';
import type { VoltSnapshot } from './snapshot';
import { oncePer } from '../once-per';

/**
 * Spread of a voltage that a fault has moved away from its healthy value, as a share of it: what
 * part tolerance makes of a divider. From memory of bench practice.
 */
const MOVED_SPREAD = 0.02;
/** Below this a chip's output stage gives a low, volt. From memory of common data sheets. */
const LOW_BELOW_VOLT = 0.8;
/**
 * Where the meter takes more than this from the open voltage of the sound board, the state itself
 * has to be asked.
 */
const WELL_FED = 0.98;

const positionsOf = oncePer(
  ({ nets }: BoardIndex): ReadonlyMap<string, number> => new Map(nets.map((net, i) => [net, i])),
);

/** What is answered where the level rests on what nobody knows. */
const NOT_KNOWN: Response = { value: 0, spread: 0, fullScale: 400, unknown: true };

/**
 * Volts, a logic level or a symptom read out of a snapshot, the meter's small load taken as on the
 * healthy board; `healthy` itself where nothing moved.
 * Undefined where a net has no level of its own. healthy: the answer of the sound board; sound: its
 * snapshot.
 */
export function readSnapshot(
  index: BoardIndex,
  snapshot: VoltSnapshot,
  m: Measurement,
  healthy: Response,
  sound: VoltSnapshot | undefined,
): Response | undefined {
  if (m.kind === 'symptom') {
    const chance =
      snapshot.seen[
        (index.board.observables ?? []).findIndex(({ name }) => name === m.observable?.name)
      ];
    return chance === undefined || Number.isNaN(chance)
      ? undefined
      : { value: chance, spread: 0, fullScale: 1 };
  }
  const positions = positionsOf(index);
  const at = positions.get(m.at.net);
  const to = m.to.net === GROUND ? -1 : positions.get(m.to.net);
  if (at === undefined || to === undefined) return undefined;
  const [place, other] = [placeIn(snapshot, at), to < 0 ? -1 : placeIn(snapshot, to)];
  if (snapshot.nets && place < 0 && other < 0) return healthy;
  if (m.kind === 'voltage' && !((healthy.share ?? 0) > WELL_FED)) return undefined;
  if (!sound && (place < 0 || (to >= 0 && other < 0))) return undefined;
  const [end, opposite] = [place >= 0 ? snapshot : sound!, other >= 0 ? snapshot : sound!];
  const [i, j] = [place >= 0 ? place : at, other >= 0 ? other : to];
  if (end.unknown[i] || (to >= 0 && opposite.unknown[j])) return NOT_KNOWN;
  const low = end.low[i]! - (to < 0 ? 0 : opposite.low[j]!);
  const high = (end.high ?? end.low)[i]! - (to < 0 ? 0 : (opposite.high ?? opposite.low)[j]!);
  if (Number.isNaN(low)) return undefined;
  const value = ((low + high) / 2) * (m.kind === 'voltage' ? healthy.share! : 1);
  const moved = Math.abs(value - healthy.value) > UNMOVED_SHARE * healthy.spread;
  const stage =
    moved && (isDriven(index, at) || (to >= 0 && isDriven(index, to)))
      ? value < LOW_BELOW_VOLT
        ? STAGE_SPREAD.low
        : STAGE_SPREAD.high
      : 0;
  const spread = moved ? Math.hypot(healthy.spread, MOVED_SPREAD * value, stage) : healthy.spread;
  const meter = meterOf(m);
  const own = m.meter ? { meter: m.meter } : {};
  if (m.kind !== 'logic') return { value, spread, fullScale: voltRange(value, meter), ...own };
  const pulsing =
    Math.min(low, high) < meter.logicLowVolt && Math.max(low, high) > meter.logicHighVolt;
  return { value, spread, fullScale: healthy.fullScale, ...own, ...(pulsing ? { pulsing } : {}) };
}

/** 1 for each net on which an output of a chip lies, by its position. */
const drivenNets = oncePer((index: BoardIndex) => {
  const drives = ({ part, index: pin }: PinPlace): boolean =>
    part.kind === 'chip' && ['output', 'both'].includes(part.model.pins[pin]?.role ?? '');
  return Uint8Array.from(index.nets, (name) =>
    Number((index.pinsOfNet.get(name) ?? []).some(drives)),
  );
});

function isDriven(index: BoardIndex, net: number): boolean {
  return drivenNets(index)[net] === 1;
}

/** Place of a net in a snapshot's lists, -1 where it is not among them. */
function placeIn({ nets }: VoltSnapshot, net: number): number {
  if (!nets) return net;
  let [low, high] = [0, nets.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const found = nets[middle]!;
    if (found === net) return middle;
    if (found < net) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}
