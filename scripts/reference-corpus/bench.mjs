// Boards of plain elements as a general circuit simulator sees them, with faults of any severity,
// and what a meter reads on them. Shares no code with the engine it is to check.
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { runDeck } from '../simulator.mjs';

const SCALE = { t: 1e12, g: 1e9, meg: 1e6, k: 1e3, m: 1e-3, u: 1e-6, n: 1e-9, p: 1e-12, f: 1e-15 };
/** Ohm ranges: full scale in ohm, test current in ampere. */
const OHM_RANGES = [
  [400, 1e-3],
  [4e3, 1e-4],
  [40e3, 1e-5],
  [400e3, 1e-6],
  [4e6, 1e-7],
  [40e6, 1e-8],
];
const OHM_VOLT_LIMIT = 0.4;
const DIODE_AMPERE = 1e-3;
const DIODE_OVERLOAD = 3;
const METER_OHM = '10meg';
const AWAY_OHM = '1e15';
/**
 * Holds nets that nothing else does, so that the simulator has an answer; beyond what a meter
 * shows.
 */
const ANCHOR_OHM = '1e11';
const CONTACT_OHM = 0.02;
const FUSE_OHM = 0.05;
const OPEN_CONTACT_OHM = 1e9;

export function number(text) {
  const [, digits, letters] = /^([\d.e+-]+?)(meg|[tgkmunpf])?$/i.exec(text);
  return Number(digits) * (SCALE[letters?.toLowerCase()] ?? 1);
}

/** A deck as parts: what it is, its nets, its value, what its annotation says. */
export function readBoard(file) {
  const lines = readFileSync(file, 'utf8').split('\n').slice(1);
  const notes = Object.fromEntries(
    lines
      .filter((line) => line.startsWith('*@'))
      .map((line) => [
        line.split(/\s+/)[1],
        Object.fromEntries([...line.matchAll(/(\w+)=("[^"]*"|\S+)/g)].map((m) => [m[1], m[2]])),
      ]),
  );
  const models = Object.fromEntries(
    lines.filter((line) => line.startsWith('.model')).map((line) => [line.split(/\s+/)[1], line]),
  );
  const parts = lines
    .filter((line) => /^[RCLVDQX]/.test(line))
    .map((line) => {
      const words = line.split(/\s+/);
      const ref = words[0].startsWith('X') ? words[0].slice(1) : words[0];
      const kind =
        { FUSE: 'F', SWITCH: 'S', SWITCH_OPEN: 'SO', PIN: 'J', WINDING: 'W' }[words.at(-1)] ??
        words[0][0];
      return {
        ref,
        kind,
        nets: words.slice(1, kind === 'Q' ? 4 : 3),
        value: words.at(-1),
        note: notes[ref] ?? {},
      };
    });
  return {
    parts,
    models,
    nets: [...new Set(parts.flatMap(({ nets }) => nets))].filter((net) => net !== '0'),
  };
}

/**
 * The lines of one part of a real board. own: what this specimen has (factors, model), faults: its
 * own, each { mode, severity }.
 */
function partLines(part, own, faults) {
  const { ref, kind, value, note } = part;
  let nets = [...part.nets];
  const extra = [];
  let [factor, esrFactor, contact] = [own.factor, own.esrFactor, 0];
  const mode = (name) => faults.find((fault) => fault.mode === name)?.severity;
  const lead = { 'open-c': 0, 'open-b': 1, 'open-e': 2, open: 0 };
  for (const { mode: name, severity } of faults) {
    if (name in lead) {
      const i = lead[name];
      if ('FSJ'.includes(kind)) contact = severity;
      else {
        extra.push(`RX_${ref} ${nets[i]} ${ref}_x ${severity}`);
        nets = nets.map((net, at) => (at === i ? `${ref}_x` : net));
      }
    }
    const pair = {
      short: [0, 1],
      leaky: [0, 1],
      'short-be': [1, 2],
      'short-bc': [1, 0],
      'short-ce': [0, 2],
    }[name];
    if (pair) extra.push(`RY_${ref} ${part.nets[pair[0]]} ${part.nets[pair[1]]} ${severity}`);
    if (name === 'drift-high' || name === 'drift-low') factor *= severity;
    if (name === 'high-esr') esrFactor *= severity;
  }
  const ohm = (text) => number(text) * factor;
  const lines = {
    R: () => [`R_${ref} ${nets.join(' ')} ${ohm(value)}`],
    F: () => [`R_${ref} ${nets.join(' ')} ${FUSE_OHM + contact}`],
    J: () => [`R_${ref} ${nets.join(' ')} ${CONTACT_OHM + contact}`],
    S: () => [`R_${ref} ${nets.join(' ')} ${CONTACT_OHM + contact}`],
    SO: () => [`R_${ref} ${nets.join(' ')} ${mode('short') ?? OPEN_CONTACT_OHM}`],
    C: () => [
      `C_${ref} ${nets[0]} ${ref}_e ${ohm(value)}`,
      `RE_${ref} ${ref}_e ${nets[1]} ${own.esr * esrFactor}`,
    ],
    L: () => [
      `L_${ref} ${nets[0]} ${ref}_d ${number(value)}`,
      `RD_${ref} ${ref}_d ${nets[1]} ${number(note.dcr) * factor}`,
    ],
    W: () => [
      `L_${ref} ${nets[0]} ${ref}_d ${number(note.henry)}`,
      `RD_${ref} ${ref}_d ${nets[1]} ${number(note.dcr) * factor}`,
    ],
    V: () => [`V_${ref} ${nets.join(' ')} DC ${number(value)}`],
    D: () => [
      `D_${ref} ${nets.join(' ')} ${value}_${ref}`,
      own.model.replace(` ${value} `, ` ${value}_${ref} `),
    ],
    Q: () => [
      `Q_${ref} ${nets.join(' ')} ${value}_${ref}`,
      own.model.replace(` ${value} `, ` ${value}_${ref} `),
    ],
  }[kind]();
  return [...lines, ...extra];
}

/** A model line with some of its values times a factor each. */
export function scaledModel(line, factors) {
  return line.replace(/(\w+)=([\d.e+-]+(?:meg|[tgkmunpf])?)/gi, (whole, name, value) =>
    factors[name] ? `${name}=${(number(value) * factors[name]).toPrecision(6)}` : whole,
  );
}

/** The board as its sheet has it: every factor 1. */
export function nominalSpecimen(board) {
  return new Map(
    board.parts.map((part) => [
      part.ref,
      {
        factor: 1,
        esrFactor: 1,
        esr: number(part.note.esr ?? '0.01'),
        model: board.models[part.value],
      },
    ]),
  );
}

/**
 * Exact values of readings on boards: jobs are { board, specimen, faults: [{ ref, mode, severity
 * }], asked: [{ kind, at, to }] }; gives for each the values, ohms beyond the last range as 'OL'.
 */
export function read(scratch, jobs) {
  const out = [];
  for (let from = 0; from < jobs.length; from += JOBS_A_RUN)
    out.push(...readOrSplit(scratch, jobs.slice(from, from + JOBS_A_RUN)));
  return out;
}

const JOBS_A_RUN = 40;
/**
 * A circuit on which the simulator takes longer than this, seconds a job, never comes to rest
 * there.
 */
const MOST_SECONDS = { start: 4, job: 1.5 };

/**
 * Reads jobs in one run; where that does not end, in two, until the job is alone that has no
 * answer: its values are undefined.
 */
function readOrSplit(scratch, jobs) {
  try {
    return readSome(scratch, jobs);
  } catch {
    if (jobs.length === 1) return [jobs[0].asked.map(() => undefined)];
    const half = jobs.length >> 1;
    return [
      ...readOrSplit(scratch, jobs.slice(0, half)),
      ...readOrSplit(scratch, jobs.slice(half)),
    ];
  }
}

function readSome(scratch, jobs) {
  const commands = ['set numdgt=9'];
  jobs.forEach((job, j) => {
    const asked = job.asked.map((one, k) => ({ ...one, k }));
    const volts = asked.filter(({ kind }) => kind === 'voltage');
    const others = asked.filter(({ kind }) => kind !== 'voltage');
    const circuit = (powered) => [
      ...job.board.parts
        .filter(({ kind }) => powered || kind !== 'V')
        .flatMap((part) =>
          partLines(
            part,
            job.specimen.get(part.ref),
            job.faults.filter(({ ref }) => ref === part.ref),
          ),
        ),
      ...job.board.nets.map((net, n) => `R_anchor${n} ${net} 0 ${ANCHOR_OHM}`),
    ];
    const voltOf = ({ at, to }) =>
      `${at === '0' ? '0' : `v(${at})`}${to === '0' ? '' : `-v(${to})`}`;
    const source = (name, powered, lines) => {
      const file = join(scratch, `${name}.cir`);
      writeFileSync(
        file,
        [
          'reading',
          ...circuit(powered),
          ...lines,
          '.options reltol=1e-6 abstol=1e-15 vntol=1e-9 gmin=1e-13 itl1=500',
          '.end',
          '',
        ].join('\n'),
      );
      commands.push(`source ${file}`);
    };
    if (volts.length > 0) {
      source(
        `on${j}`,
        true,
        volts.map(({ at, to, k }) => `R_m${k} ${at} ${to} ${AWAY_OHM}`),
      );
      for (const one of volts)
        commands.push(
          `alter r_m${one.k} = ${METER_OHM}`,
          'op',
          `let x = ${voltOf(one)}`,
          `echo V ${j} ${one.k} 0`,
          'print x',
          `alter r_m${one.k} = ${AWAY_OHM}`,
        );
    }
    if (others.length > 0) {
      source(
        `off${j}`,
        false,
        others.map(
          ({ kind, at, to, k }) => `I_m${k} ${to} ${at} DC 0${kind === 'esr' ? ' AC 1' : ''}`,
        ),
      );
      for (const one of others) {
        if (one.kind === 'esr') {
          for (const two of others)
            if (two.kind === 'esr')
              commands.push(`alter i_m${two.k} acmag = ${two === one ? 1 : 0}`);
          commands.push(
            'ac lin 1 100k 100k',
            `let x = real(${voltOf(one)})`,
            `echo V ${j} ${one.k} 0`,
            'print x',
          );
          continue;
        }
        const currents =
          one.kind === 'diode' ? [DIODE_AMPERE] : OHM_RANGES.map(([, ampere]) => ampere);
        for (const ampere of currents)
          commands.push(
            `alter i_m${one.k} dc = ${ampere}`,
            'op',
            `let x = ${voltOf(one)}`,
            `echo V ${j} ${one.k} ${ampere}`,
            'print x',
          );
        commands.push(`alter i_m${one.k} dc = 0`);
      }
    }
    commands.push('destroy all', 'remcirc');
    if (volts.length > 0 && others.length > 0) commands.push('remcirc');
  });
  const file = join(scratch, 'run.cir');
  writeFileSync(
    file,
    ['run', 'R1 1 0 1', 'V1 1 0 1', '.control', ...commands, 'quit 0', '.endc', '.end', ''].join(
      '\n',
    ),
  );
  const results = jobs.map(({ asked }) => asked.map(() => []));
  let current;
  for (const line of runDeck(file, MOST_SECONDS.start + MOST_SECONDS.job * jobs.length).split(
    '\n',
  )) {
    const mark = /^V (\d+) (\d+) (\S+)/.exec(line);
    if (mark) current = { j: Number(mark[1]), k: Number(mark[2]), ampere: Number(mark[3]) };
    const value = /^x = (\S+)/.exec(line);
    if (!value || !current) continue;
    results[current.j][current.k].push({ ampere: current.ampere, volt: Number(value[1]) });
    current = undefined;
  }
  return results.map((values, j) =>
    values.map((points, k) => shown(jobs[j].asked[k].kind, points)),
  );
}

/**
 * What a meter makes of the volts found for each test current; undefined where the simulator had no
 * answer.
 */
function shown(kind, points) {
  if (kind === 'voltage' || kind === 'esr') return points[0]?.volt;
  if (kind === 'diode')
    return points[0] === undefined
      ? undefined
      : points[0].volt >= DIODE_OVERLOAD
        ? 'OL'
        : points[0].volt;
  if (points.length < OHM_RANGES.length) return undefined;
  const fit = points.find(
    ({ ampere, volt }) =>
      volt <= OHM_VOLT_LIMIT && volt / ampere <= OHM_RANGES.find(([, one]) => one === ampere)[0],
  );
  return fit ? Math.max(0, fit.volt / fit.ampere) : 'OL';
}
