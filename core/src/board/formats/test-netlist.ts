import { MAX_ISSUES, type FileIssue, type ReadResult } from '../issue';
import type { Board, Part } from '../schema';
import { clip } from './deck-elements';

/** Units of the coordinate fields: `CUST 0` is 0.0001 inch, `CUST 1` is 0.001 mm. */
const MM_PER_STEP: Readonly<Record<string, number>> = {
  'CUST 0': 0.00254,
  'CUST 1': 0.001,
  CUST: 0.00254,
};
const NAME_WIDTH = 14;

/**
 * Writes the bare-board test netlist of a board: one record for each pin with net, designator, pin
 * and probe position. A part without a position gets none. Long net names are aliased with NNAME
 * records. Source: IPC-D-356A, record layout in columns.
 */
export function writeTestNetlist(board: Board): string {
  const aliases = new Map<string, string>();
  const records: string[] = [];
  for (const part of board.parts) {
    part.pins.forEach((net, i) => {
      let field = net;
      if (net.length > NAME_WIDTH) {
        if (!aliases.has(net)) aliases.set(net, `NNAME${aliases.size + 1}`);
        field = aliases.get(net)!;
      }
      records.push(record(field, part, i));
    });
  }
  const head = [
    `C  ${board.title.slice(0, 70)}`,
    'P  UNITS CUST 1',
    `P  TITLE ${board.title.slice(0, 60)}`,
  ];
  const names = [...aliases].map(([net, alias]) => `P  ${alias} ${net}`);
  return [...head, ...names, ...records, '999', ''].join('\n');
}

function record(net: string, part: Part, pin: number): string {
  const at = part.pinPositionsMm?.[pin] ?? part.positionMm;
  const coordinate = (mm: number): string =>
    `${mm < 0 ? '-' : '+'}${String(Math.round(Math.abs(mm) * 1000)).padStart(6, '0')}`;
  const place = at ? `A01X${coordinate(at[0])}Y${coordinate(at[1])}` : '';
  return `327${net.padEnd(NAME_WIDTH)}   ${part.ref.padEnd(6)}-${String(pin + 1).padEnd(4)}      ${place}`.trimEnd();
}

/**
 * Reads a bare-board test netlist: nets, designators, pins and probe positions. What the parts are
 * is not in such a file, so they are of kind `unspecified`.
 */
export function readTestNetlist(source: string): ReadResult<Board> {
  const issues: FileIssue[] = [];
  const aliases = new Map<string, string>();
  const found = new Map<
    string,
    { nets: Map<number, string>; places: Map<number, [number, number]> }
  >();
  let step = MM_PER_STEP['CUST 0']!;
  let title = 'test netlist';
  const lines = source.split(/\r\n|\n|\r/);
  for (let i = 0; i < lines.length && issues.length < MAX_ISSUES; i += 1) {
    const text = lines[i]!;
    if (text.startsWith('999')) break;
    if (text.startsWith('P  ')) {
      const [key = '', ...rest] = text.slice(3).trim().split(/\s+/);
      if (key === 'UNITS') step = MM_PER_STEP[rest.join(' ')] ?? step;
      else if (key === 'TITLE') title = clip(rest.join(' ')) || title;
      else if (/^NNAME/.test(key)) aliases.set(key, rest.join(' '));
      continue;
    }
    if (text.trim() === '' || /^[C0P]/.test(text)) continue;
    if (!/^3[1-9]7/.test(text)) {
      issues.push({
        line: i + 1,
        what: `cannot read "${clip(text)}"`,
        expected: 'a record 317 or 327, or C, P, 999',
      });
      continue;
    }
    const written = text.slice(3, 3 + NAME_WIDTH).trim();
    const ref = text.slice(20, 26).trim();
    const pin = Number(/^-?\s*(\d+)/.exec(text.slice(26, 31))?.[1]);
    if (ref === 'VIA' || ref === '') continue;
    if (!Number.isInteger(pin) || pin < 1 || pin > 4096 || written === '') {
      issues.push({
        line: i + 1,
        what: `no net or pin number for ${clip(ref)}`,
        expected: 'net in columns 4 to 17, designator in 21 to 26, pin in 28 to 31',
      });
      continue;
    }
    const part = found.get(ref) ?? {
      nets: new Map<number, string>(),
      places: new Map<number, [number, number]>(),
    };
    found.set(ref, part);
    part.nets.set(
      pin,
      (written === 'N/C' ? `nc_${ref}_${pin}` : (aliases.get(written) ?? written)).replace(
        /\s+/g,
        '_',
      ),
    );
    const place = /X([+-]?\d{1,6})Y([+-]?\d{1,6})/.exec(text.slice(31).replace(/\s/g, ''));
    if (place)
      part.places.set(pin, [round(Number(place[1]) * step), round(Number(place[2]) * step)]);
  }
  if (issues.length === 0 && found.size === 0)
    issues.push({
      what: 'no test records in the file',
      expected: 'lines that start with 317 or 327',
    });
  if (issues.length > 0) return { ok: false, issues };
  const parts = [...found].map(([ref, { nets, places }]) => unspecifiedPart(ref, nets, places));
  return {
    ok: true,
    value: { format: 'hanzai-board', version: 1, title, parts },
    notes: ['a test netlist does not say what the parts are: their kind is left open'],
  };
}

const round = (mm: number): number => Number(mm.toFixed(4));

function unspecifiedPart(
  ref: string,
  nets: ReadonlyMap<number, string>,
  places: ReadonlyMap<number, [number, number]>,
): Part {
  const count = Math.max(...nets.keys());
  const pins = Array.from({ length: count }, (_, i) => nets.get(i + 1) ?? `nc_${ref}_${i + 1}`);
  const known = [...places.values()];
  const middle = (axis: 0 | 1): number =>
    round(known.reduce((sum, p) => sum + p[axis], 0) / known.length);
  const pinPositionsMm = Array.from({ length: count }, (_, i) => places.get(i + 1) ?? null);
  return {
    kind: 'unspecified',
    ref,
    pins,
    ...(known.length > 0
      ? { positionMm: [middle(0), middle(1)] as [number, number], pinPositionsMm }
      : {}),
  };
}
