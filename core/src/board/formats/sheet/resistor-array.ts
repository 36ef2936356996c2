import { lettersOf, unsaidNet, type PinSaid } from '../../part-words';
import type { Part } from '../../schema';
import { makeSaid, type Context, type Wrong } from './said';

/** A resistor array is written whole: `RN2 33R x4 isolated 1=DA 8=DB`. */
interface ArraySaid {
  readonly count: number;
  readonly common: boolean;
  readonly inLine: boolean;
}

export function arrayOf(ref: string, free: readonly string[]): ArraySaid | undefined {
  if (lettersOf(ref) !== 'RN' || ref.includes('.')) return undefined;
  const said = free
    .map((word) => /^x(\d{1,2})$/i.exec(word)?.[1])
    .find((count) => count !== undefined);
  if (said === undefined) return undefined;
  return { count: Number(said), common: free.includes('common'), inLine: free.includes('sil') };
}

/**
 * The elements of an array, each a resistor of its own. isolated in two rows: element 1 from pin 1 to
 * the one opposite; in one row (sil): pins in pairs; common: all from pin 1. Numbering of dual
 * in-line packages: JEDEC MS-001, counter-clockwise.
 */
export function arrayParts(
  ref: string,
  { count, common, inLine }: ArraySaid,
  free: readonly string[],
  pins: readonly PinSaid[],
  context: Context,
): Part[] | Wrong {
  const values = free.filter((word) => !/^(x\d+|isolated|common|sil)$/i.test(word));
  const most = common ? count + 1 : 2 * count;
  const netOf = new Map<number, string>();
  for (const { pin, net } of pins) {
    const number = Number(pin);
    if (!Number.isInteger(number) || number < 1 || number > most)
      return { what: `${ref} has no pin ${pin}`, expected: `pins 1 to ${most}` };
    netOf.set(number, net);
  }
  const ends = (i: number): [number, number] =>
    common ? [1, i + 1] : inLine ? [2 * i - 1, 2 * i] : [i, 2 * count + 1 - i];
  const made: Part[] = [];
  for (let i = 1; i <= count; i += 1) {
    const own = `${ref}.${i}`;
    if (ends(i).every((pin) => !netOf.has(pin))) continue;
    const [part] = [
      makeSaid(
        {
          ref: own,
          words: ['resistor', ...values],
          pins: ends(i).map((pin, k) => ({
            pin: String(k + 1),
            net: netOf.get(pin) ?? unsaidNet(ref, pin),
          })),
          deckOrder: true,
        },
        context,
      ),
    ];
    if (!part!.ok) return { what: `${own}: ${part!.why}`, expected: part!.expected };
    made.push(part!.part);
  }
  return made.length > 0
    ? made
    : { what: `${ref}: none of its pins is said`, expected: '1=NET and so on' };
}
