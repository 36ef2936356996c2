import type { FileIssue } from '../../issue';
import { Board } from '../../schema';
import type { SheetLine, SheetWord } from './sheet-words';
import { wordFor } from './sheet-words';

/** What a sheet says beside its parts. */
export type SheetParts = Omit<Board, 'format' | 'version' | 'parts'>;

type Wrong = Omit<FileIssue, 'line'>;
type List = 'setups' | 'observables' | 'edges' | 'testPoints' | 'hazards' | 'rings';
type RowOf<L extends List> = NonNullable<Board[L]>[number];

interface Word {
  readonly list: List;
  readonly example: string;
  /** A row out of the words behind the first one; undefined where they do not make one. */
  readonly read: (words: readonly string[]) => unknown;
}

const LISTS: readonly List[] = ['edges', 'testPoints', 'hazards', 'setups', 'observables', 'rings'];

/** Lines that begin with one of these words speak of the sheet and not of a part. */
const WORDS: Readonly<Record<string, Word>> = {
  edge: {
    list: 'edges',
    example: 'edge VREF the head board hangs on it',
    read: ([net, ...note]) => ({ net, ...(note.length > 0 ? { note: note.join(' ') } : {}) }),
  },
  point: {
    list: 'testPoints',
    example: 'point TP3 VREF',
    read: ([label, net, at]) => {
      const place = at?.split(',').map(Number);
      return { net, label, ...(place ? { positionMm: place } : {}) };
    },
  },
  hazard: {
    list: 'hazards',
    example: 'hazard stored-charge C1 holds 300 V after switching off',
    read: ([kind, ref, ...note]) => ({
      kind,
      ...(ref === '-' ? {} : { ref }),
      note: note.join(' '),
    }),
  },
  ring: { list: 'rings', example: 'ring U3.2 U5.4 beep at=2026-11-28T09:30Z', read: readRing },
  setup: { list: 'setups', example: 'setup lid-open: thrown S1 S2, unplugged J3', read: readSetup },
  see: {
    list: 'observables',
    example: 'see lamp-lit "lamp lit": amps D2 5m..',
    read: readObservable,
  },
};

export const isSheetWord = (word: string): boolean =>
  Object.hasOwn(WORDS, word) || word === 'title' || word === 'outline' || word === 'no';

/** Adds what a line says to the sheet, or says what is wrong with it. */
export function readSheetWord(
  sheet: SheetParts,
  first: string,
  words: readonly SheetWord[],
  line: SheetLine,
): Wrong | undefined {
  const texts = words.map(({ text }) => text);
  if (first === 'title') {
    const title = line.json === undefined ? texts.join(' ') : plainText(line.json);
    if (title === undefined || title === '')
      return { what: 'no title', expected: 'title CR40-SRV servo board' };
    sheet.title = title.slice(0, 200);
    return undefined;
  }
  if (first === 'outline') {
    const sides = /^(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)$/.exec(texts.join('').replace(/mm$/i, ''));
    const [width, height] = sides ? [Number(sides[1]), Number(sides[2])] : [0, 0];
    if (!(width > 0 && height > 0))
      return { what: 'no outline', expected: 'millimetres such as outline 100 x 80' };
    sheet.outlineMm = { width, height };
    return undefined;
  }
  if (first === 'no') {
    const list = texts[0] as List;
    if (!LISTS.includes(list))
      return { what: 'no list of that name', expected: `no and one of ${LISTS.join(', ')}` };
    (sheet[list] as unknown[]) = [];
    return undefined;
  }
  const { list, example, read } = WORDS[first]!;
  let row: unknown;
  try {
    row = line.json === undefined ? read(texts) : JSON.parse(line.json);
  } catch {
    return { what: `${first}: json= cannot be read`, expected: 'a JSON object' };
  }
  const parsed = Board.shape[list].safeParse([row]);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return {
      what: `${first}: ${issue!.path.slice(1).join('.')} ${issue!.message}`.trim(),
      expected: `a line such as ${example}`,
    };
  }
  (sheet[list] as unknown[] | undefined) = [...(sheet[list] ?? []), parsed.data![0]];
  return undefined;
}

/** `U3.2 U5.4 beep at=2026-11-28T09:30Z by=Isbet reading="case 101" ` */
function readRing([a, b, said, ...pairs]: readonly string[]): unknown {
  if (said !== 'beep' && said !== 'open') return undefined;
  const more = pairs.map(
    (pair) => [pair.split('=')[0]!, pair.slice(pair.indexOf('=') + 1)] as const,
  );
  return more.every(([key]) => ['at', 'by', 'reading'].includes(key))
    ? { a, b, joined: said === 'beep', ...Object.fromEntries(more) }
    : undefined;
}

function plainText(json: string): string | undefined {
  try {
    const value: unknown = JSON.parse(json);
    return typeof value === 'string' ? value : undefined;
  } catch {
    return undefined;
  }
}

const SETUP_LISTS = ['blocked', 'thrown', 'unplugged'] as const;

/** `lid-open: blocked U5, thrown S1 S2, turning M1 3` */
function readSetup([head = '', ...rest]: readonly string[]): unknown {
  const row: Record<string, unknown> = { name: head.replace(/:$/, '') };
  for (const clause of rest.join(' ').split(',')) {
    const [word = '', ...names] = clause.trim().split(/\s+/);
    if (word === '') continue;
    if (word === 'turning')
      row.turning = Object.fromEntries(
        names.flatMap((name, i) =>
          i % 2 === 0 ? [[name, Number((names[i + 1] ?? '').replace(/V$/i, ''))]] : [],
        ),
      );
    else if ((SETUP_LISTS as readonly string[]).includes(word)) row[word] = names;
    else return undefined;
  }
  return row;
}

const RANGE = /^(-?[\d.]+(?:e-?\d+)?)?\.\.(-?[\d.]+(?:e-?\d+)?)?$/i;

function limitsOf(text: string | undefined): object | undefined {
  const found = RANGE.exec(text ?? '');
  if (!found || (found[1] === undefined && found[2] === undefined)) return undefined;
  return {
    ...(found[1] === undefined ? {} : { least: Number(found[1]) }),
    ...(found[2] === undefined ? {} : { most: Number(found[2]) }),
  };
}

/** `lamp-lit "lamp lit" in lid-open: amps D2 0.005.., volts VM to 0 8..10, level RES 1 P` */
function readObservable([name, title, ...rest]: readonly string[]): unknown {
  const words = [...rest];
  const row: Record<string, unknown> = { name, title: title?.replace(/:$/, '') };
  if (words[0] === 'in') row.setup = words.splice(0, 2)[1]?.replace(/:$/, '');
  row.when = words
    .join(' ')
    .split(/,\s*/)
    .filter(Boolean)
    .map((clause) => {
      const [type, at, ...more] = clause.trim().split(/\s+/);
      if (type === 'amps') return { type: 'ampere', ref: at, ...limitsOf(more[0]) };
      if (type === 'level') return { type: 'level', at, is: more };
      if (type !== 'volts' && type !== '|volts|') return undefined;
      const to = more[0] === 'to' ? more.splice(0, 2)[1] : undefined;
      return {
        type: 'volts',
        at,
        ...(to === undefined ? {} : { to }),
        ...(type === '|volts|' ? { magnitude: true } : {}),
        ...limitsOf(more[0]),
      };
    });
  return row;
}

const range = ({
  least,
  most,
}: {
  least?: number | undefined;
  most?: number | undefined;
}): string => `${least ?? ''}..${most ?? ''}`;

/** Lines of what a sheet says beside its parts. json is what a line falls back to where words do not tell it. */
export function writeSheetLines(board: Board): string[] {
  const { title } = board;
  const isPlain = /^[^\s"#]+( [^\s"#]+)*$/.test(title) && !title.includes('json=');
  const lines = [`title ${isPlain ? title : `json=${JSON.stringify(title)}`}`];
  if (board.outlineMm) lines.push(`outline ${board.outlineMm.width} x ${board.outlineMm.height}`);
  const put = <L extends List>(word: string, list: L, words: (row: RowOf<L>) => string): void => {
    for (const row of board[list] ?? [])
      lines.push(lineOf(word, list, row, words(row as RowOf<L>)));
  };
  for (const list of LISTS) if (board[list]?.length === 0) lines.push(`no ${list}`);
  put('edge', 'edges', ({ net, note }) => [net, note ?? ''].join(' ').trim());
  put('point', 'testPoints', ({ net, label, positionMm }) =>
    [wordFor(label), net, positionMm?.join(',') ?? ''].join(' ').trim(),
  );
  put('setup', 'setups', (setup) => {
    const clauses = SETUP_LISTS.flatMap((key) =>
      setup[key] ? [`${key} ${setup[key].join(' ')}`] : [],
    );
    if (setup.turning)
      clauses.push(
        `turning ${Object.entries(setup.turning)
          .map((pair) => pair.join(' '))
          .join(' ')}`,
      );
    return `${setup.name}: ${clauses.join(', ')}`.trim();
  });
  put('see', 'observables', ({ name, title, setup, when }) => {
    const clauses = when.map((one) => {
      if (one.type === 'ampere') return `amps ${one.ref} ${range(one)}`;
      if (one.type === 'level') return `level ${one.at} ${one.is.join(' ')}`;
      const to = one.to === undefined ? '' : ` to ${one.to}`;
      return `${one.magnitude ? '|volts|' : 'volts'} ${one.at}${to} ${range(one)}`;
    });
    return `${name} "${title}"${setup === undefined ? '' : ` in ${setup}`}: ${clauses.join(', ')}`;
  });
  put('ring', 'rings', ({ a, b, joined, ...told }) =>
    [
      ...[a, b, joined ? 'beep' : 'open'],
      ...(['at', 'by', 'reading'] as const).flatMap((key) =>
        told[key] === undefined ? [] : [`${key}=${wordFor(told[key])}`],
      ),
    ].join(' '),
  );
  put('hazard', 'hazards', ({ kind, ref, note }) => `${kind} ${ref ?? '-'} ${note}`);
  return lines;
}

/** The line of one continuity test. */
export function ringLine(told: RowOf<'rings'>): string {
  return writeSheetLines({
    format: 'hanzai-board',
    version: 1,
    title: 'x',
    parts: [],
    rings: [told],
  }).at(-1)!;
}

/** The words of a row where they mean it whole, else its JSON. */
function lineOf(word: string, list: List, row: unknown, words: string): string {
  const sheet: SheetParts = { title: '' };
  const read = splitWords(words);
  const wrong = readSheetWord(sheet, word, read, { words: read });
  const same =
    !wrong &&
    !/[\r\n#"]/.test(words.replace(/"[^"]*"/g, '')) &&
    canonical((sheet[list] as unknown[] | undefined)?.[0]) === canonical(row);
  return same ? `${word} ${words}` : `${word} json=${JSON.stringify(row)}`;
}

function splitWords(text: string): SheetWord[] {
  return (text.match(/(?:[^\s"]|"[^"]*")+/g) ?? []).map((word) => ({
    text: word.replace(/"/g, ''),
    quoted: word.includes('"'),
  }));
}

/** The same text for equal values, whatever the order of their fields. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_, one: unknown) =>
    typeof one === 'object' && one !== null && !Array.isArray(one)
      ? Object.fromEntries(Object.entries(one).sort(([a], [b]) => (a < b ? -1 : 1)))
      : one,
  );
}
