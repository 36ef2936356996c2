// npm run calibrate: injects random faults with noise into the demo boards and compares stated
// probabilities with what was so. Writes docs/calibration.md. Board values vary within tolerance,
// severities are drawn from their range, readings carry the meter's error. Seeds are fixed.
import { writeFileSync } from 'node:fs';
import { indexBoard, isInsidePackage, type Board, type BoardIndex } from '@hanzai/core/board';
import { Diagnoser, logLikelihood, scaled, type Belief } from '@hanzai/core/diagnosis';
import { parseFault, type FaultState, type SingleHypothesis } from '@hanzai/core/fault';
import {
  BenchState,
  measurementKey,
  pointText,
  resolveMeasurement,
  type Measurement,
  type Reading,
} from '@hanzai/core/instrument';
import { candidateMeasurements } from '@hanzai/core/plan';
import {
  fixedChoice,
  indistinguishable,
  plannerChoice,
  readingsToIsolate,
  readOff,
  seeded,
  variedBoard,
} from '@hanzai/core/practice';
import { RATES } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';

const SINGLES = Number(process.env.SINGLES ?? 90);
const DOUBLES = Number(process.env.DOUBLES ?? 15);
const SEARCHES = Number(process.env.SEARCHES ?? 12);
const FEW_READINGS = 12;
/**
 * A fault can be seen, beside others too, where it makes the readings ten times as likely, nats.
 */
const SHOWS_NATS = Math.log(10);
/**
 * Two suspects are on a level where the readings speak for one no more than this against the other,
 * nats.
 */
const LEVEL_NATS = 2;

/**
 * Large boards take their share of the faults only: with every candidate reading one of them costs
 * up to half a minute there.
 */
function shareFor(faults: number): number {
  return faults > 1000 ? 1 / 8 : faults > 500 ? 1 / 2 : 1;
}

const uniform = seeded(20261124);

/** Reads every measurement off a varied board with these faults. */
function bench(
  board: Board,
  faults: readonly { name: string; severity: number }[],
  measurements: readonly Measurement[],
): (Reading | undefined)[] {
  const index = indexBoard(variedBoard(board, uniform));
  const states = new Map<string, BenchState>();
  const parsed = faults.map(({ name, severity }) => {
    const result = parseFault(index, name);
    if (!result.ok) throw new Error(result.what);
    return { fault: result.fault, severity };
  });
  return measurements.map((m) => {
    const there = resolveMeasurement(
      index,
      m.setup,
      m.kind,
      m.kind === 'symptom' ? m.at.net : pointText(m.at),
      m.kind === 'symptom' ? '' : pointText(m.to),
    );
    if (!there.ok) throw new Error(there.what);
    let own = states.get(m.setup);
    if (!own)
      states.set(
        m.setup,
        (own = new BenchState(index, { setup: m.setup, faults: parsed, absent: [] })),
      );
    const response = own.respond(there.measurement);
    const value = 'ok' in response ? undefined : readOff(m, response, uniform);
    return value === undefined ? undefined : { measurement: m, value };
  });
}

/** Draws a hypothesis by its prior. */
function draw(hypotheses: readonly SingleHypothesis[]): SingleHypothesis {
  const total = hypotheses.reduce((sum, { prior }) => sum + prior, 0);
  let left = uniform() * total;
  return hypotheses.find(({ prior }) => (left -= prior) <= 0) ?? hypotheses.at(-1)!;
}

function severityOf({ severities, discrete }: SingleHypothesis): number {
  if (discrete || severities.length === 1)
    return severities[Math.floor(uniform() * severities.length)]!;
  return severities[0]! * (severities.at(-1)! / severities[0]!) ** uniform();
}

/** A few of the measurements at random, each once. */
function some<T>(list: readonly T[], count: number): T[] {
  const rest = [...list];
  return Array.from(
    { length: Math.min(count, rest.length) },
    () => rest.splice(Math.floor(uniform() * rest.length), 1)[0]!,
  );
}

/**
 * Suspects that the readings leave on a level with the first: same likelihood but for the prior.
 */
function alike(belief: Belief): Set<string> {
  const weigh = ({ hypothesis, probability }: Belief['suspects'][number]): number =>
    Math.log(probability / hypothesis.prior);
  const top = weigh(belief.suspects[0]!);
  return new Set(
    belief.suspects
      .slice(0, 200)
      .filter((s) => weigh(s) > top - LEVEL_NATS)
      .flatMap(({ hypothesis }) => hypothesis.refs),
  );
}

/** Log-likelihood of readings for the nominal board with exactly these faults. */
function evidence(
  index: BoardIndex,
  faults: readonly FaultState[],
  readings: readonly Reading[],
  voltSpan: number,
): number {
  const states = new Map<string, BenchState>();
  return readings.reduce((sum, { measurement: m, value }) => {
    let own = states.get(m.setup);
    if (!own)
      states.set(m.setup, (own = new BenchState(index, { setup: m.setup, faults, absent: [] })));
    const response = own.respond(m);
    return (
      sum +
      logLikelihood(
        m.kind,
        value,
        'ok' in response
          ? { y: 0, sigma: 1, overload: false, unknown: true }
          : scaled(m.kind, response),
        voltSpan,
      )
    );
  }, 0);
}

/**
 * Whether each of the faults can be seen beside the others: without it the readings would be a good
 * deal less likely.
 */
function eachShows(
  diagnoser: Diagnoser,
  faults: readonly FaultState[],
  readings: readonly Reading[],
): boolean {
  const whole = evidence(diagnoser.index, faults, readings, diagnoser.voltSpan);
  return faults.every(
    (one) =>
      whole -
        evidence(
          diagnoser.index,
          faults.filter((other) => other !== one),
          readings,
          diagnoser.voltSpan,
        ) >
      SHOWS_NATS,
  );
}

/** Points on a suspect's range of severities at which it is held against the truth. */
const POINTS = 17;

/**
 * Whether the readings leave the true fault on a level with this suspect at the severity that suits
 * that best: then nothing on this board tells the two apart.
 */
function isLevelWith(
  diagnoser: Diagnoser,
  truth: FaultState,
  { hypothesis }: Belief['suspects'][number],
  readings: readonly Reading[],
): boolean {
  if (hypothesis.type === 'joint') return false;
  const { fault, severities, discrete } = hypothesis;
  const [low, high] = [severities[0]!, severities.at(-1)!];
  const points =
    discrete || low === high
      ? severities
      : Array.from({ length: POINTS }, (_, i) => low * (high / low) ** (i / (POINTS - 1)));
  const own = evidence(diagnoser.index, [truth], readings, diagnoser.voltSpan);
  const best = Math.max(
    ...points.map((severity) =>
      evidence(diagnoser.index, [{ fault, severity }], readings, diagnoser.voltSpan),
    ),
  );
  return Math.abs(best - own) <= LEVEL_NATS;
}

interface Tally {
  singles: number;
  right: number;
  visible: number;
  doubles: number;
  shown: number;
  both: number;
  searches: number;
  planned: number;
  fixed: number;
  seconds: number;
}
const stated: { probability: number; right: boolean }[] = [];
const rows: [string, Tally][] = [];

for (const name of Object.keys(DEMO_BOARD_FILES) as (keyof typeof DEMO_BOARD_FILES)[]) {
  if (process.env.ONLY && !process.env.ONLY.split(',').includes(name)) continue;
  const board = demoBoard(name);
  const index: BoardIndex = indexBoard(board);
  const started = performance.now();
  const diagnoser = new Diagnoser(index, RATES);
  const measurements = candidateMeasurements(index);
  const faults = diagnoser.space.hypotheses.filter(
    ({ fault }) => fault.type !== 'mode' || !isInsidePackage(fault.part.ref),
  );
  const tally: Tally = {
    singles: 0,
    right: 0,
    visible: 0,
    doubles: 0,
    shown: 0,
    both: 0,
    searches: 0,
    planned: 0,
    fixed: 0,
    seconds: 0,
  };
  const share = shareFor(faults.length);
  for (let n = 0; n < SINGLES * share; n += 1) {
    const truth = draw(faults);
    const fault = { name: truth.name, severity: severityOf(truth) };
    const all = bench(board, [fault], measurements).filter((reading) => reading !== undefined);
    const few = diagnoser.believe(some(all, FEW_READINGS));
    for (const { ref, probability } of few.byPart.slice(0, 3))
      stated.push({ probability, right: truth.refs.includes(ref) });
    const full = diagnoser.believe(all);
    tally.singles += 1;
    // A fault that no reading on the board can see is not a miss of the engine.
    const state = { fault: truth.fault, severity: fault.severity };
    if (!eachShows(diagnoser, [state], all)) continue;
    tally.visible += 1;
    if (
      truth.refs.some((ref) => alike(full).has(ref)) ||
      isLevelWith(diagnoser, state, full.suspects[0]!, all)
    )
      tally.right += 1;
    else if (process.env.SHOW)
      process.stderr.write(
        `${name} ${fault.name} ${fault.severity.toPrecision(3)}: ${full.suspects
          .slice(0, 3)
          .map((s) => `${s.hypothesis.name} ${s.probability.toFixed(2)}`)
          .join(', ')}; unmodelled ${full.unmodelled.toFixed(2)}\n`,
      );
  }
  for (let n = 0; n < DOUBLES * share; n += 1) {
    const a = draw(faults);
    let b = draw(faults);
    while (b.refs[0] === a.refs[0]) b = draw(faults);
    const both = [a, b].map((h) => ({ name: h.name, severity: severityOf(h) }));
    const all = bench(board, both, measurements).filter((reading) => reading !== undefined);
    tally.doubles += 1;
    if (
      !eachShows(
        diagnoser,
        [a, b].map(({ fault }, i) => ({ fault, severity: both[i]!.severity })),
        all,
      )
    )
      continue;
    const belief = diagnoser.believe(all);
    const first = belief.byPart.slice(0, 3).map(({ ref }) => ref);
    const level = alike(belief);
    tally.shown += 1;
    if ([a, b].every(({ refs }) => refs.some((ref) => first.includes(ref) || level.has(ref))))
      tally.both += 1;
    else if (process.env.SHOW)
      process.stderr.write(
        `${name} double ${a.name} + ${b.name}: ${belief.suspects
          .slice(0, 3)
          .map((s) => `${s.hypothesis.name} ${s.probability.toFixed(2)}`)
          .join(', ')}\n`,
      );
  }
  const symptoms = measurements.filter(({ kind }) => kind === 'symptom').slice(0, 2);
  for (
    let n = 0;
    symptoms.length === 2 && faults.length < 1000 && tally.searches < SEARCHES && n < 12 * SEARCHES;
    n += 1
  ) {
    const truth = draw(faults);
    const severity = severityOf(truth);
    const all = bench(board, [{ name: truth.name, severity }], measurements);
    const first = all.filter(
      (reading) => reading && symptoms.includes(reading.measurement),
    ) as Reading[];
    // What the owner could not have noticed brings no unit to the bench, and what no reading shows
    // cannot be found.
    if (
      first.every(
        ({ measurement, value }) =>
          (diagnoser.predictor.healthy(measurement).value >= 0.5 ? 'yes' : 'no') === value,
      )
    )
      continue;
    const nearest = truth.severities.reduce(
      (best, one, i) =>
        Math.abs(Math.log(one / severity)) < Math.abs(Math.log(truth.severities[best]! / severity))
          ? i
          : best,
      0,
    );
    const alikes = indistinguishable(diagnoser, truth, nearest, measurements);
    const whole = diagnoser.believe(all.filter((reading) => reading !== undefined));
    if (
      whole.byPart.reduce(
        (share, { ref, probability }) => share + (alikes.has(ref) ? probability : 0),
        0,
      ) < 0.9
    )
      continue;
    const read = (m: Measurement): Reading | undefined =>
      all[measurements.findIndex((one) => measurementKey(one) === measurementKey(m))];
    const count = (choose: ReturnType<typeof fixedChoice>): number =>
      readingsToIsolate(diagnoser, first, alikes, read, choose, measurements.length);
    const [planned, fixed] = [count(plannerChoice(diagnoser)), count(fixedChoice(index))];
    if (process.env.SHOW)
      process.stderr.write(
        `${name} search ${truth.name} ${severity.toPrecision(3)} (${alikes.size} alike): planned ${planned}, fixed ${fixed}\n`,
      );
    tally.searches += 1;
    tally.planned += planned;
    tally.fixed += fixed;
  }
  tally.seconds = (performance.now() - started) / 1000;
  rows.push([board.title, tally]);
  process.stdout.write(
    `${board.title}: ${tally.right}/${tally.visible} visible of ${tally.singles} singles, ${tally.both}/${tally.shown} shown of ${tally.doubles} doubles, ${tally.planned} planned readings against ${tally.fixed} in a fixed order for ${tally.searches} searches, ${tally.seconds.toFixed(0)} s\n`,
  );
}

const BINS = 10;
const bins = Array.from({ length: BINS }, () => ({ count: 0, stated: 0, right: 0 }));
for (const { probability, right } of stated) {
  const bin = bins[Math.min(BINS - 1, Math.floor(probability * BINS))]!;
  bin.count += 1;
  bin.stated += probability;
  bin.right += right ? 1 : 0;
}
const error = bins.reduce((sum, bin) => sum + Math.abs(bin.stated - bin.right), 0) / stated.length;
const sum = (key: keyof Tally): number => rows.reduce((total, [, tally]) => total + tally[key], 0);
const percent = (part: number, whole: number): string =>
  whole === 0 ? '' : `${((100 * part) / whole).toFixed(1)} %`;
const text = `# Calibration of the diagnosis

Made by \`npm run calibrate\`, seeds fixed. On the demo boards listed random single faults are drawn by their priors, severities from their range, all parts within tolerance, readings with the
meter's error. "Right" means: with every candidate reading taken, the true part is among those that the readings leave on a level with the first, or at its true severity on a level with the first suspect at that
one's best (within a factor of seven of likelihood, either way). A fault counts as visible, and a double fault where each of the two does beside the other, where without it the readings would be less than a tenth as likely.

| board | single faults | visible | right | double faults | each shows | both among the first three |
| --- | --- | --- | --- | --- | --- | --- |
${rows.map(([title, t]) => `| ${title} | ${t.singles} | ${t.visible} | ${t.right} (${percent(t.right, t.visible)}) | ${t.doubles} | ${t.shown} | ${t.both} (${percent(t.both, t.shown)}) |`).join('\n')}
| all | ${sum('singles')} | ${sum('visible')} | ${sum('right')} (${percent(sum('right'), sum('visible'))}) | ${sum('doubles')} | ${sum('shown')} | ${sum('both')} (${percent(sum('both'), sum('shown'))}) |

## From two symptoms to the part

Single faults that the first two symptoms of a board show, all parts within tolerance. Readings until the true part, with those that no reading tells from it, has nine tenths of the belief:
the planner's choice against a fixed order (rails, supply path, ESR, the rest).

| board | searches | planner | fixed order | share |
| --- | --- | --- | --- | --- |
${rows
  .filter(([, t]) => t.searches > 0)
  .map(
    ([title, t]) =>
      `| ${title} | ${t.searches} | ${t.planned} | ${t.fixed} | ${percent(t.planned, t.fixed)} |`,
  )
  .join('\n')}
| all | ${sum('searches')} | ${sum('planned')} | ${sum('fixed')} | ${percent(sum('planned'), sum('fixed'))} |

## Reliability

The three likeliest parts after ${FEW_READINGS} random readings each: how probable they were said to be, and how often they were it. Expected calibration error ${(100 * error).toFixed(1)} %.

| stated | cases | mean stated | it was so |
| --- | --- | --- | --- |
${bins.map((bin, i) => (bin.count === 0 ? '' : `| ${i * 10} to ${i * 10 + 10} % | ${bin.count} | ${percent(bin.stated, bin.count)} | ${percent(bin.right, bin.count)} |\n`)).join('')}`;
writeFileSync(process.env.OUT ?? new URL('../docs/calibration.md', import.meta.url), text);
process.stdout.write(
  `${stated.length} statements, expected calibration error ${(100 * error).toFixed(1)} %\n`,
);
