import { ok, stop, warn, type FitnessRemark } from '../remark';
import type { Size } from '../spec';

/** Legs may be bent by so much where the body has room, mm. Common practice, no published source. */
const BENT_MM = 2.6;
const SAME_MM = 0.3;

/**
 * Whether it goes where the old one was. room: what was measured; else the size of what came off.
 * ask: whether to say that it was not judged where neither is known.
 */
export function judgeSize(
  was: Size,
  offered: Size,
  room: Size | undefined,
  ask: 'always' | 'where known',
): FitnessRemark[] {
  const limit = { ...was, ...room };
  const remarks: FitnessRemark[] = [];
  const missing: string[] = [];
  for (const [side, words] of [
    ['height', 'high'],
    ['diameter', 'wide'],
  ] as const) {
    const [most, own] = [limit[side], offered[side]];
    if (most === undefined || own === undefined) missing.push(side);
    else
      remarks.push(
        own > most + SAME_MM
          ? stop('size', `${own} mm ${words}: there is room for ${most} mm`)
          : ok('size', `${own} mm ${words} has room (${most} mm)`),
      );
  }
  if (limit.pitch === undefined || offered.pitch === undefined) missing.push('pitch of the legs');
  else remarks.push(pitch(limit.pitch, offered.pitch));
  const isKnown = Object.keys(limit).length > 0;
  if (missing.length > 0 && (ask === 'always' || isKnown))
    remarks.push(warn('size', `${missing.join(', ')} not judged: measure the room and the part`));
  return remarks;
}

function pitch(holes: number, legs: number): FitnessRemark {
  const off = Math.abs(legs - holes);
  if (off <= SAME_MM) return ok('pitch', `legs ${legs} mm apart, as the holes are`);
  return off <= BENT_MM
    ? warn(
        'pitch',
        `legs ${legs} mm apart, holes ${holes} mm: bend them away from the body, not at it`,
      )
    : stop('pitch', `legs ${legs} mm apart do not go into holes ${holes} mm apart`);
}
