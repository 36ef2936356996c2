import { isDesignator, nameKey, type BoardIndex } from '../board';
import { formatQuantity } from '../quantity';

/** How the unit did after a turn: it reads nothing, some, most or all; how long it took, how many errors. */
export interface Outcome {
  readonly reads?: 0 | 1 | 2 | 3;
  readonly errors?: number;
  readonly seconds?: number;
}

/** How something that can be set was found, before the first touch. */
export interface AsFound {
  readonly ref: string;
  /** Ohms, volts or what else it was read in; undefined where it could not be read. */
  readonly reading?: number;
  readonly unit: '' | 'ohm' | 'V' | 'A' | 'Hz';
  /** The mark that was made: `pencil line at the slot, 4 o'clock`. */
  readonly mark: string;
}

/** One touch. degrees: clockwise above zero. */
export interface Touch {
  readonly ref: string;
  readonly degrees: number;
  /** What it was read at afterwards. */
  readonly reading?: number;
  readonly outcome?: Outcome;
}

/** Where a setting stands. */
export interface Setting {
  readonly ref: string;
  readonly found: AsFound;
  /** Degrees from where it was found. */
  readonly degrees: number;
  readonly reading: number | undefined;
  /** Its last reading as a share of the first, above or below: 0.1 for ten per cent more. */
  readonly change: number | undefined;
  readonly touches: number;
}

/** A pot of one turn goes round by so much. Common practice, no published source. */
const TRAVEL_DEGREES = 270;
/** A step is about a tenth of what there is. Common practice, no published source. */
const STEP_SHARE = 0.1;
/** The same by its reading: each step some 1.17 times the last. Common practice, no published source. */
const STEP_RATIO = 1.2;

export const STEP_DEGREES = Math.round(TRAVEL_DEGREES * STEP_SHARE);

/** Every setting that was found, in the order found, with what was done to it since. */
export function settingsOf(
  found: readonly AsFound[],
  touches: readonly Touch[],
): readonly Setting[] {
  return found.map((one) => {
    const own = touches.filter(({ ref }) => nameKey(ref) === nameKey(one.ref));
    const reading = own.findLast((touch) => touch.reading !== undefined)?.reading ?? one.reading;
    return {
      ref: one.ref,
      found: one,
      degrees: own.reduce((sum, { degrees }) => sum + degrees, 0),
      reading,
      change:
        one.reading && reading !== undefined && own.length > 0
          ? reading / one.reading - 1
          : undefined,
      touches: own.length,
    };
  });
}

/** One number of how the unit did: larger is better. Errors count before seconds. */
export function scoreOf(outcome: Outcome | undefined): number | undefined {
  if (!outcome) return undefined;
  const { reads, errors, seconds } = outcome;
  if (reads === undefined && errors === undefined && seconds === undefined) return undefined;
  // One more step of reading is worth more than any errors or seconds within it.
  const lost = (value: number | undefined, half: number): number =>
    value === undefined ? 0 : value / (value + half);
  return (reads ?? 0) - 0.6 * lost(errors, 10) - 0.3 * lost(seconds, 60);
}

/** The turns that bring everything back to where it was found, the last touched first. */
export function wayBack(
  found: readonly AsFound[],
  touches: readonly Touch[],
): readonly { readonly ref: string; readonly degrees: number; readonly to: string }[] {
  const last = (ref: string): number =>
    touches.findLastIndex((touch) => nameKey(touch.ref) === nameKey(ref));
  return settingsOf(found, touches)
    .filter(({ degrees }) => Math.abs(degrees) > 0.5)
    .sort((a, b) => last(b.ref) - last(a.ref))
    .map(({ ref, degrees, found: { reading, unit, mark } }) => ({
      ref,
      degrees: -degrees,
      to: [reading === undefined ? '' : formatQuantity(reading, unit), mark]
        .filter(Boolean)
        .join(', '),
    }));
}

/**
 * Why something is never turned: a home sensor, what is glued. Setting it again takes equipment that
 * nobody at a bench has. Common practice, no published source.
 */
export function neverMoved(index: BoardIndex | undefined, ref: string): string | undefined {
  const part = index && (index.partByKey.get(nameKey(ref)) ?? index.replaceable.get(ref)?.[0]);
  const words = [ref, part?.role, part?.note].join(' ');
  if (
    /\b(home|track ?0|track zero|index|end) ?sensor\b/i.test(words) ||
    (part?.kind === 'opto' && /\bhome\b/i.test(words))
  )
    return 'a sensor of the home position: where it stands decides where every track lies, and setting it again takes equipment that nobody at a bench has';
  if (/\b(glued|lacquered|sealed|potted|varnish)/i.test(words))
    return 'it is glued where it is: somebody set it with what is not here';
  return undefined;
}

/** What a touch is judged by. */
export interface BeforeTouch {
  readonly found: readonly AsFound[];
  readonly touches: readonly Touch[];
  /** Why the work is not ready for it: parts that are off, capacitors that nobody looked at. */
  readonly locks: readonly string[];
  /** Why this one is never moved; undefined where it may be. */
  readonly never: string | undefined;
}

/**
 * What stands against a touch; each may be overruled with a reason that is kept, but the first:
 * what was not written down before cannot be put back.
 */
export function touchObjections(
  next: Touch,
  before: BeforeTouch,
): { readonly refused?: string; readonly askReason: readonly string[] } {
  const found = before.found.find(({ ref }) => nameKey(ref) === nameKey(next.ref));
  if (!found)
    return {
      refused: `how ${next.ref} was found is not written down: its reading or a mark first`,
      askReason: [],
    };
  if (next.degrees === 0) return { refused: 'a turn of nothing', askReason: [] };
  const isBack = wayBack(before.found, before.touches).some(
    ({ ref, degrees }) =>
      nameKey(ref) === nameKey(next.ref) &&
      Math.sign(degrees) === Math.sign(next.degrees) &&
      Math.abs(next.degrees) <= Math.abs(degrees) + 0.5,
  );
  // The way back is always open.
  if (isBack) return { askReason: [] };
  const asks: string[] = [...before.locks];
  if (before.never) asks.push(`${next.ref} is never moved: ${before.never}`);
  const own = settingsOf(before.found, before.touches).find(({ ref }) => ref === found.ref)!;
  const byReading =
    next.reading !== undefined && own.reading !== undefined && own.reading > 0 && next.reading > 0;
  const ratio = byReading ? Math.max(next.reading / own.reading, own.reading / next.reading) : 1;
  if (byReading ? ratio > STEP_RATIO : Math.abs(next.degrees) > STEP_DEGREES)
    asks.push(
      byReading
        ? `from ${formatQuantity(own.reading, found.unit)} to ${formatQuantity(next.reading, found.unit)} is more than a tenth or so at a time`
        : `${Math.abs(next.degrees)}° is more than a tenth of a turn's way (${STEP_DEGREES}°) at a time`,
    );
  if (gotWorse(before.touches))
    asks.push('the last turn made it worse: go back before anything else is turned');
  return { askReason: asks };
}

/** Whether the newest outcome is below the one before it. */
export function gotWorse(touches: readonly Touch[]): boolean {
  const scores = touches.flatMap(({ outcome }) => scoreOf(outcome) ?? []);
  const [before, last] = scores.slice(-2);
  return (
    scores.length >= 2 && scoreOf(touches.at(-1)?.outcome) !== undefined && last! < before! - 1e-9
  );
}

/** Whether words name something that can be set: a designator, or a short name of a screw or leaf. */
export const isSettable = (ref: string): boolean =>
  isDesignator(ref) || /^[A-Za-z][\w -]{1,40}$/.test(ref);
