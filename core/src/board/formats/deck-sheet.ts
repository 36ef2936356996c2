import type { FileIssue } from '../issue';
import { Board, type Edge, type NamedSetup, type Observable } from '../schema';
import { quoted, readPairs } from './deck-annotations';
import type { DeckLine } from './deck-lines';
import { parseDeckNumber, printDeckNumber } from './deck-number';

/**
 * What a sheet has beside its parts; a deck carries it in annotations whose word begins with a full
 * stop, as no designator does.
 */
type Sheet = Pick<
  Board,
  'outlineMm' | 'setups' | 'observables' | 'edges' | 'testPoints' | 'hazards' | 'rings'
>;
type Pairs = ReadonlyMap<string, string>;
type Condition = Observable['when'][number];
/** What could not be read is left undefined here, and the schema says no. */
type Unchecked = Record<string, unknown>;

/**
 * One kind of line: which list of the board it adds to, and how its words make a row. subject: the
 * word behind the kind.
 */
// prettier-ignore
const LINES: Readonly<Record<string, { readonly list: 'setups' | 'observables' | 'edges' | 'testPoints' | 'hazards' | 'rings'; readonly row: (subject: string, pairs: Pairs) => Unchecked; readonly expected: string }>> = {
  '.edge': { list: 'edges', row: (net, pairs) => ({ net, note: pairs.get('note') }), expected: '.edge NET note="what hangs on there"' },
  '.setup': {
    list: 'setups',
    row: (name, pairs) => ({ name, blocked: listed(pairs, 'blocked'), thrown: listed(pairs, 'thrown'), unplugged: listed(pairs, 'unplugged'), turning: turning(pairs.get('turning')) }),
    expected: '.setup run blocked=U1,U2 thrown=S1 unplugged=J1 turning=G1:2.5',
  },
  '.observable': {
    list: 'observables',
    row: (name, pairs) => ({ name, title: pairs.get('title'), setup: pairs.get('setup'), when: (pairs.get('when') ?? '').split(' ; ').map(condition) }),
    expected: '.observable lamp-lit title="the lamp is lit" setup=run when="ampere D1 >=5m ; level EN 1"',
  },
  '.testpoint': { list: 'testPoints', row: (net, pairs) => ({ net, label: pairs.get('label'), positionMm: place(pairs.get('pos')) }), expected: '.testpoint NET label="TP 3" pos=12,40' },
  '.ring': { list: 'rings', row: (a, pairs) => ({ a, b: pairs.get('b'), joined: pairs.get('said') === 'beep' ? true : pairs.get('said') === 'open' ? false : undefined, at: pairs.get('at'), by: pairs.get('by'), reading: pairs.get('reading') }), expected: '.ring U3.2 b=U5.4 said=beep at=2026-11-28T09:30Z' },
  '.hazard': { list: 'hazards', row: (kind, pairs) => ({ kind, ref: pairs.get('ref'), note: pairs.get('note') }), expected: '.hazard mains ref=T1 note="…"' },
};

/** Whether an annotation speaks of the sheet and not of a part. */
export function isSheetLine({ text }: DeckLine): boolean {
  return text.startsWith('.');
}

/** Reads the lines that speak of the sheet. Lines that are not known become notes. */
export function readSheetLines(lines: readonly DeckLine[]): {
  sheet: Sheet;
  issues: FileIssue[];
  notes: string[];
} {
  const sheet: Unchecked = {};
  const issues: FileIssue[] = [];
  const notes: string[] = [];
  for (const { line, text } of lines) {
    const [word = '', subject = ''] = text.split(/\s+/);
    const kind = LINES[word.toLowerCase()];
    if (word.toLowerCase() === '.outline') {
      const size = place(subject);
      if (size && size.every((side) => side > 0))
        sheet.outlineMm = { width: size[0], height: size[1] };
      else issues.push({ line, what: 'cannot read the outline', expected: '.outline 120,80 (mm)' });
    } else if (!kind) {
      notes.push(`line ${line}: annotation ${word.slice(0, 40)} is not known, skipped`);
    } else {
      const row = Board.shape[kind.list]
        .unwrap()
        .element.safeParse(kind.row(subject, new Map(readPairs(text))));
      if (row.success)
        sheet[kind.list] = [
          ...((sheet[kind.list] as unknown[] | undefined) ?? []),
          Object.fromEntries(Object.entries(row.data).filter(([, value]) => value !== undefined)),
        ];
      else
        issues.push({
          line,
          what: `cannot read the ${word.slice(1)} ${subject.slice(0, 40)}: ${row.error.issues[0]!.path.join('.')}`,
          expected: kind.expected,
        });
    }
  }
  return { sheet: sheet as Sheet, issues, notes };
}

/** The lines of a board that speak of the sheet. */
export function printSheetLines(board: Board): string[] {
  const {
    outlineMm,
    setups = [],
    observables = [],
    edges = [],
    testPoints = [],
    hazards = [],
    rings = [],
  } = board;
  return [
    ...(outlineMm ? [line('.outline', `${outlineMm.width},${outlineMm.height}`)] : []),
    ...setups.map((setup) => line('.setup', setup.name, setupPairs(setup))),
    ...observables.map(({ name, title, setup, when }) =>
      line('.observable', name, { title, setup, when: when.map(printCondition).join(' ; ') }),
    ),
    ...edges.map(({ net, note }: Edge) => line('.edge', net, { note })),
    ...testPoints.map(({ net, label, positionMm }) =>
      line('.testpoint', net, { label, pos: positionMm?.join(',') }),
    ),
    ...hazards.map(({ kind, ref, note }) => line('.hazard', kind, { ref, note })),
    ...rings.map(({ a, b, joined, at, by, reading }) =>
      line('.ring', a, { b, said: joined ? 'beep' : 'open', at, by, reading }),
    ),
  ];
}

function line(
  word: string,
  subject: string,
  pairs: Readonly<Record<string, string | undefined>> = {},
): string {
  const shown = Object.entries(pairs).flatMap(([key, value]) =>
    value === undefined ? [] : [`${key}=${quoted(value)}`],
  );
  return ['*@', word, subject, ...shown].join(' ');
}

function setupPairs({
  blocked,
  thrown,
  unplugged,
  turning: volts,
}: NamedSetup): Record<string, string | undefined> {
  const joined =
    volts &&
    Object.entries(volts)
      .map(([ref, volt]) => `${ref}:${printDeckNumber(volt)}`)
      .join(',');
  return {
    blocked: blocked?.join(','),
    thrown: thrown?.join(','),
    unplugged: unplugged?.join(','),
    turning: joined,
  };
}

function listed(pairs: Pairs, key: string): string[] | undefined {
  return pairs
    .get(key)
    ?.split(',')
    .filter((ref) => ref !== '');
}

/** `G1:2.5,G2:-1` */
function turning(text: string | undefined): Record<string, number | undefined> | undefined {
  if (text === undefined) return undefined;
  const rows = text.split(',').filter((row) => row !== '');
  return Object.fromEntries(
    rows.map((row) => [
      row.slice(0, row.lastIndexOf(':')),
      parseDeckNumber(row.slice(row.lastIndexOf(':') + 1)),
    ]),
  );
}

function place(text: string | undefined): [number, number] | undefined {
  const [x, y, ...more] = (text ?? '')
    .split(',')
    .map((word) => (word.trim() === '' ? NaN : Number(word)));
  return Number.isFinite(x) && Number.isFinite(y) && more.length === 0 ? [x!, y!] : undefined;
}

/**
 * `volts AT [TO] >=1 <=2`, `|volts| …` without regard to the sign, `ampere REF >=5m`, `level NET
 * 1P`.
 */
function condition(text: string): Unchecked {
  const [type = '', ...words] = text.trim().split(/\s+/);
  const limits: Unchecked = {};
  const names: string[] = [];
  for (const word of words) {
    if (type !== 'level' && word.startsWith('>='))
      limits.least = parseDeckNumber(word.slice(2)) ?? NaN;
    else if (type !== 'level' && word.startsWith('<='))
      limits.most = parseDeckNumber(word.slice(2)) ?? NaN;
    else names.push(word);
  }
  const [first, second, more] = names;
  if (more !== undefined) return {};
  if (type === 'ampere') return second === undefined ? { type, ref: first, ...limits } : {};
  if (type === 'level') return { type, at: first, is: [...(second ?? '')] };
  const magnitude = type === '|volts|';
  return {
    type: magnitude ? 'volts' : type,
    at: first,
    ...(second === undefined ? {} : { to: second }),
    ...(magnitude ? { magnitude } : {}),
    ...limits,
  };
}

function printCondition(of: Condition): string {
  if (of.type === 'level') return `level ${of.at} ${of.is.join('')}`;
  const limits = [
    of.least === undefined ? '' : ` >=${printDeckNumber(of.least)}`,
    of.most === undefined ? '' : ` <=${printDeckNumber(of.most)}`,
  ].join('');
  if (of.type === 'ampere') return `ampere ${of.ref}${limits}`;
  return `${of.magnitude ? '|volts|' : 'volts'} ${of.at}${of.to === undefined ? '' : ` ${of.to}`}${limits}`;
}
