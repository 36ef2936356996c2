// npm run bench: how long the engine takes, one thread, on the demo board. Medians; the machine's noise is in the spread.
import { indexBoard } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import { BenchState, parseShorthand, type Reading } from '@hanzai/core/instrument';
import { planNext } from '@hanzai/core/plan';
import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';

const index = indexBoard(demoBoard('cr40'));
const LINES = ['p5 5.01', 'vm 0.01', 'p9in 8.98', 'p9f 0.01', 'f1 open', 'r13 220', 'c1 .05', 'vm gnd 4.7k ohm'];
const readings = LINES.map((line): Reading => {
  const read = parseShorthand(index, line);
  if (!read.ok) throw new Error(`${line}: ${read.expected}`);
  return read.reading;
});

const rows: [string, number[]][] = [];
function timed<T>(name: string, work: () => T): T {
  const started = performance.now();
  const result = work();
  const spent = performance.now() - started;
  const row = rows.find(([known]) => known === name);
  if (row) row[1].push(spent);
  else rows.push([name, [spent]]);
  return result;
}

for (let round = 0; round < 5; round += 1) {
  timed('operating point of the board', () => new BenchState(index, { setup: 'on', faults: [], absent: [] }).netVolts());
  const diagnoser = timed('engine opened, no reading yet', () => {
    const d = new Diagnoser(index, RATES);
    d.believe([]);
    return d;
  });
  timed('first plan, no reading yet', () => planNext(diagnoser, [], diagnoser.believe([])));
  for (let n = 1; n <= readings.length; n += 1) {
    const belief = timed(n === 1 ? 'first reading to line-up' : 'later reading to line-up', () => diagnoser.believe(readings.slice(0, n)));
    timed(n === 1 ? 'first reading to next measurement' : 'later reading to next measurement', () => planNext(diagnoser, readings.slice(0, n), belief));
  }
  timed('retraction to line-up', () => diagnoser.believe(readings.slice(0, 4)));
}

process.stdout.write(
  `${index.board.parts.length} parts, ${index.nets.length} nets, ${new Diagnoser(index, RATES).space.hypotheses.length} hypotheses; milliseconds\n`,
);
process.stdout.write(`${'step'.padEnd(36)}${'min'.padStart(9)}${'median'.padStart(9)}${'max'.padStart(9)}\n`);
for (const [name, values] of rows) {
  values.sort((a, b) => a - b);
  const show = (value: number): string => value.toFixed(1).padStart(9);
  process.stdout.write(`${name.padEnd(36)}${show(values[0]!)}${show(values[values.length >> 1]!)}${show(values.at(-1)!)}\n`);
}
