import { replaceableRef, type BoardIndex } from '../board';
import { modesOf } from '../device';
import { parseFault } from '../fault';
import { BenchState, combinedSpread, pointText, type Measurement, type Reading } from '../instrument';

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

/** Judges a reading across one two-pin part: could one of the part's own faults hide behind a parallel path? Undefined for readings that are not across one part. */
export function judgeConclusive(index: BoardIndex, { measurement: m, value }: Reading): Conclusion | undefined {
  const part = m.at.pin?.part;
  if (!part || m.to.pin?.part !== part || part.pins.length !== 2 || m.setup !== 'off') return undefined;
  if (value === 'OL' || value === 'open')
    return { conclusive: true, words: 'nothing beside the part conducts, and the part does not', alsoFits: [], remedy: undefined };
  if (typeof value !== 'number') return undefined;
  const healthy = new BenchState(index, { setup: 'off', faults: [], absent: [] });
  const fits = (faults: Parameters<typeof modelled>[2]): boolean => isSame(m, value, modelled(index, m, faults));
  const alsoFits = modesOf(part).flatMap(({ name, severity }): string[] => {
    const parsed = parseFault(index, `${part.ref}:${name}`);
    if (!parsed.ok) return [];
    // A mode hides where even its mildest form reads the same as what was read.
    const mild = Math.abs(Math.log(severity.low)) < Math.abs(Math.log(severity.high)) ? severity.low : severity.high;
    return [severity.low, mild, severity.high].some((amount) => fits([{ fault: parsed.fault, severity: amount }])) ? [`${part.ref}:${name}`] : [];
  });
  const sound = isSame(m, value, healthy.respond(m));
  if (!sound && alsoFits.length > 0) return { conclusive: true, words: `only ${alsoFits.join(' or ')} reads like this here`, alsoFits, remedy: undefined };
  if (sound && alsoFits.length === 0)
    return { conclusive: true, words: 'a sound part reads like this, and none of its faults does', alsoFits, remedy: undefined };
  const beside = besides(index, m);
  const words = sound
    ? `a sound part reads like this, but so would ${alsoFits.join(' or ')}: ${beside}`
    : `neither the part nor its faults read like this: ${beside}`;
  return { conclusive: false, words, alsoFits, remedy: { title: `lift one leg of ${replaceableRef(part.ref)} and read it again`, minutes: LIFT_MINUTES } };
}

function modelled(index: BoardIndex, m: Measurement, faults: ConstructorParameters<typeof BenchState>[1]['faults']): ReturnType<BenchState['respond']> {
  return new BenchState(index, { setup: 'off', faults, absent: [] }).respond(m);
}

function isSame(m: Measurement, value: number, response: ReturnType<BenchState['respond']>): boolean {
  if ('ok' in response || !Number.isFinite(response.value)) return false;
  return Math.abs(value - response.value) <= SAME * combinedSpread(m.kind, response) + 0.005 * Math.abs(response.value);
}

/** What lies beside the part, in words. */
function besides(index: BoardIndex, m: Measurement): string {
  const lifted = new BenchState(index, { setup: 'off', faults: [], absent: [replaceableRef(m.at.pin!.part.ref)] }).respond({
    ...m,
    at: { net: m.at.net },
    to: { net: m.to.net },
  });
  if ('ok' in lifted || !Number.isFinite(lifted.value)) return 'nothing beside it conducts';
  return `what lies beside ${pointText(m.at).split('.')[0]!} reads ${lifted.value.toPrecision(3)} Ω by itself`;
}
