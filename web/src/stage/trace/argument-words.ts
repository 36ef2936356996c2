import type { OddsSource } from '../../case/engine-request';
import { faultWords, oddsWords, weightWords } from '../../case/wording';
import type { WhyAnswer } from '../../workers/engine-messages';
import type { Sides } from './use-why';

/** One bar of the waterfall: from where to where it moved the odds, decibans. */
export interface Bar {
  readonly name: string;
  readonly span: readonly [number, number];
  readonly words: string;
}

/** A side as the head of a column: `L1 open`, `a sound board`. */
export function sideWords(ref: string, fault: string): string {
  if (ref === '') return 'a sound board';
  return fault === '' ? ref : faultWords(fault);
}

/** What all the readings together make of two sides, in a sentence. */
export function weighsWords(
  { before, after }: Pick<WhyAnswer, 'before' | 'after'>,
  { one, other }: Sides,
): string {
  const [leader, follower] = after >= 0 ? [one, other] : [other, one];
  const name = (ref: string): string => ref || 'nothing wrong';
  if (Math.abs(after) < 0.5) return `${name(one)} and ${name(other)} are as likely as each other.`;
  const share = 1 / (1 + 10 ** (-Math.abs(after) / 10));
  const from =
    Math.sign(before) === Math.sign(after) || Math.abs(before) < 0.5
      ? ''
      : ` Before any reading it was ${name(follower)}.`;
  return `Of the two it is ${name(leader)}: ${oddsWords(share)}.${from}`;
}

/** The bars of the waterfall: what was thought before, what each reading did, and where it ends. */
export function waterfall(answer: WhyAnswer, nameOf: (id: string) => string): readonly Bar[] {
  let at = answer.before;
  const steps = answer.rows.map(({ id, moved, after }): Bar => {
    const from = at;
    at = after;
    return { name: shortened(nameOf(id)), span: [from, after], words: weightWords(moved) };
  });
  return [
    { name: 'before', span: [0, answer.before], words: 'what such boards do' },
    ...steps,
    { name: 'all together', span: [0, answer.after], words: '' },
  ];
}

const shortened = (text: string): string => (text.length > 16 ? `${text.slice(0, 15)}…` : text);

/** Odds that are marked on the axis, decibans: 2, 5 and 10 to 1, and tens of tens beyond. */
const MARKED = [3, 7, 10, 20, 40, 60, 100, 200, 300];
/** Marks that fit beside each other on either side. */
const MOST_MARKS = 3;

/** Where the axis of a waterfall is marked: even odds, and odds that it reaches on either side. */
export function oddsTicks(bars: readonly Bar[]): readonly number[] {
  const ends = bars.flatMap(({ span }) => span);
  const side = (sign: 1 | -1): number[] => {
    const reached = MARKED.filter((mark) => ends.some((end) => end * sign >= mark));
    const step = Math.ceil(reached.length / MOST_MARKS);
    return reached
      .filter((_, i) => (reached.length - 1 - i) % step === 0)
      .map((mark) => sign * mark);
  };
  return [...side(-1).reverse(), 0, ...side(1)];
}

/** A mark of the odds: `even`, `10:1`, `1:100`. */
export function oddsTick(decibans: number): string {
  if (decibans === 0) return 'even';
  const odds = 10 ** (Math.abs(decibans) / 10);
  const text =
    odds > 20_000
      ? `10^${Math.round(Math.abs(decibans) / 10)}`
      : String(Number(odds.toPrecision(1)));
  return decibans > 0 ? `${text}:1` : `1:${text}`;
}

/** What moved the two sides before any reading: the rate table's odds are multiplied by it. */
export function sourcesWords(
  sources: readonly Pick<OddsSource, 'title' | 'factors'>[],
  { one, other }: Sides,
): string {
  const moved = sources.flatMap(({ title, factors }) =>
    [one, other].some((ref) => (factors[ref] ?? 1) !== 1)
      ? [`${title}: ${timesWords(one, factors)}, ${timesWords(other, factors)}`]
      : [],
  );
  return `Before any reading, beside the rate table: ${moved.join('; ') || 'nothing moved either of them'}.`;
}

/** `C5 2.9 times as likely`. Nothing being wrong is moved by none of it. */
function timesWords(ref: string, factors: OddsSource['factors']): string {
  const factor = factors[ref] ?? 1;
  if (ref === '' || factor === 1) return `${ref || 'nothing wrong'} as before`;
  return `${ref} ${factor.toFixed(factor < 1 ? 2 : 1)} times as likely`;
}
