import { evaluateLaw, FLOAT_OHM, HIGH_SIEMENS, LIMITED_SLOPE, type DropLaw, type FreeLaw, type LimitCorner, type TtlLaw } from '../device';
import { ALWAYS, type LawStamp, type Network } from './network';

/** Most nodes that one law looks at. */
const MOST_CONTROLS = 6;
const volts = new Float64Array(MOST_CONTROLS);
const answer = new Float64Array(MOST_CONTROLS + 2);

/** Whether a law conducts while the drivers are in these states. */
export function isOpen(law: LawStamp, drives: Uint8Array): boolean {
  return law.driver === ALWAYS || (law.driver >= 0 && drives[law.driver] === law.when);
}

/** Works out a law at x, its second control taken lower by so many volts. Returns [ampere, spread, slopes …], valid until the next call. */
export function lawAt({ controls, element }: LawStamp, x: Float64Array, lower = 0): Float64Array {
  for (let i = 0; i < controls.length; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
  volts[1] = volts[1]! - lower;
  evaluateLaw(element.law, volts, answer);
  return answer;
}

/** Holds a step of an amplifier's input difference back where it would jump over the linear region, in which feedback decides. Returns the difference to use. */
function limitDifference(proposed: number, previous: number, width: number): number {
  const crossed = proposed > 0 !== previous > 0;
  const within = Math.abs(previous) <= width;
  if (crossed && !within) return Math.max(-width, Math.min(width, proposed));
  if (within) return Math.max(-2 * width, Math.min(2 * width, proposed));
  return proposed;
}

/** Width of the steep part of a TTL input's law below its float voltage, volt. */
const STEEP_VOLT = 0.06;

/** Holds a step of a TTL input's voltage that would jump over the steep part of its law, to and fro without end, on that part. Returns the voltage to use. */
function limitFloat(proposed: number, previous: number, floatVolt: number): number {
  const low = floatVolt - STEEP_VOLT;
  const jumps = (previous <= low && proposed >= floatVolt) || (previous >= floatVolt && proposed <= low);
  return jumps ? floatVolt - STEEP_VOLT / 2 : proposed;
}

/** How far inside the corner of a limit a step is held, as a share of the corner. */
const CORNER_SHARE = 1e-3;

/** Holds back a step of what a law looks at, in place. volts: of its controls; last[l]: what the step before looked at, changed. Returns whether it was held back. */
function holdLawBack({ law, linearVolt }: LawStamp['element'], volts: Float64Array, last: Float64Array, l: number): boolean {
  if (linearVolt !== undefined) {
    const proposed = volts[0]! - volts[1]!;
    last[l] = limitDifference(proposed, last[l]!, linearVolt);
    volts[0] = volts[1]! + last[l]!;
    return Math.abs(proposed - last[l]!) > 1e-9;
  }
  if (law.kind === 'ttl') {
    const proposed = volts[1]! - volts[2]!;
    last[l] = limitFloat(proposed, last[l]!, law.floatVolt);
    volts[1] = volts[2]! + last[l]!;
    return Math.abs(proposed - last[l]!) > 1e-9;
  }
  return false;
}

/** Works out a law one step further in a search: a step that would jump too far is held back, volts (of its controls) and last[l] are changed. answer: as of
 *  `evaluateLaw`. Returns whether it was held back. */
export function evaluateStep(element: LawStamp['element'], volts: Float64Array, answer: Float64Array, last: Float64Array, l: number): boolean {
  const { law } = element;
  if (law.kind === 'free' && law.limit) return evaluateLimited(law, law.limit, volts, answer, last, l);
  const held = holdLawBack(element, volts, last, l);
  evaluateLaw(law, volts, answer);
  return held;
}

/** A law with a current limit. Beyond it the law is all but flat: a step into the limit goes by the chord to zero current, a step within it by the flat slope, and
 *  a step out of it or over the whole steep part, which says little, leads onto the steep part first. */
function evaluateLimited(
  law: FreeLaw,
  { cornerVolt, driven, driveLess }: LimitCorner,
  volts: Float64Array,
  answer: Float64Array,
  last: Float64Array,
  l: number,
): boolean {
  const before = last[l]!;
  const proposed = driven(volts);
  const out = before > cornerVolt && proposed < cornerVolt;
  const held = out || (before < 0 && proposed > cornerVolt);
  last[l] = held ? (out ? 1 - CORNER_SHARE : 0.5) * cornerVolt : proposed;
  if (held) driveLess(volts, proposed - last[l]!);
  evaluateLaw(law, volts, answer);
  if (held || before > cornerVolt || proposed <= cornerVolt) return held;
  const chord = proposed > 0 ? 1 / (LIMITED_SLOPE * proposed) : 1;
  for (let i = 2; i < answer.length; i += 1) answer[i] = answer[i]! * chord;
  return held;
}

/** The laws of a network that conduct while its drivers are in certain states, sorted by what they are. */
export interface OpenLaws {
  readonly drops: readonly LawStamp[];
  readonly ttls: readonly LawStamp[];
  readonly others: readonly LawStamp[];
  /** What the step before looked at, of ttls and then of others; zero until `rememberLaws`. */
  readonly last: Float64Array;
}

export function openLaws({ laws }: Network, drives: Uint8Array): OpenLaws {
  const found = { drop: [] as LawStamp[], ttl: [] as LawStamp[], free: [] as LawStamp[] };
  for (let l = 0; l < laws.length; l += 1) if (isOpen(laws[l]!, drives)) found[laws[l]!.element.law.kind].push(laws[l]!);
  return { drops: found.drop, ttls: found.ttl, others: found.free, last: new Float64Array(found.ttl.length + found.free.length) };
}

/** What a law looks at that a search has to remember from step to step, volt. volts: of its controls. */
export function lawMemory({ law, linearVolt }: LawStamp['element'], volts: Float64Array): number {
  if (linearVolt !== undefined) return volts[0]! - volts[1]!;
  if (law.kind === 'ttl') return volts[1]! - volts[2]!;
  return law.kind === 'free' && law.limit ? law.limit.driven(volts) : 0;
}

/** Sets what the laws look at to where a search begins. */
export function rememberLaws({ ttls, others, last }: OpenLaws, x: Float64Array): void {
  [...ttls, ...others].forEach(({ controls, element }, l) => {
    for (let i = 0; i < controls.length; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
    last[l] = lawMemory(element, volts);
  });
}

/** Adds the laws' slopes at x to the matrix values and, where rhs is given, what remains of their currents to the right-hand side. With rhs a step that would jump
 *  too far is held back. Returns whether one was. */
export function stampLaws({ drops, ttls, others, last }: OpenLaws, x: Float64Array, values: Float64Array, rhs?: Float64Array): boolean {
  let limited = false;
  for (let l = 0; l < drops.length; l += 1) stampDrop(drops[l]!, drops[l]!.element.law as DropLaw, x, values, rhs);
  for (let l = 0; l < ttls.length; l += 1) if (stampTtl(ttls[l]!, ttls[l]!.element.law as TtlLaw, l, x, values, rhs, last)) limited = true;
  for (let l = 0; l < others.length; l += 1) if (stampOther(others[l]!, ttls.length + l, x, values, rhs, last)) limited = true;
  return limited;
}

/** A TTL input, by itself because there are many. Its controls are supply (a), pin (b) and ground. */
function stampTtl(
  { a, b, controls, slots }: LawStamp,
  { baseOhm, dropVolt, floatVolt }: TtlLaw,
  l: number,
  x: Float64Array,
  values: Float64Array,
  rhs: Float64Array | undefined,
  last: Float64Array,
): boolean {
  const g = controls[2]!;
  const supply = a < 0 ? 0 : x[a]!;
  const ground = g < 0 ? 0 : x[g]!;
  let over = (b < 0 ? 0 : x[b]!) - ground;
  let limited = false;
  if (rhs) {
    const held = limitFloat(over, last[l]!, floatVolt);
    limited = Math.abs(over - held) > 1e-9;
    last[l] = over = held;
  }
  const fed = (supply - dropVolt - ground - over) / baseOhm;
  if (fed <= 0) return limited;
  const left = (floatVolt - over) / FLOAT_OHM;
  // Either the base resistor feeds the pin from the supply, or what is left to the float voltage does, to the ground.
  const byBase = fed < left;
  const siemens = byBase ? 1 / baseOhm : left >= 0 ? 1 / FLOAT_OHM : HIGH_SIEMENS;
  const rest = siemens * (byBase ? -dropVolt : floatVolt);
  const other = byBase ? 0 : 2;
  add(values, slots[other]!, siemens);
  add(values, slots[1]!, -siemens);
  add(values, slots[3 + other]!, -siemens);
  add(values, slots[4]!, siemens);
  if (!rhs) return limited;
  if (a >= 0) rhs[a] = rhs[a]! - rest;
  if (b >= 0) rhs[b] = rhs[b]! + rest;
  return limited;
}

function add(values: Float64Array, slot: number, siemens: number): void {
  if (slot >= 0) values[slot] = values[slot]! + siemens;
}

/** The common law, by itself because there are many: most of them are clamps that do not conduct. */
function stampDrop({ a, b, slots }: LawStamp, law: DropLaw, x: Float64Array, values: Float64Array, rhs: Float64Array | undefined): void {
  const volt = (a < 0 ? 0 : x[a]!) - (b < 0 ? 0 : x[b]!);
  const over = volt - law.dropVolt;
  if (over < 0 && !law.twoWay) return;
  let slope = law.siemens;
  let rest = -slope * law.dropVolt;
  if (Math.abs(over * slope) > law.limitAmpere) {
    slope = law.limitAmpere / Math.abs(over);
    rest = Math.sign(over) * law.limitAmpere - slope * volt;
  }
  if (slots[0]! >= 0) values[slots[0]!]! += slope;
  if (slots[3]! >= 0) values[slots[3]!]! += slope;
  if (slots[1]! >= 0) {
    values[slots[1]!]! -= slope;
    values[slots[2]!]! -= slope;
  }
  if (!rhs) return;
  if (a >= 0) rhs[a]! -= rest;
  if (b >= 0) rhs[b]! += rest;
}

function stampOther(stamp: LawStamp, l: number, x: Float64Array, values: Float64Array, rhs: Float64Array | undefined, last: Float64Array): boolean {
  const { a, b, controls, slots, element } = stamp;
  const count = controls.length;
  let limited = false;
  for (let i = 0; i < count; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
  if (rhs) limited = evaluateStep(element, volts, answer, last, l);
  else evaluateLaw(element.law, volts, answer);
  let rest = answer[0]!;
  for (let i = 0; i < count; i += 1) {
    const slope = answer[2 + i]!;
    if (slope === 0) continue;
    if (slots[i]! >= 0) values[slots[i]!]! += slope;
    if (slots[count + i]! >= 0) values[slots[count + i]!]! -= slope;
    rest -= slope * volts[i]!;
  }
  if (rhs) {
    if (a >= 0) rhs[a]! -= rest;
    if (b >= 0) rhs[b]! += rest;
  }
  return limited;
}
