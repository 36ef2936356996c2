// npm run bench: how long the engine takes on generated drive boards of several sizes, one thread; and, where Debian's ngspice is installed, the same fault sweep
// by it in one process. Sizes may be given: npm run bench -- 50 100
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { indexBoard, writeDeck, type Board, type BoardIndex } from '@hanzai/core/board';
import { Diagnoser, esrSurvey } from '@hanzai/core/diagnosis';
import type { SingleHypothesis } from '@hanzai/core/fault';
import { BenchState, resolveMeasurement, type Measurement, type Reading } from '@hanzai/core/instrument';
import { candidateMeasurements, planNext } from '@hanzai/core/plan';
import { RATES } from '@hanzai/data';
import { driveBoard } from './drive-board';

const sizes = process.argv.slice(2).map(Number).filter(Boolean);
const SIZES = sizes.length > 0 ? sizes : [50, 100, 300, 1000];

function timed<T>(work: () => T): [T, number] {
  const started = performance.now();
  const result = work();
  return [result, performance.now() - started];
}

function measure(index: BoardIndex, kind: string, at: string): Measurement {
  const result = resolveMeasurement(index, '', kind, at, '');
  if (!result.ok) throw new Error(result.what);
  return result.measurement;
}

/** Readings off a board on which one electrolytic behind the regulator has shorted, at its middle severity. */
function session(index: BoardIndex, { space }: Diagnoser): Reading[] {
  const truth = space.hypotheses.find(({ name }) => name === 'C3:short')!;
  const faults = [{ fault: truth.fault, severity: truth.severities[truth.severities.length >> 1]! }];
  return (
    [
      ['voltage', 'V12'],
      ['voltage', 'V5'],
      ['resistance', 'V5'],
      ['voltage', 'VF'],
    ] as const
  ).map(([kind, at]) => {
    const measurement = measure(index, kind, at);
    const response = new BenchState(index, { setup: measurement.setup, faults, absent: [] }).respond(measurement);
    if ('ok' in response) throw new Error(response.why);
    return { measurement, value: response.value };
  });
}

const show = (milliseconds: number): string => (milliseconds >= 1000 ? `${(milliseconds / 1000).toFixed(1)} s` : `${milliseconds.toFixed(1)} ms`);

function row([parts, discrete]: readonly [number, boolean]): string[] {
  const index = indexBoard(driveBoard(parts, 7, discrete));
  const diagnoser = new Diagnoser(index, RATES);
  const candidates = candidateMeasurements(index);
  const readings = session(index, diagnoser);
  // The dictionary: every fault of the board, every severity, solved in the powered setup and asked for its first reading.
  const [, dictionary] = timed(() => diagnoser.believe(readings.slice(0, 1)));
  const [, off] = timed(() => diagnoser.believe(readings.slice(0, 3)));
  const [belief, ranking] = timed(() => diagnoser.believe(readings));
  const [, next] = timed(() => planNext(diagnoser, readings, belief));
  const [, again] = timed(() => planNext(diagnoser, readings, belief));
  const [, survey] = timed(() => esrSurvey(index));
  const memory = `${Math.round(process.memoryUsage().heapUsed / 1e6)} MB`;
  return [`${index.board.parts.length}${discrete ? ' discrete' : ''}`, String(index.nets.length), String(diagnoser.space.hypotheses.length), String(candidates.length), show(dictionary), show(off), show(ranking), show(next), show(again), show(survey), memory]; // prettier-ignore
}

const HEAD = ['parts', 'nets', 'faults', 'readings', 'dictionary', 'off setup', 'reading', 'next', 'next again', 'ESR survey', 'heap'];

function print(rows: readonly (readonly string[])[]): void {
  const widths = HEAD.map((_, i) => Math.max(...rows.map((cells) => cells[i]!.length)) + 2);
  for (const cells of rows) process.stdout.write(`${cells.map((cell, i) => cell.padStart(widths[i]!)).join('')}\n`);
}

/** The same sweep of resistor and capacitor faults by the engine and by the simulator: volts of one net under each. */
function sweep(board: Board): void {
  const index = indexBoard(board);
  const m = measure(index, 'voltage', 'V5');
  const diagnoser = new Diagnoser(index, RATES);
  const faults = diagnoser.space.hypotheses.filter((h): h is SingleHypothesis => h.fault.type === 'mode' && h.fault.part.kind === 'resistor');
  const [ours, mine] = timed(() => {
    diagnoser.predictor.healthy(m);
    return faults.map((h) => diagnoser.predictor.at(h, h.severities.length >> 1, m).value);
  });
  if (!existsSync('/usr/bin/ngspice')) return void process.stdout.write('\nngspice is not installed: no comparison\n');
  const folder = mkdtempSync(join(tmpdir(), 'sweep-'));
  const steps = faults.map((h) => {
    const part = h.fault.type === 'mode' ? h.fault.part : undefined;
    const healthy = part?.kind === 'resistor' ? part.resistanceOhm : 1;
    const amount = h.severities[h.severities.length >> 1]!;
    const mode = h.name.split(':')[1];
    const faulty = mode === 'open' ? healthy + amount : mode === 'short' ? 1 / (1 / healthy + 1 / amount) : healthy * amount;
    return `alter ${part!.ref} ${faulty}\nop\nprint v(v5)\nalter ${part!.ref} ${healthy}`;
  });
  const ohms = new Map(board.parts.flatMap((part): [string, number][] => (part.kind === 'inductor' ? [[part.ref, part.dcResistanceOhm ?? 1e-6]] : part.kind === 'fuse' ? [[part.ref, 0.05]] : part.kind === 'connectorPin' ? [[part.ref, 0.02]] : []))); // prettier-ignore
  const deck = writeDeck(board).replace(/\.end\s*$/, '').replace(/^X?([FJL]\S*) (\S+) (\S+) \S+$/gm, (line: string, ref: string, a: string, b: string) => (ohms.has(ref) ? `R${ref} ${a} ${b} ${ohms.get(ref)}` : line)); // prettier-ignore
  writeFileSync(join(folder, 'sweep.cir'), `${deck}.control\n${steps.join('\n')}\n.endc\n.end\n`);
  const [{ stdout: text }, theirs] = timed(() => spawnSync('ngspice', ['-b', join(folder, 'sweep.cir')], { encoding: 'utf8', maxBuffer: 1e9 }));
  rmSync(folder, { recursive: true });
  const volts = [...text.matchAll(/v\(v5\) = (\S+)/g)].map((match) => Number(match[1]));
  const worst = Math.max(...volts.map((volt, i) => Math.abs(volt - ours[i]!)));
  process.stdout.write(`\nfault sweep, ${index.board.parts.length} discrete parts, ${faults.length} faults: engine ${show(mine)}, simulator ${show(theirs)}, ratio ${(theirs / mine).toFixed(0)}; `); // prettier-ignore
  process.stdout.write(`${volts.length} values compared, largest difference ${(1000 * worst).toFixed(1)} mV\n`);
}

print([HEAD, ...SIZES.flatMap((parts) => [[parts, false], ...(parts === 300 ? [[parts, true]] : [])] as [number, boolean][]).map(row)]);
sweep(driveBoard(300, 7, true));
