import { replaceableRef, type BoardIndex } from '../board';
import { modesOf } from '../device';
import { parseFault } from '../fault';
import {
  BenchState,
  combinedSpread,
  pointText,
  type Measurement,
  type Reading,
} from '../instrument';

/** Whether a reading across a part says what it seems to say. */
export interface Conclusion {
  readonly conclusive: boolean;
  readonly words: string;
  /** Ways of failing of the part that would have read the same. */
  readonly alsoFits: readonly string[];
  /** The cheapest way to make it conclusive. */
  readonly remedy: { readonly title: string; readonly minutes: number } | undefined;
}

/** Two readings are the same to the eye within this many standard deviations. */
const SAME = 2.5;
/** Minutes of lifting one leg and putting it back. From memory of bench practice. */
const LIFT_MINUTES = 5;

/**
 * Judges a reading across one two-pin part: could one of the part's own faults hide behind a
 * parallel path? Undefined for readings that are not across one part.
 */
export function judgeConclusive(
  index: BoardIndex,
  { measurement: m, value }: Reading,
): Conclusion | undefined {
  const part = m.at.pin?.part;
  if (!part || m.to.pin?.part !== part || part.pins.length !== 2 || m.setup !== 'off')
    return undefined;
  if (value === 'OL' || value === 'open')
    return {
      conclusive: true,
      words: 'nothing beside the part conducts, and the part does not',
      alsoFits: [],
      remedy: undefined,
    };
  if (typeof value !== 'number') return undefined;
  const healthy = new BenchState(index, { setup: 'off', faults: [], absent: [] });
  const alsoFits = modesOf(part).flatMap(({ name, severity }): string[] => {
    const parsed = parseFault(index, `${part.ref}:${name}`);
    if (!parsed.ok) return [];
    const under = (amount: number): Answer =>
      new BenchState(index, {
        setup: 'off',
        faults: [{ fault: parsed.fault, severity: amount }],
        absent: [],
      }).respond(m);
    return liesBetween(m, value, under(severity.low), under(severity.high))
      ? [`${part.ref}:${name}`]
      : [];
  });
  const sound = isSame(m, value, healthy.respond(m));
  if (!sound && alsoFits.length > 0)
    return {
      conclusive: true,
      words: `only ${alsoFits.join(' or ')} reads like this here`,
      alsoFits,
      remedy: undefined,
    };
  if (sound && alsoFits.length === 0)
    return {
      conclusive: true,
      words: 'a sound part reads like this, and none of its faults does',
      alsoFits,
      remedy: undefined,
    };
  const beside = besides(index, m);
  const words = sound
    ? `a sound part reads like this, but so would ${alsoFits.join(' or ')}: ${beside}`
    : `neither the part nor its faults read like this: ${beside}`;
  return {
    conclusive: false,
    words,
    alsoFits,
    remedy: {
      title: `lift one leg of ${replaceableRef(part.ref)} and read it again`,
      minutes: LIFT_MINUTES,
    },
  };
}

type Answer = ReturnType<BenchState['respond']>;

function isSame(m: Measurement, value: number, response: Answer): boolean {
  return liesBetween(m, value, response, response);
}

/**
 * Whether a reading could be one of those between two answers: a mode's mildest and its worst form.
 */
function liesBetween(m: Measurement, value: number, one: Answer, other: Answer): boolean {
  if ('ok' in one || 'ok' in other || !Number.isFinite(one.value) || !Number.isFinite(other.value))
    return false;
  const [low, high] = one.value < other.value ? [one, other] : [other, one];
  const slack = (response: typeof one): number =>
    SAME * combinedSpread(m.kind, response) + 0.005 * Math.abs(response.value);
  return value >= low.value - slack(low) && value <= high.value + slack(high);
}

/** What lies beside the part, in words. */
function besides(index: BoardIndex, m: Measurement): string {
  const lifted = new BenchState(index, {
    setup: 'off',
    faults: [],
    absent: [replaceableRef(m.at.pin!.part.ref)],
  }).respond({
    ...m,
    at: { net: m.at.net },
    to: { net: m.to.net },
  });
  if ('ok' in lifted || !Number.isFinite(lifted.value)) return 'nothing beside it conducts';
  return `what lies beside ${pointText(m.at).split('.')[0]!} reads ${lifted.value.toPrecision(3)} Ω by itself`;
}
