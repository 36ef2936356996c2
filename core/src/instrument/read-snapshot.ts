import { GROUND, type BoardIndex } from '../board';
import type { VoltSnapshot } from './bench-state';
import type { Measurement } from './measurement';
import { STANDARD_METER as METER, voltRange } from './meter';
import type { Response } from './response';

/** Spread of a voltage that a fault has moved away from its healthy value, as a share of it: what part tolerance makes of a divider. From memory of bench practice. */
const MOVED_SPREAD = 0.02;
/** A reading that moved by less than this share of its healthy spread keeps that spread. */
const UNMOVED_SHARE = 0.1;
/** Where the meter takes more than this from the open voltage of the sound board, the state itself has to be asked. */
const WELL_FED = 0.98;
const POSITIONS = new WeakMap<BoardIndex, ReadonlyMap<string, number>>();

/** What is answered where the level rests on what nobody knows. */
const NOT_KNOWN: Response = { value: 0, spread: 0, fullScale: 400, unknown: true };

/** Volts, a logic level or a symptom read out of a snapshot, the meter's small load taken as on the healthy board. Undefined where a net has no level of its own.
 *  healthy: the answer of the sound board. */
export function readSnapshot(index: BoardIndex, snapshot: VoltSnapshot, m: Measurement, healthy: Response): Response | undefined {
  if (m.kind === 'symptom') {
    const chance = snapshot.seen[(index.board.observables ?? []).findIndex(({ name }) => name === m.observable?.name)];
    return chance === undefined || Number.isNaN(chance) ? undefined : { value: chance, spread: 0, fullScale: 1 };
  }
  let positions = POSITIONS.get(index);
  if (!positions) POSITIONS.set(index, (positions = new Map(index.nets.map((net, i) => [net, i]))));
  if (m.kind === 'voltage' && !((healthy.share ?? 0) > WELL_FED)) return undefined;
  const at = positions.get(m.at.net);
  const to = m.to.net === GROUND ? -1 : positions.get(m.to.net);
  if (at === undefined || to === undefined) return undefined;
  if (snapshot.unknown[at] || (to >= 0 && snapshot.unknown[to])) return NOT_KNOWN;
  const between = (volts: Float32Array): number => volts[at]! - (to < 0 ? 0 : volts[to]!);
  const low = between(snapshot.low);
  const high = snapshot.high ? between(snapshot.high) : low;
  if (Number.isNaN(low)) return undefined;
  const value = ((low + high) / 2) * (m.kind === 'voltage' ? healthy.share! : 1);
  const moved = Math.abs(value - healthy.value) > UNMOVED_SHARE * healthy.spread;
  const spread = moved ? Math.hypot(healthy.spread, MOVED_SPREAD * value) : healthy.spread;
  if (m.kind !== 'logic') return { value, spread, fullScale: voltRange(value) };
  const pulsing = Math.min(low, high) < METER.logicLowVolt && Math.max(low, high) > METER.logicHighVolt;
  return { value, spread, fullScale: healthy.fullScale, ...(pulsing ? { pulsing } : {}) };
}
