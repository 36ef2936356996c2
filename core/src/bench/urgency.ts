/** What a case shows to those who order the docket. */
export interface CaseState {
  readonly state: 'open' | 'waiting' | 'closed';
  /** Days until it is promised; undefined where nothing was. Negative: late. */
  readonly promisedInDays: number | undefined;
  /** Days since it came in. */
  readonly ageDays: number;
  /** A timer of it has run out. */
  readonly timerDue: boolean;
  /** Left in the middle of work. */
  readonly paused: boolean;
  /** Minutes of work that are likely still to do, as far as its stage tells. */
  readonly minutesToGo: number;
  /** Handed back, and the day has come on which somebody asks how it runs. */
  readonly followUpDue?: boolean;
}

export interface Urgency {
  /** Larger goes first. */
  readonly score: number;
  readonly reason: string;
}

/** Bench minutes in a working day. From memory of shop practice. */
const DAY_MINUTES = 360;

/**
 * How urgent a case is, with the reason in words. Slack counts: days left less days of work still
 * in it. Source of the rule: least slack first, common practice in job shops.
 */
export function urgencyOf({
  state,
  promisedInDays,
  ageDays,
  timerDue,
  paused,
  minutesToGo,
  followUpDue = false,
}: CaseState): Urgency {
  if (followUpDue) return { score: 60, reason: 'ask how it runs' };
  if (state === 'closed') return { score: -1000 - ageDays / 1000, reason: 'closed' };
  const waiting = state === 'waiting' && !timerDue;
  const base = waiting ? -100 : 0;
  if (timerDue) return { score: 150, reason: 'a timer has run out' };
  if (promisedInDays !== undefined) {
    const slack = promisedInDays - minutesToGo / DAY_MINUTES;
    const words =
      promisedInDays < 0
        ? `${plural(-promisedInDays, 'day')} late`
        : promisedInDays === 0
          ? 'due today'
          : `due in ${plural(promisedInDays, 'day')}`;
    return {
      score: base + 100 - Math.max(-60, Math.min(90, 3 * slack)),
      reason: waiting ? `${words}, but waiting` : words,
    };
  }
  const old = Math.min(40, ageDays);
  if (paused) return { score: base + 50 + old / 10, reason: 'left in the middle of work' };
  return {
    score: base + old,
    reason: waiting
      ? 'waiting'
      : ageDays >= 1
        ? `no date promised, here for ${plural(Math.floor(ageDays), 'day')}`
        : 'new, no date promised',
  };
}

function plural(count: number, word: string): string {
  return `${count} ${word}${count === 1 ? '' : 's'}`;
}
