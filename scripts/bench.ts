// npm run bench: how long the engine takes on generated drive boards of several sizes, one thread, by itself and in a web worker of Debian's Chromium where that is
// installed; and, where Debian's ngspice is, the same fault sweep by it in one process. Sizes may be given: npm run bench -- 50 100
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import { build, type Rollup } from 'vite';
import { indexBoard, writeDeck, type Board } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import type { SingleHypothesis } from '@hanzai/core/fault';
import { RATES } from '@hanzai/data';
import { benchBoard, measure, timed, type BenchRow } from './bench-board';
import { driveBoard } from './drive-board';

const CHROMIUM = '/usr/bin/chromium';
const NGSPICE = '/usr/bin/ngspice';
const sizes = process.argv.slice(2).map(Number).filter(Boolean);
const BOARDS = (sizes.length > 0 ? sizes : [50, 100, 300, 1000]).flatMap((parts): [number, boolean][] => [[parts, false], ...(parts === 300 ? [[parts, true] as [number, boolean]] : [])]); // prettier-ignore

const show = (milliseconds: number): string => (milliseconds >= 1000 ? `${(milliseconds / 1000).toFixed(1)} s` : `${milliseconds.toFixed(0)} ms`);

const HEAD = ['parts', 'nets', 'faults', 'readings', 'dictionary', 'of it 900', 'off setup', 'first plan', 'reading', 'its plan', 'ESR survey', 'memory'];

function cells(row: BenchRow, memory: string): string[] {
  const { parts, discrete, nets, faults, readings, dictionary, off, firstPlan, reading, plan, esrSurvey } = row;
  const times = [dictionary, (dictionary * 900) / faults, off, firstPlan, reading, plan, esrSurvey].map(show);
  return [`${parts}${discrete ? ' discrete' : ''}`, `${nets}`, `${faults}`, `${readings}`, ...times, memory];
}

function print(title: string, rows: readonly (readonly string[])[]): void {
  const all = [HEAD, ...rows];
  const widths = HEAD.map((_, i) => Math.max(...all.map((row) => row[i]!.length)) + 2);
  process.stdout.write(`\n${title}\n`);
  for (const row of all) process.stdout.write(`${row.map((cell, i) => cell.padStart(widths[i]!)).join('')}\n`);
}

/** What is held after a collection, arrays outside the heap included, byte. */
function bytesHeld(): number {
  globalThis.gc?.();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
}

function byItself(): string[][] {
  return BOARDS.map(([parts, discrete]) => {
    const before = bytesHeld();
    let bytes = 0;
    const row = benchBoard(parts, discrete, () => (bytes = bytesHeld() - before));
    return cells(row, `${Math.round(bytes / 1e6)} MB`);
  });
}

/** The same in a web worker, a new one for each board as the application has it. */
async function inBrowser(): Promise<string[][]> {
  const entry = fileURLToPath(new URL('./bench-worker.ts', import.meta.url));
  const bundle = { write: false, minify: true, lib: { entry, formats: ['iife' as const], name: 'bench' } };
  const outputs = (await build({ configFile: false, logLevel: 'error', build: bundle })) as Rollup.RollupOutput[];
  const browser = await chromium.launch({ executablePath: CHROMIUM, args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
  try {
    const page = await browser.newPage();
    const rows: string[][] = [];
    for (const board of BOARDS) rows.push(cells(await page.evaluate<BenchRow>(runInWorker(outputs[0]!.output[0].code, board)), ''));
    return rows;
  } finally {
    await browser.close();
  }
}

/** Script for the page: hands a board to a new worker and waits for its row. */
function runInWorker(code: string, board: readonly [number, boolean]): string {
  return `new Promise((resolve, reject) => {
    const worker = new Worker(URL.createObjectURL(new Blob([${JSON.stringify(code)}], { type: 'text/javascript' })));
    worker.onmessage = ({ data }) => { worker.terminate(); resolve(data); };
    worker.onerror = ({ message }) => reject(new Error(message));
    worker.postMessage(${JSON.stringify(board)});
  })`;
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
  if (!existsSync(NGSPICE)) return void process.stdout.write('\nngspice is not installed: no comparison\n');
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

print('by itself', byItself());
if (existsSync(CHROMIUM)) print('in a web worker of Chromium', await inBrowser());
sweep(driveBoard(300, 7, true));
