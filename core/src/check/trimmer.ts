import { graded, numberOf, ohm, together, type CheckResult, type GuidedCheck } from './check';

/** Of a trimmer; shares of its whole. Common practice, no published source. */
const TRIMMER_RULE = { wholeGood: 0.2, wholeBad: 0.4, wiperGood: 0.02, wiperBad: 0.1 } as const;

const TURNED: ReadonlyMap<unknown, CheckResult> = new Map(
  Object.entries({
    smooth: { verdict: 'good', because: ['smooth as it is turned'] },
    jumps: {
      verdict: 'doubtful',
      because: ['it jumps as it is turned'],
      settle:
        'contact cleaner, then again; if it still jumps, a new one set to the reading written down',
    },
    'goes open': {
      verdict: 'bad',
      because: ['it goes open as it is turned: the track is worn through'],
    },
  } satisfies Record<string, CheckResult>),
);
const NOT_TURNED: CheckResult = {
  verdict: 'doubtful',
  because: ['not turned: whether it jumps is not known'],
  settle: 'turn it a little about its mark, only when it is written down',
};

/** Above what is printed convicts; below it something may stand beside it. */
function judgeWhole(whole: number, nominal: number): CheckResult {
  const words = `${ohm(whole)} for ${ohm(nominal)}`;
  if (whole > nominal)
    return graded(
      whole / nominal - 1,
      TRIMMER_RULE.wholeGood,
      TRIMMER_RULE.wholeBad,
      words,
      'compare with its like',
    );
  return 1 - whole / nominal <= TRIMMER_RULE.wholeGood
    ? { verdict: 'good', because: [words] }
    : {
        verdict: 'doubtful',
        because: [words],
        settle: 'what stands beside it lowers it: lift a leg, then read again',
      };
}

export const TRIMMER: GuidedCheck = {
  name: 'trimmer',
  title: 'trimmer: track and wiper',
  about:
    'Its place is written down in Adjust before it is touched. End to end first, then wiper to each end without turning: the two add up to the whole and twice the wiper’s own contact. Only then turned slowly, over a small way and back to its mark.',
  power: 'off',
  fields: [
    { key: 'nominal', label: 'it should have', unit: 'ohm', hint: 'what is printed on it' },
    { key: 'whole', label: 'end to end', unit: 'ohm', needed: true },
    { key: 'a', label: 'wiper to the first end', unit: 'ohm', needed: true },
    { key: 'b', label: 'wiper to the second end', unit: 'ohm', needed: true },
    {
      key: 'turned',
      label: 'turned slowly',
      unit: 'choice',
      choices: ['smooth', 'jumps', 'goes open', 'not turned'],
    },
  ],
  judge: (given) => {
    const [whole, a, b, nominal] = ['whole', 'a', 'b', 'nominal'].map((key) =>
      numberOf(given, key),
    );
    if (whole === undefined || a === undefined || b === undefined || whole <= 0) return undefined;
    if (!Number.isFinite(whole))
      return { verdict: 'bad', because: [`end to end ${ohm(whole)}: the track is open`] };
    if (!Number.isFinite(a) || !Number.isFinite(b))
      return { verdict: 'bad', because: [`wiper ${ohm(a)} and ${ohm(b)}: it has no contact`] };
    const contact = (a + b - whole) / 2;
    return together([
      contact < -TRIMMER_RULE.wiperGood * whole
        ? {
            verdict: 'doubtful',
            because: [`${ohm(a)} and ${ohm(b)} are less than the whole ${ohm(whole)}`],
            settle: 'something stands beside it: lift its wiper, then read again',
          }
        : graded(
            Math.max(0, contact) / whole,
            TRIMMER_RULE.wiperGood,
            TRIMMER_RULE.wiperBad,
            `the wiper’s contact has ${ohm(Math.max(0, contact))} of ${ohm(whole)}`,
            'a drop of contact cleaner, turned to and fro once about its mark, and back',
          ),
      nominal === undefined || nominal <= 0 ? undefined : judgeWhole(whole, nominal),
      TURNED.get(given.turned) ?? NOT_TURNED,
    ]);
  },
};
