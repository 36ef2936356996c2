// Writes core/test/reference/random-circuits.json: circuits drawn at random, their operating points
// and, without supplies, impedances at 100 kHz, as a general circuit simulator (Debian package
// ngspice) on the machine finds them. Run by hand:  node scripts/reference-random.mjs
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { printedNodes, runDeck, simulatorVersion } from './simulator.mjs';

const CIRCUITS = 60;
const MODELS = [
  '.model D1N D(IS=2.52e-9 N=1.752 RS=0.568)',
  '.model DS D(IS=1e-14)',
  '.model DZ D(IS=1e-14 BV=5.1 IBV=5m)',
  '.model LR D(IS=1e-18 N=1.8 RS=2)',
  '.model QN NPN(IS=6.7e-15 BF=180 BR=4)',
  '.model QP PNP(IS=6.5e-16 BF=120 BR=3)',
];
const OPTIONS = '.options reltol=1e-6 abstol=1e-14 vntol=1e-9 gmin=1e-12';

// Park & Miller, CACM 31, 1988: the same circuits at every run.
let state = 20261125;
const random = () => (state = (state * 48271) % 2147483647) / 2147483647;
const pick = (list) => list[Math.floor(random() * list.length)];
const decades = (low, high) => (10 ** (low + random() * (high - low))).toPrecision(3);

/**
 * Lines of a connected circuit: a tree of resistors with ground for its root, and what else falls
 * between its nodes. other: one more part, given its number and nodes.
 */
function draw(other) {
  const nodes = Array.from({ length: 4 + Math.floor(random() * 20) }, (_, k) => `N${k}`);
  const lines = [`R0 N0 0 ${decades(1, 4.5)}`];
  for (let k = 1; k < nodes.length; k += 1)
    lines.push(
      `R${k} N${k} ${random() < 0.3 ? '0' : `N${Math.floor(random() * k)}`} ${decades(1, 5.5)}`,
    );
  const any = () => (random() < 0.2 ? '0' : pick(nodes));
  const count = Math.floor(nodes.length * (0.6 + random()));
  for (let k = nodes.length; k < nodes.length + count; k += 1) {
    const [a, b, c] = [any(), any(), any()];
    if (a !== b && b !== c && a !== c) lines.push(...other(k, a, b, c));
  }
  return { nodes, lines };
}

function powered() {
  const { nodes, lines } = draw((k, a, b, c) => {
    const kind = random();
    if (kind < 0.3) return [`R${k} ${a} ${b} ${decades(1, 5.5)}`];
    if (kind < 0.5) return [`D${k} ${a} ${b} ${pick(['D1N', 'DS', 'DZ', 'LR'])}`];
    if (kind < 0.9) return [`Q${k} ${a} ${b} ${c} ${pick(['QN', 'QP'])}`];
    return kind < 0.95 ? [`I${k} ${a} ${b} ${decades(-5, -2.7)}`] : [`L${k} ${a} ${b} 10u`];
  });
  // No junction lies straight across the supply: what that would carry no model says.
  return {
    nodes,
    lines: [
      `V1 SUP 0 ${(3 + random() * 21).toFixed(2)}`,
      `RS SUP N0 ${(1 + random() * 50).toFixed(1)}`,
      ...lines,
    ],
  };
}

/**
 * Passive circuits: for the engine with losses as annotations, for the simulator with losses as
 * resistors.
 */
function off() {
  const theirs = [];
  const { nodes, lines } = draw((k, a, b) => {
    const kind = random();
    if (kind < 0.4) {
      theirs.push(`R${k} ${a} ${b} ${decades(-0.5, 4)}`);
      return [theirs.at(-1)];
    }
    const [letter, value, loss, key] =
      kind < 0.8
        ? ['C', decades(-9, -3), decades(-1.5, 1), 'esr']
        : ['L', decades(-6, -2), decades(-1.5, 1.5), 'dcr'];
    theirs.push(`${letter}${k} ${a} X${k} ${value}`, `RX${k} X${k} ${b} ${loss}`);
    return [`${letter}${k} ${a} ${b} ${value}`, `*@ ${letter}${k} ${key}=${loss}`];
  });
  const tree = lines.slice(0, nodes.length);
  return { nodes, lines, theirs: [...tree, ...theirs] };
}

const scratch = mkdtempSync(join(tmpdir(), 'random-'));

function simulate(lines, commands) {
  const file = join(scratch, 'run.cir');
  writeFileSync(
    file,
    [
      'random circuit',
      ...lines,
      OPTIONS,
      '.control',
      'set numdgt=9',
      ...commands,
      'quit 0',
      '.endc',
      '.end',
      '',
    ].join('\n'),
  );
  return runDeck(file);
}

const points = [];
const impedances = [];
for (let i = 0; i < CIRCUITS; i += 1) {
  const { lines } = powered();
  const out = simulate([...lines, ...MODELS], ['op', 'print all']);
  const volts = Object.fromEntries(
    printedNodes(out).map(([name, volt]) => [name.toUpperCase(), volt]),
  );
  if (Object.keys(volts).length === 0) throw new Error(`no operating point: ${lines.join('; ')}`);
  points.push({ deck: lines.join('\n'), volts });
}
for (let i = 0; i < CIRCUITS; i += 1) {
  const { nodes, lines, theirs } = off();
  const [at, to] = [nodes.at(-1), random() < 0.5 ? '0' : nodes[0]];
  const out = simulate(
    [...theirs, `IM ${to} ${at} DC 0 AC 1`],
    [
      'ac lin 1 100k 100k',
      `let z = v(${at})${to === '0' ? '' : `-v(${to})`}`,
      'print real(z) imag(z)',
    ],
  );
  const [re, im] = [...out.matchAll(/^(?:real|imag)\(z\) = (\S+)$/gm)].map(([, value]) =>
    Number(value),
  );
  if (!Number.isFinite(re) || !Number.isFinite(im)) throw new Error(`no impedance: ${out}`);
  impedances.push({ deck: lines.join('\n'), at, to, re, im });
}
rmSync(scratch, { recursive: true });
const version = simulatorVersion();
const file = new URL('../core/test/reference/random-circuits.json', import.meta.url);
writeFileSync(
  file,
  `${JSON.stringify({ simulator: `${version} (Debian package ngspice)`, models: MODELS.join('\n'), points, impedances }, null, 1)}\n`,
);
process.stdout.write(
  `${points.length} operating points, ${impedances.length} impedances, ${version}\n`,
);
