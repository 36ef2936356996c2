// Writes core/test/reference/chips/vectors.json: what chips do, from behavioural descriptions by
// package pin run through Debian's Verilog simulator. It shares no code and no function text with
// the engine. Needs iverilog:  node scripts/reference-chips.mjs
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bus, chips } from './reference-chips/describe.mjs';
import './reference-chips/combinational.mjs';
import './reference-chips/sequential.mjs';
import './reference-chips/further.mjs';

/**
 * A small generator with a fixed seed, so that the file repeats. Source: the "minimal standard"
 * generator, Park & Miller, CACM 31, 1988.
 */
let seed = 20260101;
const random = (below) => (seed = (seed * 48271) % 2147483647) % below;

function stimuli({ inputs, first, clocks, decade }) {
  const sequential = clocks.length > 0 || Object.keys(first).length > 0;
  if (!sequential && inputs.length <= 8)
    return Array.from({ length: 2 ** inputs.length }, (_, v) => inputs.map((_, i) => (v >> i) & 1));
  if (!sequential) return Array.from({ length: 300 }, () => inputs.map(() => random(2)));
  const now = inputs.map((pin) => first[pin] ?? (clocks.includes(pin) ? 0 : random(2)));
  const steps = [[...now]];
  for (let k = 0; k < 260; k += 1) {
    const at =
      clocks.length > 0 && random(10) < 6
        ? inputs.indexOf(clocks[random(clocks.length)])
        : random(inputs.length);
    now[at] ^= 1;
    // A decade counter is not loaded with more than nine: what it does from there is not in every
    // table.
    if (decade && now[inputs.indexOf(decade.data[0])])
      for (const pin of decade.data.slice(1)) now[inputs.indexOf(pin)] = 0;
    steps.push([...now]);
  }
  return steps;
}

function simulate(folder, one) {
  const steps = stimuli(one);
  const all = [
    ...one.inputs.map((pin) => `input p${pin}`),
    ...one.outputs.map((pin) => `output p${pin}`),
  ].join(', ');
  const apply = steps
    .map((levels, k) => {
      const lines = levels
        .map((level, i) =>
          k === 0 || steps[k - 1][i] !== level ? `p${one.inputs[i]} = ${level};` : '',
        )
        .join(' ');
      return `${lines} #10 $display("%b", ${bus(one.outputs)});`;
    })
    .join('\n');
  const file = join(folder, 'chip.v');
  writeFileSync(
    file,
    `module chip(${all});\n${one.body}\nendmodule\nmodule bench;\n${one.inputs.map((pin) => `reg p${pin};`).join(' ')}\n${one.outputs.map((pin) => `wire p${pin};`).join(' ')}
chip c(${[...one.inputs, ...one.outputs].map((pin) => `.p${pin}(p${pin})`).join(', ')});\ninitial begin\n${apply}\n$finish;\nend\nendmodule\n`,
  );
  execFileSync('iverilog', ['-g2005-sv', '-o', join(folder, 'chip.out'), file]);
  const lines = execFileSync('vvp', ['-n', join(folder, 'chip.out')], { encoding: 'utf8' })
    .trim()
    .split('\n');
  return steps.map((levels, k) => `${levels.join('')} ${lines[k]}`);
}

const folder = mkdtempSync(join(tmpdir(), 'chips-'));
const version = /version ([\d.]+)/.exec(execFileSync('iverilog', ['-V'], { encoding: 'utf8' }))[1];
const result = {
  simulator: `Icarus Verilog ${version} (Debian package iverilog)`,
  made: 'scripts/reference-chips.mjs',
  chips: {},
};
for (const one of chips)
  result.chips[one.name] = {
    inputs: one.inputs,
    outputs: one.outputs,
    vectors: simulate(folder, one).join('\n'),
  };
rmSync(folder, { recursive: true });
mkdirSync(new URL('../core/test/reference/chips/', import.meta.url), { recursive: true });
writeFileSync(
  new URL('../core/test/reference/chips/vectors.json', import.meta.url),
  `${JSON.stringify(result, null, 2).replace(/\[[\s\d,]+\]/g, (pins) => JSON.stringify(JSON.parse(pins)).replaceAll(',', ', '))}\n`,
);
process.stdout.write(
  `${chips.length} chips, ${Object.values(result.chips).reduce((sum, { vectors }) => sum + vectors.split('\n').length, 0)} vectors\n`,
);
