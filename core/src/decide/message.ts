import type { Quote } from './quote';

/** What the owner is told of one way to go on. */
export interface ToldCourse {
  readonly words: string;
  readonly price: number;
  /** Chance that it works. */
  readonly works: number;
}

export interface MessageInput {
  readonly unit: string;
  readonly owner: string;
  readonly number: number;
  readonly complaint: string;
  /** What was found, likeliest first, in words. */
  readonly found: readonly string[];
  readonly courses: readonly ToldCourse[];
  readonly quote: Quote;
  /** What was found on the way and needs a word: not what the unit came for. */
  readonly onTheWay: readonly string[];
  readonly currency: string;
  /** Why the job is given up; undefined where it goes on. */
  readonly givenUp?: string | undefined;
}

/** A chance in words that promise nothing. */
export function inTen(chance: number): string {
  const tenths = Math.round(10 * chance);
  if (tenths >= 10) return 'nearly sure';
  return tenths <= 0 ? 'hardly' : `${tenths} in 10`;
}

const rounded = (price: number): string => String(5 * Math.ceil(price / 5));

/**
 * A draft for the owner: what was found, the choices with their prices, what needs a word, and the
 * question. To be read by a person before it is sent.
 */
export function ownerMessage(input: MessageInput): string {
  const { quote, currency } = input;
  const money = (price: number): string => `${rounded(price)} ${currency}`.trim();
  const name = input.owner.split(',')[0]!.trim();
  const lines = [
    name === '' ? 'Good day,' : `Dear ${name},`,
    '',
    `about your ${input.unit} (our number ${input.number}${input.complaint.trim() === '' ? '' : `; you told us: “${input.complaint.trim()}”`}).`,
    '',
    input.found.length > 0 ? 'What we found so far:' : 'We have not found the fault yet.',
    ...input.found.map((words) => `- ${words}`),
  ];
  if (input.onTheWay.length > 0)
    lines.push('', 'On the way we also saw:', ...input.onTheWay.map((words) => `- ${words}`));
  if (input.givenUp !== undefined) {
    lines.push(
      '',
      `We advise to stop here: ${input.givenUp}.`,
      `So far the work comes to ${money(quote.spent)}; putting it together comes to ${money(quote.closing)}.`,
      '',
      'Please tell us whether you want the unit back as it is, or whether its good parts may help another one.',
    );
    return lines.join('\n');
  }
  if (input.courses.length > 0)
    lines.push(
      '',
      'How it can go on:',
      ...input.courses.map(({ words, price, works }, i) =>
        price === 0
          ? `${i + 1}. ${words}.`
          : `${i + 1}. ${words}: about ${money(price)} more for this fault, chance that it works: ${inTen(works)}.`,
      ),
    );
  lines.push(
    '',
    `So far the work comes to ${money(quote.spent)}. The whole job is likely to end near ${money(quote.likely)}, and nineteen of twenty such jobs stay below ${money(quote.nearlyAll)}: a unit of this age can have a second fault behind the first.`,
    quote.limit === undefined || quote.stopAt === undefined
      ? 'We agreed on no limit. Please name one; we stop and ask before we go past it.'
      : `We agreed on ${money(quote.limit)}; the chance to stay within it is ${inTen(quote.within ?? 0)}. We stop and ask before we go past it.`,
    '',
    'Please tell us how to go on. Nothing more is done until then.',
  );
  return lines.join('\n');
}
