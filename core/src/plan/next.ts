import { powerOf, type BoardIndex, type Setup } from '../board';
import { Diagnoser, PULSING_AT, taughtBy, unscaledValue, type Belief } from '../diagnosis';
import type { RateTable } from '../fault';
import {
  measurementKey,
  ohmRange,
  pointText,
  readout,
  voltRange,
  type MeterProfile,
  type Measurement,
  type Reading,
  type ReadingKind,
  type Readout,
} from '../instrument';
import { minutesInWords } from '../quantity';
import { planActions, type Action, type ReadingPromise } from './actions';
import { schoolsOf, type Schools } from './schools';
import { aroundSuspects, candidateMeasurements, everyReading } from './candidates';
import { DEFAULT_COSTS, setupMinutes, type CostTable } from './cost';
import type { Information, Outcome } from './information';
import { foresee, informationOf, outlookBase, outlooksOf, type OutlookBase } from './outlook';
import { shortedRail, type ShortedRail } from './no-power';
import type { ProposedMeasurement, ProposedTouch, Prospect } from './proposal';
import { weighTouches, whatItTakes } from './touches';
import { lookTwoSteps } from './two-step';
import { rateOf, type WeighedMeasurement } from './weighed';

/**
 * What to do next. measure: a reading is worth its time; replace: none is, act on the leading
 * suspects; verify: nothing seems wrong, prove it.
 */
export interface Plan {
  readonly state: 'measure' | 'replace' | 'verify';
  readonly measurements: readonly ProposedMeasurement[];
  readonly replace: readonly { readonly ref: string; readonly probability: number }[];
  /**
   * What could be done without a meter so that a reading tells more; empty while readings alone
   * tell enough.
   */
  readonly touches: readonly ProposedTouch[];
  /**
   * True where every reading at every point in every setup of the board was weighed with every
   * severity, and none tells anything worth its time.
   */
  readonly exhausted: boolean;
  /** What it would take then, in words. */
  readonly takes: readonly string[];
  /**
   * Readings and work that can cure on one scale: expected minutes to a proven repair, least first.
   */
  readonly actions: readonly Action[];
  /** The two ways to go on, with their price. */
  readonly schools: Schools | undefined;
  /** A rail that reads as shorted: nothing with the power on is proposed until that is found. */
  readonly noPower: ShortedRail | undefined;
}

export interface PlanOptions {
  readonly allow?: readonly ReadingKind[];
  /** Whether a reading may be proposed at all; default: every one. */
  readonly allowed?: (measurement: Measurement) => boolean;
  /** Default: DEFAULT_COSTS. */
  readonly costs?: CostTable;
  /** The state the board is in now. Default: that of the last reading, off where there is none. */
  readonly setup?: Setup;
  /** Parts that are off the board now. */
  readonly absent?: readonly string[];
  /** Readings to propose at most, best first. Default 40: nobody looks further down the list. */
  readonly most?: number;
  /** A first look: only the leading suspects and the readings around them, one severity each. */
  readonly quick?: boolean;
  /** Minutes of opening up before a reading's points can be reached. Default: none. */
  readonly accessMinutes?: (measurement: Measurement) => number;
  /** Whether it may be proposed to lift a leg or the like. Default: true. */
  readonly touching?: boolean;
  /** Minutes that hands take to a measurement from where they are. */
  readonly handMinutes?: (measurement: Measurement) => number;
  /** What a kind is read with; the standard meter where it is undefined. */
  readonly meter?: (kind: ReadingKind) => MeterProfile | undefined;
}

/** A reading that tells less is not worth proposing, bits. */
const LEAST_GAIN = 0.01;
/**
 * A reading that tells less than this is not called the next, bits: it would leave things as they
 * are.
 */
export const LITTLE = 0.05;
/** Nor one that tells somewhat more but brings the leader up by less than this. */
const LITTLE_ABOVE = 0.04;
const MOST_TOUCHES = 3;
/**
 * A reading that tells this much is taken whatever it does to the leading suspect's chances: early
 * on, no single reading moves those, bits.
 */
const TELLING = 0.15;
/** Above this a suspect is acted on without further readings. */
const CERTAIN = 0.97;
const HEALTHY_ENOUGH = 0.6;

/**
 * With more readings than this to choose from, those with a current of the meter's own are only
 * weighed around the suspects: further off they tell nothing.
 */
const MANY_CANDIDATES = 1000;

/** Suspects that a first look considers. */
const QUICK_SUSPECTS = 24;

/** Share of the work of a plan that goes into predicting readings. */
const FORESIGHT = 0.9;

/**
 * Plans for a board from the start; factor as in `diagnose`. For repeated use keep a Diagnoser and
 * call `planNext`.
 */
export function nextMeasurements(
  index: BoardIndex,
  readings: readonly Reading[],
  rates: RateTable,
  options: PlanOptions = {},
  factor?: (ref: string) => number,
): Plan {
  const taught = taughtBy(index, readings);
  const diagnoser = new Diagnoser(taught.index, rates, factor);
  return planNext(diagnoser, taught.readings, diagnoser.believe(taught.readings), options);
}

/**
 * Ranks what could be measured by expected information per minute, and says whether measuring is
 * still worth it.
 * Source of the stop rule: decision-theoretic troubleshooting, Heckerman, Breese & Rommelse, CACM
 * 38(3), 1995, looking one step ahead.
 */
export function planNext(
  diagnoser: Diagnoser,
  readings: readonly Reading[],
  belief: Belief,
  options: PlanOptions = {},
): Plan {
  const steps = planSteps(diagnoser, readings, belief, options);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/**
 * `planNext` in small steps, for callers that must stay responsive: yields the share of the work
 * done, 0 to 1, and returns the plan. Abandon the generator to stop.
 */
export function* planSteps(
  diagnoser: Diagnoser,
  readings: readonly Reading[],
  belief: Belief,
  options: PlanOptions = {},
): Generator<number, Plan> {
  const costs = options.costs ?? DEFAULT_COSTS;
  const from = options.setup ?? readings.at(-1)?.measurement.setup ?? 'off';
  const taken = new Set(readings.map(({ measurement }) => measurementKey(measurement)));
  // Readings with the power on are not proposed while a rail reads as shorted.
  const noPower = shortedRail(
    diagnoser.index,
    readings,
    (m) => diagnoser.predictor.healthy(m, options.absent).value,
  );
  const allowed = (m: Measurement): boolean =>
    (noPower === undefined || powerOf(m.setup) === 'off') && (options.allowed?.(m) ?? true);
  const byOwnMeter = (m: Measurement): Measurement => {
    const meter = options.meter?.(m.kind);
    return meter ? { ...m, meter } : m;
  };
  const open = candidateMeasurements(diagnoser.index, options.allow)
    .filter((m) => !taken.has(measurementKey(m)) && allowed(m))
    .map(byOwnMeter);
  const view = outlookBase(belief, open.length, options.quick ? QUICK_SUSPECTS : undefined);
  const candidates =
    open.length > MANY_CANDIDATES || options.quick
      ? aroundSuspects(diagnoser.index, view, open)
      : open;
  const minutesOf = (m: Measurement): number =>
    costs.reading[m.kind] +
    setupMinutes(from, m.setup, costs) +
    (options.accessMinutes?.(m) ?? 0) +
    (options.handMinutes?.(m) ?? 0);
  const weighed: WeighedMeasurement[] = [];
  const absent = options.absent ?? [];
  const foreseen = foresee(diagnoser, view, candidates, absent, LEAST_GAIN);
  let step = foreseen.next();
  for (; !step.done; step = foreseen.next()) yield FORESIGHT * step.value;
  const outlooks = step.value;
  for (const [i, measurement] of candidates.entries()) {
    if (i % 16 === 0) yield FORESIGHT + ((1 - FORESIGHT) * i) / candidates.length;
    const own = outlooks[i];
    const information = own && informationOf(own, view, measurement);
    if (!information || information.gainBits < LEAST_GAIN) continue;
    weighed.push({ measurement, information, minutes: minutesOf(measurement) });
  }
  // Before it is said that no reading tells more, all of them are looked at: far from the suspects
  // too, in every setup, under every severity.
  const top = Math.max(belief.byPart[0]?.probability ?? 0, belief.healthy, belief.unmodelled);
  const isLittle = (): boolean => weighed.every(({ information }) => tellsLittle(information, top));
  const settled =
    (belief.byPart[0]?.probability ?? 0) >= CERTAIN ||
    belief.healthy >= HEALTHY_ENOUGH ||
    readings.length === 0;
  const searchedAll = !settled && !options.quick && isLittle();
  if (searchedAll) {
    const known = new Set(weighed.map(({ measurement }) => measurementKey(measurement)));
    const all = everyReading(diagnoser.index, options.allow)
      .filter((m) => !taken.has(measurementKey(m)) && !known.has(measurementKey(m)) && allowed(m))
      .map(byOwnMeter);
    const fine = outlookBase(belief, 0);
    for (const [i, measurement] of all.entries()) {
      if (i % 8 === 0) yield FORESIGHT;
      const information = informationOf(
        outlooksOf(diagnoser, fine, measurement, absent),
        fine,
        measurement,
      );
      if (information.gainBits >= LEAST_GAIN)
        weighed.push({ measurement, information, minutes: minutesOf(measurement) });
    }
  }
  const exhausted = searchedAll && isLittle();
  const touches =
    !settled && !options.quick && (options.touching ?? true) && isLittle()
      ? weighTouches(diagnoser, view, belief, readings, absent, costs).filter(
          ({ information, measurement }) => information.gainBits >= LITTLE && allowed(measurement),
        )
      : [];
  weighed.sort((a, b) => rateOf(b) - rateOf(a));
  lookTwoSteps(diagnoser, view, weighed, costs, absent);
  // With no evidence at all the first question is what the unit does, which its owner can answer
  // before a lid is off. The sort is stable.
  if (readings.length === 0)
    weighed.sort(
      (a, b) => Number(b.measurement.kind === 'symptom') - Number(a.measurement.kind === 'symptom'),
    );
  const proposals = weighed
    .slice(0, Math.max(options.most ?? MOST_PROPOSED, MOST_PROMISES))
    .map((one) => propose(diagnoser, view, one, absent));
  const replace = belief.byPart
    .filter((part) => part.probability >= 0.02)
    .slice(0, 10)
    .map(({ ref, probability }) => ({ ref, probability }));
  const promises = proposals
    .slice(0, MOST_PROMISES)
    .map((proposal, i) => promiseOf(view, proposal, weighed[i]!.information));
  const actions = planActions(diagnoser.index, belief, costs, promises);
  // Before the first reading nothing is known of this board but how often parts fail: nobody
  // replaces on that.
  const ordered =
    readings.length > 0
      ? actions
      : [...actions].sort((a, b) => Number(b.kind === 'measure') - Number(a.kind === 'measure'));
  const kept = ordered
    .filter(
      (action, i) =>
        action.kind !== 'measure' ||
        ordered.slice(0, i).filter(({ kind }) => kind === 'measure').length < MOST_MEASURED,
    )
    .slice(0, MOST_ACTIONS);
  return {
    // Before the first reading nothing is known to be well, however seldom such a sheet is to blame.
    state:
      readings.length === 0 && weighed.length > 0
        ? 'measure'
        : decide(belief, [...weighed, ...touches], costs),
    actions: kept,
    schools: readings.length === 0 ? undefined : schoolsOf(belief, promises, costs),
    measurements: proposals,
    noPower,
    replace,
    touches: touches.slice(0, MOST_TOUCHES).map((one) => ({
      ...propose(diagnoser, view, one, [...absent, ...one.touch.refs]),
      touch: one.touch,
    })),
    exhausted,
    takes: exhausted ? whatItTakes(diagnoser.index, belief) : [],
  };
}

const MOST_PROPOSED = 40;
/**
 * Readings that are weighed against work, actions that are kept, and how many of these may be
 * readings.
 */
const MOST_PROMISES = 12;
const MOST_ACTIONS = 12;
const MOST_MEASURED = 4;

/** What a proposed reading promises for the plan of work. */
function promiseOf(
  { refs }: OutlookBase,
  { kind, at, to, minutes, reason }: ProposedMeasurement,
  { outcomes }: Information,
): ReadingPromise {
  return {
    title: `${kind} at ${at}${to === '' ? '' : ` to ${to}`}`,
    minutes,
    reason,
    outcomes: outcomes.map(({ probability, groups }) => ({
      probability,
      shares: new Map(refs.map((ref, i) => [ref, groups[i]!])),
    })),
  };
}

/**
 * Whether a reading would leave things about as they are: all it could show is that an earlier one
 * was a slip.
 */
function tellsLittle({ gainBits, expectedTop }: Information, top: number): boolean {
  return gainBits < LITTLE || (gainBits < 2 * TELLING && expectedTop - top < LITTLE_ABOVE);
}

function decide(
  belief: Belief,
  weighed: readonly WeighedMeasurement[],
  costs: CostTable,
): Plan['state'] {
  const top = belief.byPart[0]?.probability ?? 0;
  if (belief.healthy >= HEALTHY_ENOUGH && belief.healthy > top) return 'verify';
  if (top >= CERTAIN) return 'replace';
  // A wrong replacement costs its work and finding that out; a reading is worth what it takes off
  // that risk.
  const stake = costs.replace + costs.wrongReplacement;
  const best = weighed.some(
    ({ information: { expectedTop, gainBits }, minutes }) =>
      (expectedTop - Math.max(top, belief.healthy, belief.unmodelled)) * stake > minutes ||
      gainBits > TELLING,
  );
  if (best) return 'measure';
  return belief.healthy > top ? 'verify' : 'replace';
}

function propose(
  diagnoser: Diagnoser,
  view: OutlookBase,
  { measurement: m, information, minutes }: WeighedMeasurement,
  absent: readonly string[],
): ProposedMeasurement {
  const names = [...view.refs, 'healthy', 'none of these'];
  const prospects = merged(information.outcomes, m.kind, names);
  const expected = readout(m.kind, diagnoser.predictor.healthy(m, absent));
  return {
    setup: m.setup,
    kind: m.kind,
    at: pointText(m.at),
    to: pointText(m.to),
    gainBits: information.gainBits,
    minutes,
    measurement: m,
    expected,
    prospects,
    reason: reasonFor(prospects, information.gainBits, minutes),
  };
}

/** Shares of the leading part closer than this lead to the same next step. */
const SAME_STEP = 0.1;
const CATEGORIES: readonly ReadingKind[] = ['logic', 'continuity', 'symptom'];

/**
 * What a person would call different results: those that look the same on the meter, and neighbours
 * that leave the same part in the lead, are one. At most four, likeliest first.
 */
function merged(
  outcomes: readonly Outcome[],
  kind: ReadingKind,
  names: readonly string[],
): Prospect[] {
  const rows: {
    probability: number;
    centre: number;
    /** Of the likeliest outcome in it. */
    typical: { readonly centre: number; readonly probability: number };
    from: string;
    to: string;
    groups: number[];
  }[] = [];
  for (const { probability, centre, groups } of [...outcomes].sort((a, b) => a.centre - b.centre)) {
    if (probability <= 0) continue;
    const display = describeOutcome(kind, centre);
    const last = rows.at(-1);
    if (
      last &&
      (last.to === display ||
        isAlike(kind, last.centre, centre) ||
        (!CATEGORIES.includes(kind) && sameStep(last.groups, groups)))
    ) {
      const share = probability / (last.probability + probability);
      last.groups = last.groups.map((own, g) => own + share * (groups[g]! - own));
      last.probability += probability;
      last.to = display;
      last.centre = centre;
      if (probability > last.typical.probability) last.typical = { centre, probability };
    } else {
      const typical = { centre, probability };
      rows.push({ probability, centre, typical, from: display, to: display, groups: [...groups] });
    }
  }
  return rows
    .filter(({ probability }) => probability >= 0.03)
    .sort((a, b) => b.probability - a.probability)
    .slice(0, 4)
    .map(({ probability, typical, from, to, groups }) => ({
      probability,
      value: outcomeReadout(kind, typical.centre).value,
      display: from === to ? from : `${from} to ${to}`,
      leading: groups
        .map((p, g) => ({ ref: names[g]!, probability: p }))
        .filter((entry) => entry.probability >= 0.04)
        .sort((a, b) => b.probability - a.probability)
        .slice(0, 4),
    }));
}

/**
 * Ohms closer than this share of themselves, and volts closer than this, are one outcome to whoever
 * reads the meter.
 */
const ALIKE = { ohms: 0.05, volt: 0.02 } as const;

/** Whether two centres on the natural scale of a kind look like one on the meter. */
function isAlike(kind: ReadingKind, a: number, b: number): boolean {
  if (!Number.isFinite(a) || !Number.isFinite(b) || CATEGORIES.includes(kind)) return false;
  return Math.abs(a - b) < (kind === 'resistance' || kind === 'esr' ? ALIKE.ohms : ALIKE.volt);
}

/** Whether two outcomes leave every part about where the other does. */
function sameStep(a: readonly number[], b: ArrayLike<number>): boolean {
  return a.every((share, g) => Math.abs(share - b[g]!) <= SAME_STEP);
}

/** What a reading would tell apart, and what it costs. */
function reasonFor(prospects: readonly Prospect[], gainBits: number, minutes: number): string {
  const leaders = [...new Set(prospects.flatMap(({ leading }) => leading[0]?.ref ?? []))].map(
    (ref) => (ref === 'healthy' ? 'a sound board' : ref),
  );
  const tells =
    leaders.length > 1
      ? `tells ${leaders[0]} from ${leaders.slice(1, 3).join(' and ')}`
      : leaders.length === 1
        ? `bears on ${leaders[0]}`
        : 'narrows the field';
  return `${tells}; ${gainBits.toFixed(1)} bit for ${minutesInWords(minutes)}`;
}

/** An outcome on the natural scale in words: `12.10 V`, `OL`, `beep`. */
const describeOutcome = (kind: ReadingKind, centre: number): string =>
  outcomeReadout(kind, centre).display;

/** An outcome on the natural scale as the meter shows it. */
function outcomeReadout(kind: ReadingKind, centre: number): Readout {
  const value = unscaledValue(kind, centre);
  const fullScale = kind === 'resistance' ? ohmRange(value) : voltRange(value);
  const pulsing = kind === 'logic' && centre > PULSING_AT / 2;
  return readout(kind, {
    value: fullScale === Infinity ? Infinity : value,
    spread: 0,
    fullScale,
    ...(pulsing ? { pulsing } : {}),
  });
}
