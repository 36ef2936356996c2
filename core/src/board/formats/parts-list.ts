import { FORMULA, plainCell } from '../csv-cells';
import Papa from 'papaparse';
import { formatCompact, formatTolerance, parseQuantity, parseTolerance } from '../../quantity';
import type { FileIssue, ReadResult } from '../issue';
import { MAX_ISSUES } from '../issue';
import type { Board, Part } from '../schema';
import { NOT_KNOWN, unknownPart } from './not-known';
import { DIODE_DEFAULT, TRANSISTOR_DEFAULT } from './deck-models';

const COLUMNS = ['ref', 'device', 'value', 'tolerance', 'rating', 'package', 'note'] as const;
/** The device may be left out: the letters of the designator say what it is. */
const NEEDED = ['ref', 'value'] as const;
/**
 * What the letters of a designator stand for. Source: IEEE 315, from memory, and common practice
 * for switches, connectors and links.
 */
// prettier-ignore
const DEVICE_OF_LETTERS: Readonly<Record<string, string>> = {
  R: 'resistor', RN: 'resistor', C: 'capacitor', L: 'inductor', D: 'diode', Q: 'transistor', F: 'fuse', S: 'switch', SW: 'switch', J: 'connectorPin', P: 'connectorPin', W: 'link',
};
/** Text of a cell; `?` is not known, as if nothing were there. */
const cell = (text: string | undefined): string =>
  text?.trim() === NOT_KNOWN ? '' : (text ?? '').trim();
type Row = Record<(typeof COLUMNS)[number], string>;

/** The value column of a part: `4k7`, `47u`, or the model's name. */
export function partValue(part: Part): string {
  if ('unknown' in part && part.unknown) return NOT_KNOWN;
  switch (part.kind) {
    case 'resistor':
      return formatCompact(part.resistanceOhm, 'ohm');
    case 'capacitor':
      return formatCompact(part.capacitanceFarad, 'F');
    case 'inductor':
    case 'winding':
      return formatCompact(part.inductanceHenry, 'H');
    case 'voltageSource':
      return formatCompact(part.volt, 'V');
    case 'currentSource':
      return formatCompact(part.ampere, 'A');
    case 'diode':
    case 'transistor':
    case 'chip':
    case 'regulator':
    case 'amplifier':
      return part.model.name;
    case 'switch':
      return part.rest;
    default:
      return '';
  }
}

/** Writes the parts list of a board as RFC 4180 CSV with a header line. */
export function writePartsList(board: Board): string {
  const rows = board.parts.map((part) => ({
    ref: part.ref,
    device:
      part.kind === 'capacitor' && part.dielectric ? `capacitor ${part.dielectric}` : part.kind,
    value: partValue(part),
    tolerance: part.tolerance === undefined ? '' : formatTolerance(part.tolerance),
    rating:
      part.rating ?? (part.kind === 'capacitor' && part.ratedVolt ? `${part.ratedVolt}V` : ''),
    package: part.package ?? '',
    note: part.note ?? '',
  }));
  return `${Papa.unparse(rows, { columns: [...COLUMNS], newline: '\r\n', escapeFormulae: FORMULA })}\r\n`;
}

/** Reads a parts list. It says nothing of nets, so every pin becomes unconnected (`nc_REF_PIN`). */
export function readPartsList(source: string): ReadResult<Board> {
  const text = source.replace(/^\uFEFF/, '');
  const [heads = []] = Papa.parse<string[]>(text, { preview: 1 }).data;
  const twice = heads.find((head, i) => head.trim() !== '' && heads.indexOf(head) < i);
  if (twice !== undefined)
    return {
      ok: false,
      issues: [
        { line: 1, what: `the column ${twice} is there twice`, expected: COLUMNS.join(',') },
      ],
    };
  const missing = NEEDED.filter((column) => !heads.includes(column));
  if (missing.length > 0)
    return {
      ok: false,
      issues: [{ line: 1, what: `no column ${missing.join(', ')}`, expected: COLUMNS.join(',') }],
    };
  const parsed = Papa.parse<Row>(text, {
    header: true,
    skipEmptyLines: true,
    transform: plainCell,
  });
  const issues: FileIssue[] = [];
  const parts: Part[] = [];
  const seen = new Set<string>();
  parsed.data.forEach((row, i) => {
    if (issues.length >= MAX_ISSUES) return;
    const result = partOfRow(row);
    if (typeof result === 'string')
      issues.push({
        line: i + 2,
        what: `${row.ref || 'row'}: ${result}`,
        expected: 'a designator, a device kind and a value',
      });
    else if (seen.has(result.ref.toLowerCase()))
      issues.push({
        line: i + 2,
        what: `${result.ref} is there twice`,
        expected: 'each designator once',
      });
    else {
      seen.add(result.ref.toLowerCase());
      parts.push(result);
    }
  });
  if (issues.length === 0 && parts.length === 0)
    issues.push({ what: 'no parts in the list', expected: 'at least one row' });
  if (issues.length > 0) return { ok: false, issues };
  return {
    ok: true,
    value: { format: 'hanzai-board', version: 1, title: 'parts list', parts },
    notes: ['a parts list has no nets: every pin is left unconnected'],
  };
}

function partOfRow(row: Row): Part | string {
  if (!row.ref || !/^\S{1,80}$/.test(row.ref)) return 'no designator';
  const [tolerance, rating, packageName, note] = [
    parseTolerance(cell(row.tolerance)),
    cell(row.rating),
    cell(row.package),
    cell(row.note),
  ];
  const [device = '', dielectric] = (
    cell(row.device) ||
    DEVICE_OF_LETTERS[/^[A-Z]+/.exec(row.ref.toUpperCase())?.[0] ?? ''] ||
    ''
  ).split(/\s+/);
  const quantity = parseQuantity(row.value ?? '');
  const value = quantity.ok && quantity.value !== 'OL' ? quantity.value : undefined;
  const isUnknown = row.value?.trim() === NOT_KNOWN;
  const pins = (count: number): string[] =>
    Array.from({ length: count }, (_, i) => `nc_${row.ref}_${i + 1}`);
  const base = {
    ref: row.ref,
    pins: pins(2),
    ...(tolerance === undefined ? {} : { tolerance }),
    ...(rating ? { rating } : {}),
    ...(packageName ? { package: packageName } : {}),
    ...(note ? { note } : {}),
  };
  switch (device.toLowerCase()) {
    case 'resistor':
      if (isUnknown) return unknownPart('resistor', base);
      return value !== undefined && value > 0
        ? { kind: 'resistor', ...base, resistanceOhm: value }
        : 'no resistance';
    case 'capacitor': {
      const kinds = ['electrolytic', 'polymer', 'tantalum', 'ceramic', 'film', 'bipolar'] as const;
      const kind = kinds.find((k) => k === dielectric);
      const ratedVolt = /^(\d+(?:\.\d+)?)\s*V$/i.exec(rating)?.[1];
      const more = {
        ...(kind ? { dielectric: kind } : {}),
        ...(ratedVolt ? { ratedVolt: Number(ratedVolt) } : {}),
      };
      if (isUnknown) return { ...unknownPart('capacitor', base), ...more } as Part;
      return value === undefined || value <= 0
        ? 'no capacitance'
        : { kind: 'capacitor', ...base, capacitanceFarad: value, ...more };
    }
    case 'inductor':
      if (isUnknown) return unknownPart('inductor', base);
      return value === undefined
        ? 'no inductance'
        : { kind: 'inductor', ...base, inductanceHenry: value };
    case 'winding':
      return value === undefined
        ? 'no inductance'
        : { kind: 'winding', ...base, inductanceHenry: value, dcResistanceOhm: 10 };
    case 'voltagesource':
      return value === undefined ? 'no voltage' : { kind: 'voltageSource', ...base, volt: value };
    case 'currentsource':
      return value === undefined ? 'no current' : { kind: 'currentSource', ...base, ampere: value };
    case 'diode':
      return { kind: 'diode', ...base, model: { name: row.value || 'D', ...DIODE_DEFAULT } };
    case 'transistor':
      return {
        kind: 'transistor',
        ...base,
        pins: pins(3),
        model: { name: row.value || 'Q', polarity: 'npn', ...TRANSISTOR_DEFAULT },
      };
    case 'switch':
      return { kind: 'switch', ...base, rest: row.value === 'open' ? 'open' : 'closed' };
    case 'fuse':
      return { kind: 'fuse', ...base };
    case 'connectorpin':
      return { kind: 'connectorPin', ...base };
    case 'link':
      return { kind: 'link', ...base };
    default:
      return { kind: 'unspecified', ...base, pins: pins(1) };
  }
}
