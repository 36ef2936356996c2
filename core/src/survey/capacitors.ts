import {
  GROUND,
  nameKey,
  pinPoint,
  pinsOn,
  replaceableRef,
  type BoardIndex,
  type Part,
} from '../board';
import {
  EsrLevels,
  esrSurvey,
  gridLikelihood,
  gridSize,
  logMeanExp,
  Predictor,
  type EsrVerdict,
} from '../diagnosis';
import { hypothesisSpace, rateOf, type RateTable, type SingleHypothesis } from '../fault';
import { pointText, type Reading } from '../instrument';
import { formatQuantity } from '../quantity';
import { esrLimit } from './dissipation';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** What a survey says of one capacitor. */
export interface CapacitorVerdict {
  readonly ref: string;
  readonly verdict: 'good' | 'doubtful' | 'bad' | 'cannot-judge';
  /**
   * Chance that its ESR is too high, that it is open or short. What an ESR meter does not see (a
   * lost farad, a leak) is not in it.
   */
  readonly probabilityBad: number;
  readonly because: string;
  /** The reading that would settle it; null where nothing is left to settle. */
  readonly settle: {
    readonly setup: 'off';
    readonly kind: 'esr' | 'resistance';
    readonly at: string;
    readonly to: string;
  } | null;
}

/**
 * From these chances on a part is bad, and up to these good. Common practice, no published source.
 */
const BAD_FROM = 0.8;
const GOOD_TO = 0.15;
/** What an ESR meter can see of a capacitor. */
const SEEN = ['high-esr', 'open', 'short'] as const;
/**
 * Rates are weights, not failures per hour: a part whose visible modes weigh so much is as likely
 * bad as good before it was read. From memory of bench practice.
 */
const EVEN_RATE = 40;
/**
 * A reading behind which the part's ESR may be this many times what belongs there says nothing of
 * it.
 */
const HIDES_FROM = 15;

/**
 * A reading behind others that is so many times what a sound board shows is no reading of this
 * part.
 */
const TOO_MUCH = 3;

/** One capacitor with what its readings say of it, level by level. */
interface Surveyed {
  readonly part: Capacitor;
  readonly readings: readonly Reading[];
  /** What the sound board would show at the first of them, ohm; infinite where nothing was read. */
  readonly soundOhm: number;
  readonly group: string;
  /**
   * Log-likelihood of its readings where it is good, and of its chance of being bad with them, by
   * level.
   */
  readonly good: Float64Array;
  readonly bad: Float64Array;
  /** The share of `bad` that is a short. */
  readonly short: Float64Array;
}

/**
 * Judges every capacitor of a board by its ESR readings: by the circuit round it, by its brothers
 * and by what is usual for its size. Many may be bad at once. readings of other kinds are left
 * alone. Cost: one small-signal solve a level, and what masks each part.
 */
export function surveyCapacitors(
  index: BoardIndex,
  readings: readonly Reading[],
  rates: RateTable,
): readonly CapacitorVerdict[] {
  return new CapacitorSurvey(index, rates).judge(readings);
}

/**
 * A board whose capacitors are surveyed: what does not change from reading to reading is worked out
 * once. Lives as long as the board is being surveyed.
 */
export class CapacitorSurvey {
  private readonly predictor: Predictor;
  private readonly singles: readonly SingleHypothesis[];
  private readonly levels: EsrLevels;
  private readonly capacitors: readonly Capacitor[];
  private ownMasks?: ReadonlyMap<string, EsrVerdict>;

  constructor(
    private readonly index: BoardIndex,
    private readonly rates: RateTable,
  ) {
    this.predictor = new Predictor(index);
    const singlesOf = (board: BoardIndex): readonly SingleHypothesis[] =>
      hypothesisSpace(board, rates).hypotheses;
    this.singles = singlesOf(index);
    this.levels = new EsrLevels(index, this.predictor, 10, singlesOf);
    this.capacitors = index.board.parts.filter(
      (part): part is Capacitor => part.kind === 'capacitor',
    );
  }

  private get masks(): ReadonlyMap<string, EsrVerdict> {
    return (this.ownMasks ??= new Map(
      esrSurvey(this.index).verdicts.map((verdict) => [verdict.ref, verdict]),
    ));
  }

  /**
   * Judges every capacitor, in the order of the board. seen: what the eye multiplies the odds of a
   * part by.
   */
  judge(
    readings: readonly Reading[],
    seen: (ref: string) => number = () => 1,
  ): readonly CapacitorVerdict[] {
    const surveyed = this.capacitors.map((part) =>
      survey(
        this.index,
        this.rates,
        part,
        readings.filter((reading) => speaksOf(reading, part)),
        this.singles,
        this.levels,
        this.predictor,
        seen(replaceableRef(part.ref)),
      ),
    );
    return surveyed.map((one) => {
      const brothers = surveyed.filter((other) => other.group === one.group);
      return verdictOf(this.index, one, brothers, this.masks.get(one.part.ref)!);
    });
  }

  /** Ohms that a sound board shows across each capacitor, by designator. */
  expected(): ReadonlyMap<string, number> {
    return new Map([...this.masks].map(([ref, { expectedOhm }]) => [ref, expectedOhm]));
  }
}

/** Whether a reading is one across this capacitor. */
function speaksOf({ measurement: m, absent = [] }: Reading, part: Capacitor): boolean {
  if (m.kind !== 'esr' || absent.some((ref) => nameKey(ref) === nameKey(part.ref))) return false;
  const named = m.at.pin?.part ?? m.to.pin?.part;
  if (named) return named === part;
  const ends = (nets: readonly string[]): string => nets.map(nameKey).sort().join(' ');
  return ends([m.at.net, m.to.net]) === ends(part.pins);
}

function survey(
  index: BoardIndex,
  rates: RateTable,
  part: Capacitor,
  readings: readonly Reading[],
  singles: readonly SingleHypothesis[],
  levels: EsrLevels,
  predictor: Predictor,
  seen: number,
): Surveyed {
  const modes = singles.flatMap((single, h) =>
    single.fault.type === 'mode' &&
    single.fault.part === part &&
    (SEEN as readonly string[]).includes(single.fault.mode.name)
      ? [{ single, h }]
      : [],
  );
  const group = readings
    .map((reading) => levels.groupOf(reading))
    .find((name) => name !== undefined);
  const count = group === undefined ? 1 : EsrLevels.count;
  const good = new Float64Array(count);
  const weights = modes.map(({ single }) => rateOf(index, rates, single.fault));
  const all = weights.reduce((a, b) => a + b, 0);
  const prior = (seen * all) / (seen * all + EVEN_RATE);
  // By mode: its severities times the levels, log-likelihoods added up over the readings.
  const sums = modes.map(({ single }) => new Float64Array(gridSize(single) * count));
  for (const reading of readings) {
    const tables =
      group === undefined
        ? statedTables(reading, modes, predictor)
        : levels.tablesOf(
            reading,
            singles,
            modes.map(({ h }) => h),
          );
    for (let l = 0; l < count; l += 1) good[l]! += tables.healthy[l]!;
    modes.forEach(({ h }, m) => {
      const table = tables.moved.get(h);
      const sum = sums[m]!;
      for (let i = 0; i < sum.length; i += 1)
        sum[i]! += table ? table[i]! : tables.healthy[i % count]!;
    });
  }
  const joint = (names: readonly string[]): Float64Array =>
    Float64Array.from({ length: count }, (_, l) => {
      const logs = modes.flatMap(({ single }, m) => {
        if (single.fault.type !== 'mode' || !names.includes(single.fault.mode.name)) return [];
        const column = Float64Array.from(
          { length: sums[m]!.length / count },
          (_, i) => sums[m]![i * count + l]!,
        );
        return [Math.log(weights[m]! / all) + logMeanExp(column)];
      });
      return Math.log(prior) + logSum(logs);
    });
  return {
    part,
    readings,
    soundOhm: readings[0]
      ? predictor.healthy(readings[0].measurement, readings[0].absent).value
      : Infinity,
    group: group ?? `stated ${part.ref}`,
    good: good.map((value) => value + Math.log(1 - prior)),
    bad: joint(SEEN),
    short: joint(['short']),
  };
}

/** A capacitor whose ESR the sheet states has one level: its own. */
function statedTables(
  reading: Reading,
  modes: readonly { single: SingleHypothesis; h: number }[],
  predictor: Predictor,
): Pick<ReturnType<EsrLevels['tables']>, 'healthy' | 'moved'> {
  const { measurement: m, absent } = reading;
  const under = (single: SingleHypothesis): Float64Array =>
    gridLikelihood(
      reading,
      predictor.under(single, m, absent),
      single.severities,
      gridSize(single),
      10,
    );
  return {
    healthy: gridLikelihood(reading, [predictor.healthy(m, absent)], [1], 1, 10),
    moved: new Map(modes.map(({ single, h }) => [h, under(single)])),
  };
}

/** Chance of being bad, and of being short, the level that brothers share summed over. */
function chances(
  own: Surveyed,
  brothers: readonly Surveyed[],
): { readonly bad: number; readonly short: number } {
  const weights = own.good.length === 1 ? [0] : EsrLevels.logWeights;
  const others = weights.map((weight, l) =>
    brothers
      .filter((one) => one !== own)
      .reduce((sum, { good, bad }) => sum + logSum([good[l]!, bad[l]!]), weight),
  );
  const all = logSum(others.map((log, l) => log + logSum([own.good[l]!, own.bad[l]!])));
  const share = (of: Float64Array): number =>
    Math.exp(logSum(others.map((log, l) => log + of[l]!)) - all);
  return { bad: share(own.bad), short: share(own.short) };
}

function verdictOf(
  index: BoardIndex,
  own: Surveyed,
  brothers: readonly Surveyed[],
  mask: EsrVerdict,
): CapacitorVerdict {
  const { part, readings } = own;
  const { bad: probabilityBad, short } = chances(own, brothers);
  const across = {
    setup: 'off',
    kind: 'esr',
    at: pointText(pinPoint(index, part, 0)),
    to: pointText(pinPoint(index, part, 1)),
  } as const;
  const say = (
    verdict: CapacitorVerdict['verdict'],
    because: string,
    settle: CapacitorVerdict['settle'] = null,
  ): CapacitorVerdict => ({
    ref: part.ref,
    verdict,
    probabilityBad,
    because,
    settle,
  });
  if (readings.length === 0) return say('cannot-judge', 'not read yet', across);
  const read = readings
    .map(({ value }) => (typeof value === 'number' ? formatQuantity(value, 'ohm', 2) : value))
    .join(', ');
  if (probabilityBad - short >= BAD_FROM) return say('bad', `${read}: ${against(own, brothers)}`);
  if (mask.hiddenFactor >= HIDES_FROM) {
    const beside = mask.together.length > 0 ? some(mask.together) : 'what stands in parallel';
    if (
      readings.some(
        ({ value }) => typeof value !== 'number' || value > TOO_MUCH * own.soundOhm + 0.1,
      )
    )
      return say(
        'cannot-judge',
        `${read}, more than ${beside} beside it should let show: zero the leads, press harder, then read those`,
        across,
      );
    return say(
      'cannot-judge',
      `${read}, but ${beside} would read like this by itself: lift ${legToLift(index, part)}, then read it again`,
      across,
    );
  }
  if (2 * short > probabilityBad && probabilityBad > GOOD_TO)
    return say(
      'doubtful',
      `${read}: low for its size, and a short reads like this too: measure its ohms`,
      { ...across, kind: 'resistance' },
    );
  const alone = part.pins.every((net) => pinsOn(index, net).length === 1);
  // Brothers that have aged alike agree with each other: none of them is good for it.
  const limit = esrLimit(part);
  const worst = Math.max(
    0,
    ...readings.flatMap(({ value }) => (typeof value === 'number' ? value : [])),
  );
  if (probabilityBad <= GOOD_TO && limit !== undefined && worst > limit)
    return say(
      'doubtful',
      `${read}: more than the ${formatQuantity(limit, 'ohm', 2)} that the standard allows at 100 Hz (from memory), whatever its like read; compare it with a new one`,
      across,
    );
  if (probabilityBad <= GOOD_TO)
    return say(
      'good',
      `${read}: ${against(own, brothers)}${alone ? '; what stands in parallel is not on this sheet and may hide it' : ''}`,
    );
  return say(
    'doubtful',
    `${read}: ${against(own, brothers)}; zero the leads, press harder, read again, or compare it off the board`,
    across,
  );
}

/** The first of several names, and how many more there are. */
function some(refs: readonly string[]): string {
  return refs.length <= 4
    ? refs.join(', ')
    : `${refs.slice(0, 3).join(', ')} and ${refs.length - 3} more`;
}

/**
 * The leg that comes off with the least heat and copper: not the one on ground, else the one on the
 * net with fewer pins.
 */
function legToLift(index: BoardIndex, part: Capacitor): string {
  const load = (net: string): number =>
    nameKey(net) === GROUND ? Infinity : pinsOn(index, net).length;
  const pin = load(part.pins[0]!) <= load(part.pins[1]!) ? 0 : 1;
  return `its leg ${pointText(pinPoint(index, part, pin))} (${part.pins[pin]!})`;
}

/** What a reading was held against, in words. */
function against({ part, group }: Surveyed, brothers: readonly Surveyed[]): string {
  const others = brothers.filter((one) => one.part !== part && one.readings.length > 0);
  if (others.length > 0) {
    const values = others
      .slice(0, 4)
      .map(
        ({ part: { ref }, readings: [first] }) =>
          `${ref} ${typeof first!.value === 'number' ? formatQuantity(first!.value, 'ohm', 2) : first!.value}`,
      );
    return `its like read ${values.join(', ')}${others.length > 4 ? ' …' : ''}`;
  }
  if (part.esrOhm !== undefined && group.startsWith('stated'))
    return `the sheet has ${formatQuantity(part.esrOhm, 'ohm', 2)}`;
  return 'no like part was read, only what is usual for its size (from memory)';
}

function logSum(logs: readonly number[]): number {
  const top = Math.max(...logs);
  if (top === -Infinity) return top; // nothing to add, or nothing possible
  return top + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - top), 0));
}
