import { writeFileSync } from 'node:fs';
import {
  formatOf,
  readBoardFile,
  setupNames,
  type BoardIndex,
  type Setup,
} from '@hanzai/core/board';
import { parseFaultState, type FaultState } from '@hanzai/core/fault';
import {
  BenchState,
  ReadingKind,
  readout,
  readReadingsFile,
  readStepsFile,
  resolveMeasurement,
  stepThrough,
  type Reading,
} from '@hanzai/core/instrument';
import { diagnose, symptomTable } from '@hanzai/core/diagnosis';
import { nextMeasurements } from '@hanzai/core/plan';
import { surveyCapacitors } from '@hanzai/core/survey';
import { formatQuantity } from '@hanzai/core/quantity';
import { LIBRARY, RATES } from '@hanzai/data';
import { InputError, readArguments, UsageError, type Arguments } from './arguments';
import { contextOf } from './context';
import { issueLines, loadBoard, readText } from './files';

/** What a verb prints: an object with --json, lines of text without. */
export interface Output {
  readonly json: unknown;
  readonly text: string;
}

function expectPositionals(
  args: Arguments,
  names: string,
  least: number,
  most: number,
): readonly string[] {
  if (args.positionals.length < least || args.positionals.length > most)
    throw new UsageError(`expected ${names}`);
  return args.positionals;
}

function faultsOf(index: BoardIndex, names: readonly string[]): FaultState[] {
  return names.map((name) => {
    const result = parseFaultState(index, name);
    if (!result.ok) throw new InputError(`${result.what}; expected ${result.expected}`);
    return result.state;
  });
}

function setupOf(index: BoardIndex, text = 'on'): Setup {
  const names = setupNames(index.board);
  if (!names.includes(text))
    throw new InputError(`unknown setup "${text}"; expected ${names.join(', ')}`);
  return text;
}

/** solve BOARD [--setup on|off] [--fault REF:mode]… [--steps FILE] */
export function solve(words: readonly string[]): Output {
  const args = readArguments(words, ['setup', 'fault', 'steps']);
  const [file] = expectPositionals(args, 'solve BOARD', 1, 1) as [string];
  const index = loadBoard(file);
  const setup = setupOf(index, args.text('setup'));
  const faults = faultsOf(index, args.list('fault'));
  const stepsFile = args.text('steps');
  if (stepsFile !== undefined) return solveSteps(file, index, faults, stepsFile);
  const state = new BenchState(index, { setup, faults, absent: [] });
  const nets = state.netVolts();
  if ('ok' in nets && nets.ok === false)
    throw new InputError(`${file}: no solution: ${String(nets.why)} at ${String(nets.at)}`);
  const volts = nets as Record<string, number | null>;
  const { contentions, oscillating } = state.troubles();
  const remarks = [
    ...contentions.map(
      ({ net, low, high }) => `${net}: ${low.join(', ')} pull low against ${high.join(', ')}`,
    ),
    ...(oscillating.length > 0 ? [`never at rest: ${oscillating.join(', ')}`] : []),
  ];
  const json = {
    setup,
    nets: volts,
    ...(contentions.length > 0 ? { contentions } : {}),
    ...(oscillating.length > 0 ? { oscillating } : {}),
  };
  return { json, text: [...voltLines(volts), ...remarks].join('\n') };
}

function solveSteps(
  file: string,
  index: BoardIndex,
  faults: readonly FaultState[],
  stepsFile: string,
): Output {
  const read = readStepsFile(index, readText(stepsFile));
  if (!read.ok) throw new InputError(issueLines(stepsFile, read.issues));
  const result = stepThrough(index, read.value, faults);
  if (!result.ok)
    throw new InputError(
      `${file}: no solution in step ${result.step}: ${result.why} at ${result.at}`,
    );
  return {
    json: { steps: result.steps },
    text: result.steps.flatMap(({ step, nets }) => [`step ${step}`, ...voltLines(nets)]).join('\n'),
  };
}

function voltLines(nets: Readonly<Record<string, number | null>>): string[] {
  return Object.entries(nets).map(
    ([net, volt]) => `${net.padEnd(16)} ${volt === null ? 'no level' : formatQuantity(volt, 'V')}`,
  );
}

/** read BOARD KIND AT [TO] [--fault REF:mode]… */
export function read(words: readonly string[]): Output {
  const args = readArguments(words, ['fault', 'setup']);
  const [file, kind, at, to] = expectPositionals(args, 'read BOARD KIND AT [TO]', 3, 4) as [
    string,
    string,
    string,
    string?,
  ];
  const index = loadBoard(file);
  const resolved = resolveMeasurement(index, args.text('setup') ?? '', kind, at, to ?? '');
  if (!resolved.ok) throw new InputError(`${resolved.what}; expected ${resolved.expected}`);
  const m = resolved.measurement;
  const response = new BenchState(index, {
    setup: m.setup,
    faults: faultsOf(index, args.list('fault')),
    absent: [],
  }).respond(m);
  if ('ok' in response)
    throw new InputError(`${file}: no solution: ${response.why} at ${response.at}`);
  const shown = readout(m.kind, response);
  const band =
    typeof shown.low === 'number'
      ? `  band ${formatQuantity(shown.low, shown.unit)} to ${shown.high === 'OL' ? 'OL' : formatQuantity(shown.high ?? 0, shown.unit)}`
      : '';
  return { json: { kind: m.kind, at, to: to ?? '', ...shown }, text: `${shown.display}${band}` };
}

function readingsOf(index: BoardIndex, file: string): readonly Reading[] {
  const result = readReadingsFile(index, readText(file));
  if (!result.ok) throw new InputError(issueLines(file, result.issues));
  return result.value;
}

/** What `diagnose` and `survey` ask for: BOARD --readings FILE */
function boardAndReadings(
  words: readonly string[],
  verb: string,
  more: readonly string[] = [],
): { readonly index: BoardIndex; readonly readings: readonly Reading[]; readonly args: Arguments } {
  const args = readArguments(words, ['readings', ...more]);
  const [file] = expectPositionals(args, `${verb} BOARD --readings FILE`, 1, 1) as [string];
  const readingsFile = args.text('readings');
  if (readingsFile === undefined && !(more.includes('context') && args.text('context')))
    throw new UsageError('expected --readings FILE');
  const index = loadBoard(file);
  return {
    index,
    readings: readingsFile === undefined ? [] : readingsOf(index, readingsFile),
    args,
  };
}

/** diagnose BOARD --readings FILE [--context FILE] */
export function diagnoseBoard(words: readonly string[]): Output {
  const { index, readings, args } = boardAndReadings(words, 'diagnose', ['context']);
  const context = contextOf(index, args.text('context'));
  const belief = diagnose(index, readings, RATES, context?.factor);
  const json = {
    suspects: belief.suspects.map((suspect) => ({
      faults: suspect.hypothesis.faults,
      probability: suspect.probability,
    })),
    byPart: belief.byPart.map(({ ref, probability }) => ({ ref, probability })),
    healthy: belief.healthy,
    unmodelled: belief.unmodelled,
    ...(context ? { unit: context.unit, blocks: context.blocks } : {}),
  };
  const percent = (p: number): string => `${(100 * p).toFixed(1).padStart(5)} %`;
  const lines = json.suspects
    .slice(0, 12)
    .map((s) => `${percent(s.probability)}  ${s.faults.join(' + ')}`);
  return {
    json,
    text: [
      ...lines,
      `${percent(json.healthy)}  healthy`,
      `${percent(json.unmodelled)}  none of these`,
    ].join('\n'),
  };
}

/** survey BOARD --readings FILE: every capacitor judged by its ESR; BOARD may be a parts list */
export function survey(words: readonly string[]): Output {
  const { index, readings } = boardAndReadings(words, 'survey');
  const capacitors = surveyCapacitors(index, readings, RATES);
  const lines = capacitors.map(
    ({ ref, verdict, probabilityBad, because }) =>
      `${ref.padEnd(6)} ${verdict.padEnd(12)} ${(100 * probabilityBad).toFixed(0).padStart(3)} %  ${because}`,
  );
  return { json: { capacitors }, text: lines.join('\n') };
}

/** next BOARD [--readings FILE] [--allow voltage,esr,…] [--top N] [--context FILE] */
export function next(words: readonly string[]): Output {
  const args = readArguments(words, ['readings', 'allow', 'top', 'context']);
  const [file] = expectPositionals(args, 'next BOARD', 1, 1) as [string];
  const index = loadBoard(file);
  const readingsFile = args.text('readings');
  const readings = readingsFile === undefined ? [] : readingsOf(index, readingsFile);
  const allow = args
    .text('allow')
    ?.split(',')
    .map((kind) => {
      const parsed = ReadingKind.safeParse(kind.trim());
      if (!parsed.success)
        throw new InputError(
          `--allow: unknown kind "${kind}"; expected ${ReadingKind.options.join(', ')}`,
        );
      return parsed.data;
    });
  const top = Number(args.text('top') ?? 10);
  if (!Number.isInteger(top) || top < 1)
    throw new UsageError('--top: expected a whole number above zero');
  const plan = nextMeasurements(
    index,
    readings,
    RATES,
    { most: top, ...(allow ? { allow } : {}) },
    contextOf(index, args.text('context'))?.factor,
  );
  const measurements = plan.measurements
    .slice(0, top)
    .map(({ setup, kind, at, to, gainBits, minutes, reason }) => ({
      setup,
      kind,
      at,
      to,
      gainBits,
      minutes,
      reason,
    }));
  const lines = measurements.map(
    (m) =>
      `${m.gainBits.toFixed(2)} bit  ${m.minutes.toFixed(1)} min  ${m.setup.padEnd(8)} ${m.kind.padEnd(10)} ${m.at} ${m.to || 'to ground'}  (${m.reason})`,
  );
  const touches = plan.touches.map(({ touch, setup, kind, at, to, gainBits, minutes }) => ({
    ...touch,
    minutes,
    then: { setup, kind, at, to },
    gainBits,
  }));
  const touched = touches.map(
    (t) =>
      `${t.gainBits.toFixed(2)} bit  ${t.minutes.toFixed(1)} min  ${t.title}, then ${t.then.kind} ${t.then.at} ${t.then.to || 'to ground'}`,
  );
  const replace = plan.replace.map(
    (r) => `replace ${r.ref}: ${(100 * r.probability).toFixed(1)} %`,
  );
  const work = plan.actions
    .filter(({ kind }) => kind !== 'measure')
    .map((a) => `${a.title} (${a.reason})`);
  return {
    json: {
      state: plan.state,
      measurements,
      replace: plan.replace,
      actions: plan.actions,
      touches,
      exhausted: plan.exhausted,
      takes: plan.takes,
    },
    text: [
      plan.state,
      ...lines,
      ...touched,
      ...replace,
      ...work,
      ...plan.takes.map((words) => `it would take: ${words}`),
    ].join('\n'),
  };
}

/** symptoms BOARD: what each observable's going wrong would point at */
export function symptoms(words: readonly string[]): Output {
  const args = readArguments(words, ['top']);
  const [file] = expectPositionals(args, 'symptoms BOARD', 1, 1) as [string];
  const index = loadBoard(file);
  if ((index.board.observables ?? []).length === 0)
    throw new InputError(
      `${file}: the board names no observables; expected "observables" in Board JSON`,
    );
  const top = Number(args.text('top') ?? 8);
  if (!Number.isInteger(top) || top < 1)
    throw new UsageError('--top: expected a whole number above zero');
  const rows = symptomTable(index, RATES).map((row) => ({
    ...row,
    suspects: row.suspects.slice(0, top),
  }));
  const lines = rows.flatMap(({ title, healthy, suspects }) => [
    `${title}: ${healthy === 'yes' ? 'not so' : 'so'}`,
    ...suspects.map(
      ({ ref, probability }) => `  ${(100 * probability).toFixed(1).padStart(5)} %  ${ref}`,
    ),
  ]);
  return { json: { symptoms: rows }, text: lines.join('\n') };
}

/** convert IN OUT */
export function convert(words: readonly string[]): Output {
  const args = readArguments(words, []);
  const [from, to] = expectPositionals(args, 'convert IN OUT', 2, 2) as [string, string];
  const target = formatOf(to);
  if (!target?.write)
    throw new InputError(
      `${to}: no kind of file that is written; expected a name ending in .json, .cir, .ipc, .csv or .sheet`,
    );
  const result = readBoardFile(from, readText(from), LIBRARY);
  if (!result.ok) throw new InputError(issueLines(from, result.issues));
  for (const note of result.notes.slice(0, 20)) process.stderr.write(`${from}: note: ${note}\n`);
  try {
    writeFileSync(to, target.write(result.value, LIBRARY));
  } catch (error) {
    throw new InputError(
      `${to}: cannot be written (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`,
    );
  }
  const { report } = result;
  const boxes = report?.filter(({ became }) => became !== 'understood') ?? [];
  return {
    json: { from, to, parts: result.value.parts.length, ...(report ? { report } : {}) },
    text: [
      `${to}: ${result.value.parts.length} parts`,
      ...boxes.map(({ ref, as, why }) => `  ${ref}: ${as}${why ? ` (${why})` : ''}`),
    ].join('\n'),
  };
}
