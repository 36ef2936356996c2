// Works out volts at the pins of single gates, transistor by transistor, with a general circuit
// simulator (Debian package ngspice), and writes core/test/reference/gates/expected.json. The
// circuits are those of textbooks for the standard and the low-power Schottky NAND gate (Millman &
// Grabel, Microelectronics, and common data sheets; component values from memory).
//   node scripts/reference-gates.mjs
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runDeck, simulatorVersion } from './simulator.mjs';

const folder = new URL('../core/test/reference/gates/', import.meta.url).pathname;
const scratch = mkdtempSync(join(tmpdir(), 'gates-'));

/** Gates as subcircuits: inputs A and B, output Y, supply V. */
const GATES = `
.model QN NPN (IS=1e-16 BF=50 BR=0.1 RB=70 RC=40)
.model QO NPN (IS=4e-16 BF=50 BR=0.1 RB=20 RC=8)
.model DJ D (IS=1e-15 RS=20)
.model DC D (IS=1e-14 RS=10)
.model QS NPN (IS=1e-16 BF=60 BR=0.3 RB=70 RC=40)
.model QSO NPN (IS=4e-16 BF=60 BR=0.3 RB=20 RC=12)
.model DS D (IS=5e-10 N=1.05 RS=25)
* standard: two emitters on one base, phase splitter, totem pole
.subckt STD A B Y V
R1 V B1 4k
QA C1 B1 A QN
QB C1 B1 B QN
DA 0 A DC
DB 0 B DC
R2 V C2 1.6k
Q2 C2 C1 E2 QN
R3 E2 0 1k
R4 V C4 130
Q4 C4 C2 E4 QO
D1 E4 Y DJ
Q3 Y E2 0 QO
.ends
* low-power Schottky: diodes at the inputs, clamped transistors, active pull-down, Darlington pull-up
.subckt LOW A B Y V
R1 V B1 20k
DA B1 A DS
DB B1 B DS
DCA 0 A DC
DCB 0 B DC
Q1 C2 B1 E1 QS
DK1 B1 C2 DS
R2 V C2 8k
R5 E1 BX 1.5k
R6 E1 CX 3k
QX CX BX 0 QS
DKX BX CX DS
Q3 Y E1 0 QSO
DK3 E1 Y DS
R3 V C4 120
Q4 C4 C2 B5 QSO
DK4 C2 C4 DS
Q5 C4 B5 Y QSO
R4 B5 Y 4k
.ends
`;

const high = (ohm) => ({
  name: `high output with ${ohm} to ground`,
  lines: [`XG LOWIN SUP Y SUP GATE`, `RI LOWIN 0 1`, `RL Y 0 ${ohm}`],
  at: 'Y',
});
const low = (ohm) => ({
  name: `low output with ${ohm} to the supply`,
  lines: [`XG SUP SUP Y SUP GATE`, `RL SUP Y ${ohm}`],
  at: 'Y',
});
const pulled = (ohm) => ({
  name: `input with ${ohm} to ground, the other one high`,
  lines: [`XG IN SUP Y SUP GATE`, `RI IN 0 ${ohm}`, 'RL Y 0 1meg'],
  at: 'IN',
});
const tied = (ohm) => ({
  name: `two inputs tied with ${ohm} to ground`,
  lines: [`XG IN IN Y SUP GATE`, `RI IN 0 ${ohm}`, 'RL Y 0 1meg'],
  at: 'IN',
});
const conflict = {
  name: 'a high output against a low one',
  lines: ['XG LOWIN SUP Y SUP GATE', 'XH SUP SUP Y SUP GATE', 'RI LOWIN 0 1'],
  at: 'Y',
};
const fanOut = (count, level) => ({
  name: `${level} output into ${count} inputs`,
  lines: [
    level === 'low' ? 'XG SUP SUP Y SUP GATE' : 'XG LOWIN SUP Y SUP GATE',
    'RI LOWIN 0 1',
    ...Array.from({ length: count }, (_, i) => `XN${i} Y SUP Z${i} SUP GATE`),
    ...Array.from({ length: count }, (_, i) => `RZ${i} Z${i} 0 1meg`),
  ],
  at: 'Y',
});
// prettier-ignore
const CASES = [
  ...['100k', '10k', '2.2k', '1k', '470'].map(high), ...['10k', '2.2k', '1k', '470', '330'].map(low), ...['100', '220', '470', '1k', '2.2k', '10k'].map(pulled), ...['100', '220', '470', '1k'].map(tied),
  conflict, fanOut(1, 'low'), fanOut(5, 'low'), fanOut(10, 'low'), fanOut(1, 'high'), fanOut(5, 'high'), fanOut(10, 'high'),
];

const rows = [];
for (const [family, gate] of [
  ['7400', 'STD'],
  ['74LS00', 'LOW'],
]) {
  for (const { name, lines, at } of CASES) {
    const file = join(scratch, 'gate.cir');
    writeFileSync(
      file,
      [
        'gate',
        'VS SUP 0 DC 5',
        ...lines.map((line) => line.replace(/ GATE$/, ` ${gate}`)),
        GATES,
        '.options reltol=1e-6 abstol=1e-12 vntol=1e-9 itl1=500',
        '.control',
        'op',
        `print v(${at})`,
        'quit 0',
        '.endc',
        '.end',
        '',
      ].join('\n'),
    );
    const volt = Number(/^v\(\w+\) = (\S+)/m.exec(runDeck(file, 20))?.[1]);
    if (!Number.isFinite(volt)) throw new Error(`${family}, ${name}: no answer`);
    rows.push({ family, name, lines, at, volt: Number(volt.toPrecision(5)) });
  }
}
rmSync(scratch, { recursive: true });
const body = rows.map((row) => `  ${JSON.stringify(row)}`).join(',\n');
writeFileSync(
  join(folder, 'expected.json'),
  `{\n "simulator": "${simulatorVersion()} (Debian package ngspice)",\n "rows": [\n${body}\n ]\n}\n`,
);
writeFileSync(
  join(folder, 'gates.cir'),
  `Transistor-level gates behind expected.json${GATES}.end\n`,
);
process.stdout.write(`${rows.length} volts\n`);
