/** A socketed chip that may be bad, and how likely. */
export interface SwapSuspect {
  readonly ref: string;
  readonly chance: number;
}

/**
 * A way of finding the bad ones among several chips by putting suspects into a unit that works: one
 * after the other, in pairs that make up a byte, or half of them at a time.
 */
export type SwapSchool = 'one by one' | 'pairs' | 'halves';

export interface SwapPlan {
  readonly school: SwapSchool;
  /** Power-ups of the good unit on average, and at most. */
  readonly expected: number;
  readonly worst: number;
  /** What goes into the good unit first. */
  readonly first: readonly string[];
}

/** What the tests so far say of a chip. */
export type SwapState = 'unknown' | 'good' | 'bad';

/** More would not be moved in one round of tests. */
export const MOST_SWAPPED = 24;

/**
 * What each school costs, cheapest first. The chips are taken to fail apart from each other, at
 * least one of them being bad is not taken for granted. A test puts chips into sockets of a good unit
 * and passes where all of them are good. Method: expectation over the tests of a nested plan, as in
 * group testing (Dorfman, Ann. Math. Statist. 14, 1943).
 */
export function swapPlans(suspects: readonly SwapSuspect[]): readonly SwapPlan[] {
  const chips = [...suspects].slice(0, MOST_SWAPPED);
  if (chips.length === 0) return [];
  const schools: readonly (readonly [SwapSchool, readonly (readonly SwapSuspect[])[]])[] = [
    ['one by one', chips.map((chip) => [chip])],
    ['pairs', pairsOf(chips)],
    ['halves', [chips]],
  ];
  return schools
    .filter(([school]) => school === 'one by one' || chips.length > 1)
    .map(([school, groups]) => {
      const costs = groups.map((group) => costOf(group, false));
      return {
        school,
        expected: costs.reduce((sum, { expected }) => sum + expected, 0),
        worst: costs.reduce((sum, { worst }) => sum + worst, 0),
        first: groups[0]!.map(({ ref }) => ref),
      };
    })
    .sort((a, b) => a.expected - b.expected || a.worst - b.worst);
}

function pairsOf<T>(chips: readonly T[]): readonly (readonly T[])[] {
  return Array.from({ length: Math.ceil(chips.length / 2) }, (_, i) =>
    chips.slice(2 * i, 2 * i + 2),
  );
}

/**
 * Tests that it takes to tell every chip of a group: the group as a whole, and where it fails its
 * halves. known: the group is known to hold a bad one, so that it need not be tested as a whole.
 */
function costOf(
  group: readonly SwapSuspect[],
  known: boolean,
): { readonly expected: number; readonly worst: number } {
  const sound = (of: readonly SwapSuspect[]): number =>
    of.reduce((product, { chance }) => product * (1 - chance), 1);
  if (group.length === 1) return known ? { expected: 0, worst: 0 } : { expected: 1, worst: 1 };
  const [front, back] = halvesOf(group);
  // The front half is tested; where it is good and a bad one is known, the back half holds it.
  const [open, sure] = [costOf(front, true), costOf(back, true)];
  const free = costOf(back, false);
  const frontSound = sound(front);
  if (!known) {
    const whole = costOf(group, true);
    const all = sound(group);
    return { expected: 1 + (1 - all) * whole.expected, worst: 1 + whole.worst };
  }
  const bad = 1 - sound(group);
  const pFront = bad === 0 ? 1 : (1 - frontSound) / bad;
  return {
    expected: 1 + pFront * (open.expected + free.expected) + (1 - pFront) * sure.expected,
    worst: 1 + Math.max(open.worst + free.worst, sure.worst),
  };
}

const halvesOf = <T>(group: readonly T[]): readonly [readonly T[], readonly T[]] => {
  const middle = Math.ceil(group.length / 2);
  return [group.slice(0, middle), group.slice(middle)];
};

/**
 * What goes into the good unit next by a school, given what is known; none where every chip is told.
 * tests: what was put in and whether it worked, oldest first.
 */
export function nextSwap(
  school: SwapSchool,
  refs: readonly string[],
  tests: readonly SwapTest[],
): readonly string[] {
  const groups =
    school === 'halves' ? [refs] : school === 'pairs' ? pairsOf(refs) : refs.map((ref) => [ref]);
  for (const group of groups) {
    const next = within(group, swapTally(refs, tests), tests);
    if (next.length > 0) return next;
  }
  return [];
}

/** A set of chips that was put into a good unit, and whether it worked then. */
export interface SwapTest {
  readonly refs: readonly string[];
  readonly passed: boolean;
}

/**
 * What the tests say of each chip: good where a set with it worked, bad where all others of a set that
 * failed are good.
 */
export function swapTally(
  refs: readonly string[],
  tests: readonly SwapTest[],
): ReadonlyMap<string, SwapState> {
  const good = new Set(tests.flatMap((test) => (test.passed ? test.refs : [])));
  const bad = new Set(
    tests.flatMap((test) => {
      const left = test.refs.filter((ref) => !good.has(ref));
      return !test.passed && left.length === 1 ? left : [];
    }),
  );
  return new Map(
    refs.map((ref) => [ref, good.has(ref) ? 'good' : bad.has(ref) ? 'bad' : 'unknown']),
  );
}

function within(
  group: readonly string[],
  tally: ReadonlyMap<string, SwapState>,
  tests: readonly SwapTest[],
): readonly string[] {
  if (group.every((ref) => tally.get(ref) !== 'unknown')) return [];
  // Known to hold a bad one: a set failed of which all that is not good lies in this group.
  const failed = tests.some(({ refs, passed }) => {
    const left = refs.filter((ref) => tally.get(ref) !== 'good');
    return !passed && left.length > 0 && left.every((ref) => group.includes(ref));
  });
  if (!failed) return group;
  const [front, back] = halvesOf(group);
  const next = within(front, tally, tests);
  return next.length > 0 ? next : within(back, tally, tests);
}
