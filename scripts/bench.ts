// npm run bench: how long the engine takes on generated drive boards of several sizes, one thread,
// bundled as it is shipped and each board in a new worker as in the application: of Node.js, and of
// Debian's Chromium where that is installed; and, where Debian's ngspice is, the same fault sweep
// by it in one process. Sizes may be given: npm run bench -- 50 100; or the boards of the demo
// alone: npm run bench -- demo
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { chromium } from '@playwright/test';
import { build, type Rollup } from 'vite';
import { writeDeck } from '@hanzai/core/board';
import { SWEPT, type BenchBoard, type BenchRow, type Sweep } from './bench-board';
import type { BenchRows, BenchTask } from './bench-worker';
import { type DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import type { DemoRow } from './bench-demo';
import { driveBoard } from './drive-board';

const CHROMIUM = '/usr/bin/chromium';
const NGSPICE = '/usr/bin/ngspice';
const sizes = process.argv.slice(2).map(Number).filter(Boolean);
const BOARDS = (sizes.length > 0 ? sizes : [50, 100, 300, 1000]).flatMap((parts): BenchBoard[] => {
  const board = { parts, discrete: false, asGoal: false };
  const goal = { ...board, asGoal: true };
  return parts < 300
    ? [board]
    : parts < 1000
      ? [board, { ...board, discrete: true }, goal]
      : [board, goal];
});

const inWords = (milliseconds: number): string =>
  milliseconds >= 1000 ? `${(milliseconds / 1000).toFixed(1)} s` : `${milliseconds.toFixed(0)} ms`;

const HEAD = [
  'parts',
  'nets',
  'faults',
  'readings',
  'dictionary',
  'off setup',
  'first plan',
  'reading',
  'its plan',
  'ESR survey',
  'memory',
];

function cells(row: BenchRow, what: string, bytes?: number): string[] {
  const { parts, nets, faults, readings, dictionary, off, firstPlan, reading, plan, esrSurvey } =
    row;
  const times = [dictionary, off, firstPlan, reading, plan, esrSurvey].map(inWords);
  return [
    `${parts}${what}`,
    `${nets}`,
    `${faults}`,
    `${readings}`,
    ...times,
    bytes ? `${Math.round(bytes / 1e6)} MB` : '',
  ];
}

function rowsOf({ first, again }: BenchRows, bytes?: number): string[][] {
  const what = `${first.discrete ? ' discrete' : ''}${first.asGoal ? ', the goal' : ''}`;
  return [cells(first, what, bytes), ...(again ? [cells(again, `${what}, again`)] : [])];
}

function print(title: string, rows: readonly (readonly string[])[], head = HEAD): void {
  const all = [head, ...rows];
  const widths = head.map((_, i) => Math.max(...all.map((row) => row[i]!.length)) + 2);
  process.stdout.write(`\n${title}\n`);
  for (const row of all)
    process.stdout.write(`${row.map((cell, i) => cell.padStart(widths[i]!)).join('')}\n`);
}

/**
 * The boards of the demo, each with two readings that ask for work: a rail or line that is dead,
 * and another that is not.
 */
// prettier-ignore
const DEMO: readonly (readonly [keyof typeof DEMO_BOARD_FILES, readonly (readonly [string, number])[]])[] = [
  ['cr40Whole', [['VM', 0.02], ['P5', 5.01]]],
  ['yc2Whole', [['P5', 0.1], ['P12', 12.02]]],
  ['tl9', [['MOT', 0.03], ['P12', 11.98]]],
  ['pd3Rw', [['P5', 5.02], ['TRK0', 0.1]]],
  ['pd3If', [['HDAT', 0.1], ['P5', 5.01]]],
];
const DEMO_HEAD = [
  'board',
  'parts',
  'first line-up',
  'first advice',
  'line-up',
  'advice',
  'next line-up',
  'next advice',
];

async function demoRows(run: (task: BenchTask) => Promise<DemoRow>): Promise<string[][]> {
  const rows: string[][] = [];
  for (const [name, reads] of DEMO) {
    const { parts, ...times } = await run({ kind: 'demo', board: demoBoard(name), reads });
    const { firstLineUp, firstSuggestion, lineUp, suggestion, nextLineUp, nextSuggestion } = times;
    rows.push([
      name,
      `${parts}`,
      ...[firstLineUp, firstSuggestion, lineUp, suggestion, nextLineUp, nextSuggestion].map(
        inWords,
      ),
    ]);
  }
  return rows;
}

async function bundled(): Promise<string> {
  const entry = fileURLToPath(new URL('./bench-worker.ts', import.meta.url));
  const made = await build({
    configFile: false,
    logLevel: 'error',
    build: { write: false, minify: true, lib: { entry, formats: ['iife'], name: 'bench' } },
  });
  return (made as Rollup.RollupOutput[])[0]!.output[0].code;
}

/**
 * What a worker of Node.js needs to look like one of a browser; it weighs its heap and arrays after
 * a collection.
 */
const SHIM = `
  const { parentPort } = require('node:worker_threads');
  const v8 = require('node:v8');
  const held = () => { globalThis.gc?.(); const { used_heap_size, external_memory } = v8.getHeapStatistics(); return used_heap_size + external_memory; };
  let bytes = 0;
  const before = held();
  globalThis.weigh = () => { bytes = held() - before; };
  globalThis.postMessage = (answer) => parentPort.postMessage({ answer, bytes });
  parentPort.once('message', (data) => globalThis.onmessage({ data }));
`;

function inNode<T>(code: string, task: BenchTask): Promise<{ answer: T; bytes: number }> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(SHIM + code, { eval: true });
    worker.once(
      'message',
      (message: { answer: T; bytes: number }) =>
        void worker.terminate().then(() => resolve(message)),
    );
    worker.once('error', reject);
    worker.postMessage(task);
  });
}

/** Script for a page: hands a task to a new worker and waits for its answer. */
function inPage(code: string, task: BenchTask): string {
  return `new Promise((resolve, reject) => {
    const worker = new Worker(URL.createObjectURL(new Blob([${JSON.stringify(code)}], { type: 'text/javascript' })));
    worker.onmessage = ({ data }) => { worker.terminate(); resolve(data); };
    worker.onerror = ({ message }) => reject(new Error(message));
    worker.postMessage(${JSON.stringify(task)});
  })`;
}

async function rowsInNode(code: string): Promise<string[][]> {
  const rows: string[][] = [];
  for (const board of BOARDS) {
    const { answer, bytes } = await inNode<BenchRows>(code, { kind: 'rows', board });
    rows.push(...rowsOf(answer, bytes));
  }
  return rows;
}

/** The demo boards, the rows, and the sweep. */
async function inBrowser(
  code: string,
): Promise<{ demo: string[][]; rows: string[][]; sweep: Sweep }> {
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage();
    const demo = await demoRows((task) => page.evaluate<DemoRow>(inPage(code, task)));
    const rows: string[][] = [];
    for (const board of BOARDS)
      rows.push(...rowsOf(await page.evaluate<BenchRows>(inPage(code, { kind: 'rows', board }))));
    return { demo, rows, sweep: await page.evaluate<Sweep>(inPage(code, { kind: 'sweep' })) };
  } finally {
    await browser.close();
  }
}

/** The engine's sweep done again by the simulator: volts of one net under each fault. */
function compare({ faults, volts: ours, times }: Sweep, browser: Sweep | undefined): void {
  if (!existsSync(NGSPICE))
    return void process.stdout.write('\nngspice is not installed: no comparison\n');
  const board = driveBoard(SWEPT.parts, 7, true);
  const folder = mkdtempSync(join(tmpdir(), 'sweep-'));
  const steps = faults.map(({ ref, mode, ohm, severity }) => {
    const faulty =
      mode === 'open'
        ? ohm + severity
        : mode === 'short'
          ? 1 / (1 / ohm + 1 / severity)
          : ohm * severity;
    return `alter ${ref} ${faulty}\nop\nprint v(${SWEPT.net.toLowerCase()})\nalter ${ref} ${ohm}`;
  });
  const ohms = new Map(
    board.parts.flatMap((part): [string, number][] =>
      part.kind === 'inductor'
        ? [[part.ref, part.dcResistanceOhm ?? 1e-6]]
        : part.kind === 'fuse'
          ? [[part.ref, 0.05]]
          : part.kind === 'connectorPin'
            ? [[part.ref, 0.02]]
            : [],
    ),
  );
  const deck = writeDeck(board)
    .replace(/\.end\s*$/, '')
    .replace(
      /^X?([FJL]\S*) (\S+) (\S+) \S+$/gm,
      (line: string, ref: string, a: string, b: string) =>
        ohms.has(ref) ? `R${ref} ${a} ${b} ${ohms.get(ref)}` : line,
    );
  writeFileSync(join(folder, 'sweep.cir'), `${deck}.control\n${steps.join('\n')}\n.endc\n.end\n`);
  const started = performance.now();
  const { stdout: text } = spawnSync('ngspice', ['-b', join(folder, 'sweep.cir')], {
    encoding: 'utf8',
    maxBuffer: 1e9,
  });
  const theirs = performance.now() - started;
  rmSync(folder, { recursive: true });
  const volts = [
    ...text.matchAll(new RegExp(`v\\(${SWEPT.net.toLowerCase()}\\) = (\\S+)`, 'g')),
  ].map((match) => Number(match[1]));
  const worst = Math.max(...volts.map((volt, i) => Math.abs(volt - ours[i]!)));
  process.stdout.write(
    `\nfault sweep, ${board.parts.length} discrete parts, ${faults.length} faults: simulator ${inWords(theirs)}\n`,
  );
  const show = (where: string, taken: readonly number[]): void => {
    for (const i of [0, 1, taken.length - 1])
      process.stdout.write(
        `  engine, ${where}, time ${i + 1}: ${inWords(taken[i]!)}, ratio ${(theirs / taken[i]!).toFixed(0)}\n`,
      );
  };
  show('Node.js', times);
  if (browser) show('Chromium', browser.times);
  process.stdout.write(
    `  ${volts.length} values compared, largest difference ${(1000 * worst).toFixed(1)} mV\n`,
  );
}

const code = await bundled();
print(
  'the boards of the demo from nothing, in a worker of Node.js',
  await demoRows(async (task) => (await inNode<DemoRow>(code, task)).answer),
  DEMO_HEAD,
);
if (process.argv.includes('demo')) process.exit();
print('in a worker of Node.js', await rowsInNode(code));
const browser = existsSync(CHROMIUM) ? await inBrowser(code) : undefined;
if (browser) print('in a web worker of Chromium', browser.rows);
if (browser)
  print(
    'the boards of the demo from nothing, in a web worker of Chromium',
    browser.demo,
    DEMO_HEAD,
  );
compare((await inNode<Sweep>(code, { kind: 'sweep' })).answer, browser?.sweep);
