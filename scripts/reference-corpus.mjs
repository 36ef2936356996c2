// Writes core/test/reference/corpus/BOARD.json for each deck there (or for those named): faults of
// any severity, pairs of cause and effect and sound boards, read off boards within tolerance by a
// general circuit simulator (Debian package ngspice), with sheets that are wrong somewhere. Shares
// no code with the engine it is to check. Run by hand:  node scripts/reference-corpus.mjs [BOARD]…
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  nominalSpecimen,
  number,
  read,
  readBoard,
  scaledModel,
} from './reference-corpus/bench.mjs';
import {
  causalPairs,
  display,
  drawFault,
  drawMeter,
  drawSheet,
  faultsOf,
  generator,
  specimenOf,
} from './reference-corpus/draw.mjs';
import { simulatorVersion } from './simulator.mjs';

const SINGLES = 30;
const PAIRS = 12;
const SOUND = 12;
/**
 * Points of a range of severities at which another fault is held against the true one, at first and
 * about the best of them.
 */
const COARSE = 7;
const FINE = 11;
/**
 * Uncertainty taken for telling two faults apart, within tolerance and meter: share of the value
 * and a floor in the reading's unit.
 */
const UNSURE = {
  voltage: [0.02, 0.02],
  resistance: [0.04, 0.3],
  esr: [0.15, 0.05],
  diode: [0.02, 0.015],
};
/** A reading tells two apart, or is off a sound board's, beyond so many of these. */
const APART = 2;

const folder = new URL('../core/test/reference/corpus/', import.meta.url).pathname;
const scratch = mkdtempSync(join(tmpdir(), 'corpus-'));

/**
 * Everything that is read on a board: every net against ground, what carries current end to end,
 * every capacitor and junction.
 */
function candidates(board) {
  const supplied = new Set(
    board.parts.filter(({ kind }) => kind === 'V').map(({ nets }) => nets[0]),
  );
  const across = (kind, list) => list.map(({ nets: [at, to] }) => ({ kind, at, to }));
  return [
    ...board.nets.map((at) => ({ kind: 'voltage', at, to: '0' })),
    ...board.nets
      .filter((net) => !supplied.has(net))
      .map((at) => ({ kind: 'resistance', at, to: '0' })),
    ...across(
      'resistance',
      board.parts.filter(
        (part) => 'FJLWS'.includes(part.kind) || (part.kind === 'R' && number(part.value) <= 1000),
      ),
    ),
    ...across(
      'diode',
      board.parts.filter(({ kind }) => kind === 'D'),
    ),
    ...across(
      'esr',
      board.parts.filter(({ kind, note }) => kind === 'C' && note.kind === 'electrolytic'),
    ),
  ].filter(({ at, to }) => at !== to);
}

function distance(kind, a, b) {
  if (a === 'OL' || b === 'OL') return a === b ? 0 : 99;
  if (a === undefined || b === undefined) return 99;
  const [share, floor] = UNSURE[kind];
  return Math.abs(a - b) / Math.hypot(share * Math.max(Math.abs(a), Math.abs(b)), floor);
}

const farthest = (asked, a, b) =>
  Math.max(...asked.map(({ kind }, k) => distance(kind, a[k], b[k])));

/** Rails first: what a person reads before anything is suspected. */
function railsOf(board) {
  const pins = (net) => board.parts.filter(({ nets }) => nets.includes(net)).length;
  return [...board.nets].sort((a, b) => pins(b) - pins(a)).slice(0, 3);
}

/** Which readings are taken: rails, some that are off, some that are not. */
function choose(draw, board, asked, healthy, values) {
  const rails = railsOf(board);
  const isRail = ({ at, to, kind }) =>
    to === '0' && rails.includes(at) && (kind === 'voltage' || kind === 'resistance');
  const off = asked.flatMap((one, k) =>
    distance(one.kind, healthy[k], values[k]) > 1.5 * APART ? [k] : [],
  );
  const first = asked.flatMap((one, k) => (isRail(one) ? [k] : []));
  const all = asked.map((_, k) => k);
  const chosen = new Set([
    ...draw.some(first, 2 + Math.floor(2 * draw.random())),
    ...draw.some(off, 2 + Math.floor(3 * draw.random())),
    ...draw.some(all, 1 + Math.floor(2 * draw.random())),
  ]);
  return { chosen: [...chosen].sort((a, b) => a - b), seen: off.some((k) => chosen.has(k)) };
}

const spaced = (low, high, count) =>
  low === high
    ? [low]
    : Array.from({ length: count }, (_, i) => low * (high / low) ** (i / (count - 1)));

/**
 * Every fault of a board at the coarse points of its range, read everywhere on the nominal board.
 */
function dictionaryOf(board, faults, asked) {
  const specimen = nominalSpecimen(board);
  const entries = faults.flatMap((fault) =>
    spaced(fault.low, fault.high, COARSE).map((severity) => ({ ...fault, severity })),
  );
  return {
    entries,
    values: read(
      scratch,
      entries.map((fault) => ({ board, specimen, faults: [fault], asked })),
    ),
  };
}

/**
 * Parts of which some fault, beside those in `others`, gives the same readings as the truth on the
 * nominal board. coarse: entries and their values at `asked`.
 */
function alikes(board, truth, others, { entries, values }, asked) {
  const specimen = nominalSpecimen(board);
  const job = (fault) => ({ board, specimen, faults: [...others, fault], asked });
  const [own] = read(scratch, [job(truth)]);
  const found = new Set([truth.ref]);
  const byFault = grouped(entries);
  const fine = [];
  for (const list of byFault.values()) {
    const far = list.map((e) => farthest(asked, own, values[e]));
    const best = far.indexOf(Math.min(...far));
    const rival = entries[list[best]];
    if (rival.ref === truth.ref || others.some(({ ref }) => ref === rival.ref)) continue;
    if (far[best] <= APART) found.add(rival.ref);
    else if (far[best] < 60 && list.length > 1)
      fine.push(
        ...spaced(
          entries[list[Math.max(0, best - 1)]].severity,
          entries[list[Math.min(list.length - 1, best + 1)]].severity,
          FINE,
        ).map((severity) => ({
          ...rival,
          severity,
        })),
      );
  }
  const open = fine.filter(({ ref }) => !found.has(ref));
  read(scratch, open.map(job)).forEach((got, i) => {
    if (farthest(asked, own, got) <= APART) found.add(open[i].ref);
  });
  return [...found];
}

function grouped(entries) {
  const groups = new Map();
  entries.forEach(({ ref, mode }, e) =>
    groups.set(`${ref}:${mode}`, [...(groups.get(`${ref}:${mode}`) ?? []), e]),
  );
  return groups;
}

/**
 * The parts alike to each fault of a case: of a single one against everything, of one of a pair
 * against what opens or shorts as it does.
 */
function alikesOf(board, own, faults, dictionary, asked, chosen) {
  const taken = chosen.map((k) => asked[k]);
  return own.map((one) => {
    const others = own.filter((other) => other !== one);
    if (others.length === 0)
      return alikes(
        board,
        one,
        [],
        {
          entries: dictionary.entries,
          values: dictionary.values.map((row) => chosen.map((k) => row[k])),
        },
        taken,
      );
    const rivals = faults.filter(({ mode }) =>
      one.mode === 'open' ? mode.startsWith('open') : mode.startsWith('short') || mode === 'leaky',
    );
    const entries = rivals.flatMap((rival) =>
      spaced(rival.low, rival.high, 5).map((severity) => ({ ...rival, severity })),
    );
    const specimen = nominalSpecimen(board);
    return alikes(
      board,
      one,
      others,
      {
        entries,
        values: read(
          scratch,
          entries.map((fault) => ({ board, specimen, faults: [...others, fault], asked: taken })),
        ),
      },
      taken,
    );
  });
}

const named = process.argv.slice(2);
for (const [b, file] of readdirSync(folder)
  .filter((name) => name.endsWith('.cir'))
  .sort()
  .entries()) {
  if (named.length > 0 && !named.includes(file.replace('.cir', ''))) continue;
  const rows = [];
  const board = readBoard(join(folder, file));
  const draw = generator(20261127 + b);
  const asked = candidates(board);
  const faults = faultsOf(board);
  const pairs = causalPairs(board, faults, number);
  const nominal = nominalSpecimen(board);
  const [healthy] = read(scratch, [{ board, specimen: nominal, faults: [], asked }]);
  const dictionary = dictionaryOf(board, faults, asked);
  const wanted = [
    ...Array(SINGLES).fill('single'),
    ...Array(PAIRS).fill('pair'),
    ...Array(SOUND).fill('sound'),
  ];
  for (const kind of wanted) {
    for (let tries = 0; tries < 40; tries += 1) {
      const own =
        kind === 'single'
          ? [drawFault(draw, faults)]
          : kind === 'pair'
            ? draw.pick(pairs).map((one) => drawFault(draw, [one]))
            : [];
      const specimen = specimenOf(draw, nominal, board, scaledModel);
      const [values] = read(scratch, [{ board, specimen, faults: own, asked }]);
      if (values.some((value) => value === undefined)) continue;
      const { chosen, seen } = choose(draw, board, asked, healthy, values);
      if (kind !== 'sound' && !seen) continue;
      const taken = chosen.map((k) => asked[k]);
      // Each of a pair shows beside the other.
      const alone =
        own.length < 2
          ? []
          : read(
              scratch,
              own.map((one) => ({ board, specimen, faults: [one], asked: taken })),
            );
      if (
        alone.some(
          (without) =>
            farthest(
              taken,
              without,
              chosen.map((k) => values[k]),
            ) <= APART,
        )
      )
        continue;
      const meter = drawMeter(draw);
      const sheet = drawSheet(
        draw,
        board,
        own.map(({ ref }) => ref),
        number,
      );
      const readings = chosen.map((k) => [
        asked[k].kind,
        asked[k].at,
        asked[k].to,
        display(draw, meter, asked[k].kind, values[k]),
      ]);
      const alike = alikesOf(board, own, faults, dictionary, asked, chosen);
      rows.push({
        board: file.replace('.cir', ''),
        kind,
        truth: own.map(({ ref, mode, severity }) => [ref, mode, Number(severity.toPrecision(4))]),
        alike,
        sheet,
        meter: {
          leadOhm: Number(meter.leadOhm.toFixed(3)),
          offsetVolt: Number(meter.offsetVolt.toFixed(5)),
        },
        readings,
      });
      break;
    }
  }
  const body = rows.map((row) => `  ${JSON.stringify(row)}`).join(',\n');
  writeFileSync(
    join(folder, file.replace('.cir', '.json')),
    `{\n "simulator": "${simulatorVersion()} (Debian package ngspice)",\n "cases": [\n${body}\n ]\n}\n`,
  );
  process.stdout.write(`${file}: ${rows.length} cases\n`);
}
rmSync(scratch, { recursive: true });
