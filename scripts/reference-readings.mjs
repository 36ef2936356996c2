// Works out what a meter would read on the boards of core/test/reference/benches, healthy and under
// faults, with a general circuit simulator (Debian package ngspice). It turns the boards into
// simulator decks by itself and shares no code with the engine it is to check.
//   node scripts/reference-readings.mjs
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runDeck, simulatorVersion } from './simulator.mjs';

const folder = new URL('../core/test/reference/benches/', import.meta.url).pathname;
const scratch = mkdtempSync(join(tmpdir(), 'readings-'));
const SCALE = { t: 1e12, g: 1e9, meg: 1e6, k: 1e3, m: 1e-3, u: 1e-6, n: 1e-9, p: 1e-12, f: 1e-15 };
const RANGES = [1e-3, 1e-4, 1e-5, 1e-6, 1e-7, 1e-8];

function number(text) {
  const [, digits, letters] = /^([\d.e+-]+?)(meg|[tgkmunpf])?$/i.exec(text);
  return Number(digits) * (SCALE[letters?.toLowerCase()] ?? 1);
}

/** A board as a list of plain elements; series losses are separate resistors already. */
function readBoard(file) {
  const lines = readFileSync(file, 'utf8').split('\n').slice(1);
  const notes = Object.fromEntries(
    lines
      .filter((line) => line.startsWith('*@'))
      .map((line) => [
        line.split(/\s+/)[1],
        Object.fromEntries([...line.matchAll(/(\w+)=(\S+)/g)].map((m) => [m[1], m[2]])),
      ]),
  );
  const models = lines.filter((line) => line.startsWith('.model'));
  const parts = lines
    .filter((line) => /^[RCLVIDQX]/.test(line))
    .map((line) => {
      const words = line.split(/\s+/);
      const ref = words[0].startsWith('X') ? words[0].slice(1) : words[0];
      const kind = words.at(-1) === 'FUSE' ? 'F' : words[0][0];
      return {
        ref,
        kind,
        nets: words.slice(1, kind === 'Q' ? 4 : 3),
        value: words.at(-1),
        note: notes[ref] ?? {},
      };
    });
  return { parts, models };
}

/** The lines of one part, healthy or with one fault of the board's list. */
function partLines(part, fault) {
  const { ref, kind, value, note } = part;
  const [a, b] = part.nets;
  const extra = [];
  let nets = part.nets;
  let factor = 1;
  let esrFactor = 1;
  if (fault === 'open' && kind !== 'Q') {
    nets = [`${ref}_x`, b];
    extra.push(`RX_${ref} ${a} ${ref}_x 100meg`);
  }
  if (fault === 'short') extra.push(`RX_${ref} ${a} ${b} 0.3`);
  if (fault === 'leaky') extra.push(`RX_${ref} ${a} ${b} ${300}`);
  if (fault === 'drift-high') factor = 3.5;
  if (fault === 'drift-low') factor = 0.35;
  if (fault === 'low-capacitance') factor = 0.12;
  if (fault === 'high-esr') esrFactor = 70;
  const lead = { 'open-c': 0, 'open-b': 1, 'open-e': 2 }[fault];
  if (lead !== undefined) {
    nets = nets.map((net, i) => (i === lead ? `${ref}_x` : net));
    extra.push(`RX_${ref} ${part.nets[lead]} ${ref}_x 100meg`);
  }
  const pair = { 'short-be': [1, 2], 'short-bc': [1, 0], 'short-ce': [0, 2] }[fault];
  if (pair) extra.push(`RX_${ref} ${part.nets[pair[0]]} ${part.nets[pair[1]]} 0.3`);
  const own = {
    R: () => [`R_${ref} ${nets.join(' ')} ${number(value) * factor}`],
    F: () => [`R_${ref} ${nets.join(' ')} 0.05`],
    C: () => [
      `C_${ref} ${nets[0]} ${ref}_e ${number(value) * factor}`,
      `RE_${ref} ${ref}_e ${nets[1]} ${number(note.esr) * esrFactor}`,
    ],
    L: () => [
      `L_${ref} ${nets[0]} ${ref}_d ${number(value)}`,
      `RD_${ref} ${ref}_d ${nets[1]} ${number(note.dcr)}`,
    ],
    V: () => [`V_${ref} ${nets.join(' ')} DC ${value}`],
    D: () => [`D_${ref} ${nets.join(' ')} ${value}`],
    Q: () => [`Q_${ref} ${nets.join(' ')} ${value}`],
  }[kind]();
  return [...own, ...extra];
}

function simulate(lines, control) {
  const file = join(scratch, 'run.cir');
  writeFileSync(
    file,
    [
      'reading',
      ...lines,
      '.options reltol=1e-6 abstol=1e-15 vntol=1e-9 gmin=1e-12 itl1=500',
      '.control',
      'set numdgt=9',
      ...control,
      'quit 0',
      '.endc',
      '.end',
      '',
    ].join('\n'),
  );
  const out = runDeck(file);
  return [...out.matchAll(/^\S+ = ([^,\s]+)(?:,\s*(\S+))?\s*$/gm)].map((m) => [
    Number(m[1]),
    Number(m[2] ?? 0),
  ]);
}

/**
 * Every net of the deck joined to net `to` by a DC path, so that the simulator is not asked what
 * has no answer.
 */
function joined(lines, from, to) {
  const groups = new Map();
  const root = (net) =>
    groups.get(net) === undefined || groups.get(net) === net ? net : root(groups.get(net));
  for (const line of lines) {
    if (/^[CI]/.test(line)) continue;
    const nets = line.split(/\s+/).slice(1, line.startsWith('Q') ? 4 : 3);
    for (const net of nets) groups.set(root(net), root(nets[0]));
  }
  return root(from) === root(to);
}

function measure(board, fault, { kind, at, to }) {
  const off = kind !== 'voltage';
  const [ref, mode] = fault?.split(':') ?? [];
  const lines = [
    ...board.parts
      .filter((part) => !off || part.kind !== 'V')
      .flatMap((part) => partLines(part, part.ref === ref ? mode : undefined)),
    ...board.models,
  ];
  const anchor = to === '0' ? [] : [`R_anchor ${to} 0 1g`];
  const volt = `v(${at})${to === '0' ? '' : `-v(${to})`}`;
  if (kind === 'voltage')
    return simulate([...lines, `R_meter ${at} ${to} 10meg`], ['op', `print ${volt}`])[0][0];
  if (kind === 'esr')
    return simulate(
      [...lines, ...anchor, `I_test ${to} ${at} AC 1`],
      ['ac lin 1 100k 100k', `print ${volt}`],
    )[0];
  const drive = (ampere) =>
    simulate(
      [...lines, ...anchor, `I_test ${to} ${at} DC ${ampere}`],
      ['op', `print ${volt}`],
    )[0]?.[0] ?? Infinity;
  if (!joined(lines, at, to)) return 'OL';
  if (kind === 'diode') {
    const v = drive(1e-3);
    return v >= 3 ? 'OL' : v;
  }
  for (const ampere of RANGES) {
    const v = drive(ampere);
    if (v <= 0.4) return v / ampere;
  }
  return 'OL';
}

// prettier-ignore
const PLAN = {
  'lamp-driver': {
    measures: [...['VM', 'B1', 'C1N', 'E1', 'OUT', 'LED'].map((at) => ['voltage', at, '0']), ...['VM', 'B1', 'OUT', 'C1N', 'LED'].map((at) => ['resistance', at, '0']), ['resistance', 'VIN', 'VM'], ['resistance', 'C1N', 'VM'], ['diode', 'B1', 'E1'], ['diode', 'VM', 'C1N'], ['diode', 'OUT', 'LED'], ['diode', 'LED', 'OUT'], ['esr', 'VM', '0'], ['esr', 'OUT', '0']],
    faults: [undefined, 'F1:open', 'L1:open', 'C1:short', 'C1:leaky', 'C1:high-esr', 'C3:high-esr', 'C3:low-capacitance', 'D1:short', 'D2:open', 'R1:open', 'R3:drift-high', 'R5:drift-low', 'Q1:open-b', 'Q1:short-ce', 'Q2:open-c', 'Q2:short-be', 'Q2:short-bc'],
  },
  'resistor-bridge': {
    measures: [...['B', 'C', 'D', 'F'].map((at) => ['voltage', at, '0']), ...['A', 'B', 'C', 'D', 'E'].map((at) => ['resistance', at, '0']), ['resistance', 'B', 'C'], ['resistance', 'A', 'F'], ['resistance', 'D', 'E'], ['esr', 'B', '0'], ['esr', 'D', 'E']],
    faults: [undefined, 'R1:open', 'R3:drift-high', 'R4:drift-low', 'R5:short', 'R6:open', 'R7:open', 'C1:short', 'C2:leaky', 'C2:high-esr', 'L1:open', 'R9:short'],
  },
  'capacitor-shelf': {
    measures: [...['VA', 'VB', 'VC', 'VD'].map((at) => ['voltage', at, '0']), ['resistance', 'VA', '0'], ['resistance', 'VD', '0'], ...['VA', 'VB', 'VC', 'VD'].map((at) => ['esr', at, '0']), ['esr', 'VD', 'C6N']],
    faults: [undefined, ...['C1', 'C2', 'C3', 'C4', 'C5', 'C6'].flatMap((ref) => [`${ref}:high-esr`, `${ref}:low-capacitance`, `${ref}:open`]), 'C1:short', 'C4:short', 'C5:leaky'],
  },
  'diode-network': {
    measures: [...['TAP', 'HA', 'S', 'CL'].map((at) => ['voltage', at, '0']), ['resistance', 'HA', 'HB'], ['resistance', 'TAP', 'HA'], ['resistance', 'S', '0'], ['resistance', 'CL', '0'], ['resistance', 'HA', 'S'], ['resistance', 'S', 'HA'], ['diode', 'HA', 'S'], ['diode', 'S', 'HB'], ['diode', 'S', 'CL'], ['esr', 'TAP', '0'], ['esr', 'CL', '0']],
    faults: [undefined, 'L1:open', 'L2:short', 'D1:open', 'D1:short', 'D2:leaky', 'D3:open', 'R2:open', 'R4:drift-high', 'C1:high-esr', 'C1:leaky'],
  },
};

const rows = [];
for (const file of readdirSync(folder).filter((name) => name.endsWith('.cir'))) {
  const name = file.replace('.cir', '');
  const board = readBoard(join(folder, file));
  for (const fault of PLAN[name].faults) {
    for (const [kind, at, to] of PLAN[name].measures) {
      const value = measure(board, fault, { kind, at, to });
      const shown = Array.isArray(value) ? value[0] : value;
      if (shown !== 'OL' && !Number.isFinite(shown))
        throw new Error(`${name} ${fault ?? 'healthy'}: ${kind} ${at} ${to} gave nothing`);
      rows.push([name, fault ?? '', kind, at, to, shown]);
    }
  }
}
rmSync(scratch, { recursive: true });
const version = simulatorVersion();
const body = rows.map((row) => `  ${JSON.stringify(row)}`).join(',\n');
writeFileSync(
  join(folder, 'expected.json'),
  `{\n "simulator": "${version} (Debian package ngspice)",\n "columns": ["board", "fault", "kind", "at", "to", "value"],\n "rows": [\n${body}\n ]\n}\n`,
);
process.stdout.write(`${rows.length} readings, ${version}\n`);
