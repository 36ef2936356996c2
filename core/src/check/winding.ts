import { numberOf, ohm, type CheckResult, type GuidedCheck } from './check';

/** Above this a winding is open, ohm. Common practice, no published source. */
export const OPEN_COIL_OHM = 1e5;

/** Of all this: common practice, no published source. */
const COIL = {
  /** What three readings may differ by: a share, and a floor for leads and counts, ohm. */
  misfitShare: 0.03,
  misfitOhm: 0.5,
  /** A half of no more than leads have says nothing of the winding, ohm. */
  nothingOhm: 0.5,
  /** How far two halves may lie apart. */
  halvesApart: 0.1,
  halvesDoubt: 0.05,
  /** And from the same coil beside it. */
  brotherApart: 0.2,
} as const;

/** A centre-tapped winding from its three readings, fitted so that the squares of what is left are least. */
export interface WindingFit {
  readonly first: number;
  readonly second: number;
  /** How much more the halves read than the whole, ohm: nothing where all three agree. */
  readonly misfit: number;
}

/**
 * Halves of a winding from tap to either end and from end to end. Three readings over-determine two
 * halves: least squares of a = r₁, b = r₂, c = r₁ + r₂. Source: Gauss, least squares; worked by hand
 * in the tests.
 */
export function fitWinding(a: number, b: number, c: number): WindingFit {
  return { first: (2 * a - b + c) / 3, second: (2 * b - a + c) / 3, misfit: a + b - c };
}

/** Judges a centre-tapped winding, and another like it beside it where it was read. */
export function judgeWinding(a: number, b: number, c: number, brother?: number): CheckResult {
  const open = [a, b, c].map((value) => value > OPEN_COIL_OHM);
  if (open[0] && open[1] && open[2])
    return {
      verdict: 'bad',
      because: ['no two of its three ends have a path: more than one lead is open'],
    };
  if (open[0] && open[1]) return badLead('the tap', 'the whole still reads', c);
  if (open[0] && open[2]) return badLead('the first end', 'the other half still reads', b);
  if (open[1] && open[2]) return badLead('the second end', 'the other half still reads', a);
  if (open.some(Boolean))
    return {
      verdict: 'doubtful',
      because: ['one reading is open and the other two go round it: that cannot be'],
      settle: 'press harder and repeat the open one',
    };
  const { first, second, misfit } = fitWinding(a, b, c);
  const allowed = COIL.misfitOhm + COIL.misfitShare * c;
  if (Math.abs(misfit) > allowed)
    return {
      verdict: 'doubtful',
      because: [
        `the halves come to ${ohm(a + b)}, the whole reads ${ohm(c)}: one of the three is read wrongly`,
      ],
      settle: `repeat the ${oddOne(a, b, c)}, probes pressed on`,
    };
  if (Math.min(first, second) <= COIL.nothingOhm)
    return {
      verdict: 'doubtful',
      because: [
        `halves ${ohm(first)} and ${ohm(second)}: a half that reads as leads do is shorted, or was not read`,
      ],
      settle:
        'hold the leads together and take them off; then compare with the same coil of another head',
    };
  const apart = Math.abs(first - second) / Math.max(first, second);
  const halves = `halves ${ohm(first)} and ${ohm(second)}, ${(100 * apart).toFixed(0)} % apart`;
  const low = first < second ? 'first' : 'second';
  if (apart > COIL.halvesApart)
    return {
      verdict: 'bad',
      because: [`${halves}: turns of the ${low} half are shorted, or the other has a bad joint`],
      settle: 'compare with the same coil of another head, or of a good unit',
    };
  if (brother !== undefined && brother <= OPEN_COIL_OHM) {
    const off = Math.abs(c - brother) / brother;
    if (off > COIL.brotherApart)
      return {
        verdict: 'doubtful',
        because: [`${halves}, but its like reads ${ohm(brother)} against ${ohm(c)}`],
        settle: 'one of the two is not as it was made: look for its data, or for a third',
      };
  }
  if (apart > COIL.halvesDoubt)
    return {
      verdict: 'doubtful',
      because: [`${halves}: more than they are wound apart as a rule`],
      settle: 'compare with the same coil of another head',
    };
  return { verdict: 'good', because: [`${halves}, and they add up to the whole`] };
}

function badLead(which: string, left: string, value: number): CheckResult {
  return { verdict: 'bad', because: [`${which} is open: ${left} ${ohm(value)}`] };
}

/** Which of three readings is the odd one: that whose change alone would leave equal halves. */
function oddOne(a: number, b: number, c: number): string {
  const without = [
    [Math.abs(c - 2 * b), 'first half'],
    [Math.abs(c - 2 * a), 'second half'],
    [Math.abs(a - b), 'whole'],
  ] as const;
  return [...without].sort((p, q) => p[0] - q[0])[0]![1];
}

export const CENTRE_TAP: GuidedCheck = {
  name: 'centre-tap',
  title: 'coil with a centre tap',
  about:
    'Read from the tap to either end, then from end to end. Unplug the coil, or lift one lead, where diodes or drivers hang on it. Through steering diodes the plus lead goes to the tap: a diode the wrong way reads OL.',
  power: 'off',
  fields: [
    {
      key: 'a',
      label: 'tap to the first end',
      unit: 'ohm',
      needed: true,
      hint: 'heads: 10 to 16 Ω as a rule',
    },
    { key: 'b', label: 'tap to the second end', unit: 'ohm', needed: true },
    { key: 'c', label: 'end to end', unit: 'ohm', needed: true, hint: 'both halves together' },
    {
      key: 'brother',
      label: 'the same of the coil beside it',
      unit: 'ohm',
      hint: 'end to end, where there is one',
    },
  ],
  judge: (given) => {
    const [a, b, c] = ['a', 'b', 'c'].map((key) => numberOf(given, key));
    if (a === undefined || b === undefined || c === undefined) return undefined;
    return judgeWinding(a, b, c, numberOf(given, 'brother'));
  },
};
