/** What time and things cost, in one currency, whatever it is. */
export interface JobFigures {
  readonly minutePrice: number;
  /** A part that is fitted in place of another, on average. */
  readonly partPrice: number;
  /** Minutes to take a part off and put one on, and to take one off, test it and put it back. */
  readonly replaceMinutes: number;
  readonly testMinutes: number;
  /** Chance that a pad lifts with a part, and what mending one costs. */
  readonly padRisk: number;
  readonly padPrice: number;
  /** What one more round of looking, mending and proving costs, where nobody knows better. */
  readonly roundMinutes: number;
  readonly proveMinutes: number;
  /** Price of a donor, and the chance that it is good. */
  readonly donorPrice: number;
  readonly donorGood: number;
  readonly donorMinutes: number;
  /** Chance that a new part or its joint is bad, or that the work does harm. */
  readonly harm: number;
}

/** A first set, to be changed by the workshop. From memory of bench practice. */
export const USUAL_JOB: JobFigures = {
  minutePrice: 0.8,
  partPrice: 0.8,
  replaceMinutes: 8,
  testMinutes: 10,
  padRisk: 0.02,
  padPrice: 20,
  roundMinutes: 60,
  proveMinutes: 25,
  donorPrice: 45,
  donorGood: 0.8,
  donorMinutes: 30,
  harm: 0.01,
};

/** What can be done next. */
export type CourseName =
  'measure' | 'test' | 'one' | 'like' | 'kind' | 'donor' | 'undo' | 'give-up';

export interface Course {
  readonly name: CourseName;
  /** What it touches, likeliest first. */
  readonly refs: readonly string[];
  readonly minutes: number;
  readonly price: number;
  /** Pads that lift, on average. */
  readonly padsLifted: number;
  /** Chance that this fault is gone after it. */
  readonly cures: number;
  /** Chance that it does harm, or brings the unit back: a bad part, a bad joint. */
  readonly returns: number;
  /** Share of what is not known about the fault that it tells, 0 to 1. */
  readonly teaches: number;
  /** Price until this fault is gone, with what is left to do where it is not. Infinite where it never is. */
  readonly inAll: number;
}

/** What is known when it has to be decided. */
export interface Standing {
  /** Parts with the chance that they are the fault; they need not sum to 1. */
  readonly suspects: readonly { readonly ref: string; readonly probability: number }[];
  /** Parts like a part: same value and kind; and all of its kind that age alike. Each with the part itself. */
  readonly likeOf: (ref: string) => readonly string[];
  readonly kindOf: (ref: string) => readonly string[];
  /** The next measurement: minutes, and the bits that it is expected to tell. */
  readonly next?: { readonly minutes: number; readonly bits: number } | undefined;
  /** Whether there is a unit or board to swap with. */
  readonly hasDonor: boolean;
  /** What an earlier visitor changed; empty where nothing is known. */
  readonly earlier: string;
}

/** Chance that an earlier visitor's change is the fault. From memory of bench practice. */
const EARLIER_SHARE = 0.15;

/** Bits of what is not known: over suspects, and what is left beside them as one more. */
export function bitsOpen(suspects: Standing['suspects']): number {
  const known = suspects.reduce((sum, { probability }) => sum + probability, 0);
  const all = [...suspects.map(({ probability }) => probability), Math.max(0, 1 - known)];
  const total = all.reduce((sum, p) => sum + p, 0);
  return all.reduce((sum, p) => (p > 0 ? sum - (p / total) * Math.log2(p / total) : sum), 0);
}

/**
 * What can be done next, each with minutes, price, pads, chances and the price until this fault is
 * gone; the cheapest in all first. Chances follow from the belief; what is left after a failure is
 * one more round.
 */
export function coursesOf(standing: Standing, figures: JobFigures): readonly Course[] {
  const { suspects } = standing;
  const round = figures.roundMinutes * figures.minutePrice + figures.partPrice;
  const [top] = suspects;
  const courses: Course[] = [];
  if (top) {
    const sets = new Map<string, readonly string[]>();
    for (const [name, refs] of [
      ['one', [top.ref]],
      ['like', standing.likeOf(top.ref)],
      ['kind', standing.kindOf(top.ref)],
    ] as const) {
      const key = [...refs].sort().join(' ');
      // The same parts under another name are no other course.
      if (refs.length > 0 && !sets.has(key)) {
        sets.set(key, refs);
        courses.push(replacing(name, refs, suspects, figures, round));
      }
    }
    courses.push(testing(top, bitsOpen(suspects), figures, round));
  }
  if (standing.next) {
    const best = courses.filter(({ name }) => name !== 'test').sort((a, b) => a.inAll - b.inAll)[0];
    courses.push(measuring(standing.next, suspects, figures, round, best));
  }
  if (standing.hasDonor) courses.push(donor(figures, round));
  if (standing.earlier.trim() !== '') courses.push(undoing(figures, round));
  courses.push({
    name: 'give-up',
    refs: [],
    minutes: 0,
    price: 0,
    padsLifted: 0,
    cures: 0,
    returns: 0,
    teaches: 0,
    inAll: Number.POSITIVE_INFINITY,
  });
  return courses.sort((a, b) => a.inAll - b.inAll);
}

/** A fault that was not met is one more round; so is harm done. */
function inAll(price: number, cures: number, round: number): number {
  return price + (1 - cures) * round;
}

function replacing(
  name: CourseName,
  refs: readonly string[],
  suspects: Standing['suspects'],
  figures: JobFigures,
  round: number,
): Course {
  const count = refs.length;
  const met = suspects
    .filter(({ ref }) => refs.includes(ref))
    .reduce((sum, { probability }) => sum + probability, 0);
  const harm = 1 - (1 - figures.harm) ** count;
  const minutes = count * figures.replaceMinutes + figures.proveMinutes;
  const padsLifted = count * figures.padRisk;
  const price =
    minutes * figures.minutePrice + count * figures.partPrice + padsLifted * figures.padPrice;
  const cures = Math.min(1, met) * (1 - harm);
  return {
    name,
    refs: [...refs].sort((a, b) => chanceOf(suspects, b) - chanceOf(suspects, a)),
    minutes,
    price,
    padsLifted,
    cures,
    returns: harm,
    // A cure tells which set it was, not which part of it.
    teaches: count === 1 ? 1 : 1 / count,
    inAll: inAll(price, cures, round),
  };
}

const chanceOf = (suspects: Standing['suspects'], ref: string): number =>
  suspects.find((one) => one.ref === ref)?.probability ?? 0;

/** Off, tested by itself, and a new one or itself put back: it is known for sure then. */
function testing(
  top: Standing['suspects'][number],
  open: number,
  figures: JobFigures,
  round: number,
): Course {
  const p = top.probability;
  const padsLifted = figures.padRisk;
  const minutes = figures.testMinutes + p * figures.proveMinutes;
  const price =
    minutes * figures.minutePrice + p * figures.partPrice + padsLifted * figures.padPrice;
  const own = p > 0 && p < 1 ? -p * Math.log2(p) - (1 - p) * Math.log2(1 - p) : 0;
  const cures = p * (1 - figures.harm);
  return {
    name: 'test',
    refs: [top.ref],
    minutes,
    price,
    padsLifted,
    cures,
    returns: figures.harm,
    teaches: open > 0 ? Math.min(1, own / open) : 0,
    inAll: inAll(price, cures, round),
  };
}

/**
 * One more reading, and then the best of the others with what is known by then: it tells a share of
 * what is open, and the chance to meet the fault rises by that share of what is missing.
 */
function measuring(
  next: NonNullable<Standing['next']>,
  suspects: Standing['suspects'],
  figures: JobFigures,
  round: number,
  best: Course | undefined,
): Course {
  const open = bitsOpen(suspects);
  const teaches = open > 0 ? Math.min(1, next.bits / open) : 0;
  const price = next.minutes * figures.minutePrice;
  const after = best
    ? inAll(best.price, best.cures + teaches * (1 - best.cures) * (1 - figures.harm), round)
    : round;
  return {
    name: 'measure',
    refs: [],
    minutes: next.minutes,
    price,
    padsLifted: 0,
    cures: 0,
    returns: 0,
    teaches,
    inAll: price + after,
  };
}

function donor(figures: JobFigures, round: number): Course {
  const price = figures.donorPrice + figures.donorMinutes * figures.minutePrice;
  return {
    name: 'donor',
    refs: [],
    minutes: figures.donorMinutes,
    price,
    padsLifted: 0,
    cures: figures.donorGood,
    returns: 1 - figures.donorGood,
    teaches: 0.5,
    inAll: inAll(price, figures.donorGood, round),
  };
}

function undoing(figures: JobFigures, round: number): Course {
  const minutes = figures.replaceMinutes + figures.proveMinutes;
  const price = minutes * figures.minutePrice + figures.padRisk * figures.padPrice;
  return {
    name: 'undo',
    refs: [],
    minutes,
    price,
    padsLifted: figures.padRisk,
    cures: EARLIER_SHARE,
    returns: figures.harm,
    teaches: EARLIER_SHARE,
    inAll: inAll(price, EARLIER_SHARE, round),
  };
}
