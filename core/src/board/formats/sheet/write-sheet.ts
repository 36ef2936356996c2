import { formatTolerance } from '../../../quantity';
import { NO_LIBRARY, type DeviceLibrary } from '../../library';
import { unsaidNet } from '../../part-words';
import type { Board, Part } from '../../schema';
import { diodeModel, transistorModel } from '../../common-models';
import type { DeckModel } from '../deck-models';
import { modelCards } from '../deck-writer';
import { asWritten } from '../not-known';
import { partValue } from '../parts-list';
import { readSheetLines } from './read-sheet';
import { canonical, writeSheetLines } from './sheet-lines';
import { wordFor } from './sheet-words';

/**
 * Writes a board as a bench sheet. Every line is read again before it is let out: what bench words
 * do not tell of a part stands behind them as JSON, so that nothing is lost.
 */
export function writeSheet(board: Board, library: DeviceLibrary = NO_LIBRARY): string {
  const lines = writeSheetLines(board);
  const models = modelsOf(board);
  lines.push(
    ...modelCards({ parts: board.parts.filter((part) => isOwnModel(part)) }).map((card) =>
      card.slice(1),
    ),
  );
  let section: string | undefined;
  lines.push('');
  for (const part of board.parts) {
    const { section: named, ...own } = part;
    const isPlain = named === undefined || PLAIN_SECTION.test(named);
    if (isPlain && named !== section) {
      section = named;
      lines.push('', section === undefined ? '==' : `== ${section} ==`);
    }
    // One that no header can name is written on the line of its part, behind no header.
    if (!isPlain && section !== undefined) lines.push('', '==');
    if (!isPlain) section = undefined;
    lines.push(partLine(isPlain ? own : part, library, models));
  }
  return `${lines.join('\n')}\n`;
}

/** A name of a section that its header gives back as it is. */
const PLAIN_SECTION = /^[^\s=](?:[^\r\n=]*[^\s=])?$/;

type Models = ReadonlyMap<string, DeckModel>;

/** Whether a diode or transistor is of a model that its name alone does not bring. */
function isOwnModel(part: Part): boolean {
  if (part.kind === 'diode') {
    const { name, ...body } = part.model;
    const { known, ...common } = diodeModel(name);
    return !known || canonical(common) !== canonical({ name, ...body });
  }
  return (
    part.kind === 'transistor' &&
    canonical(transistorModel(part.model.name)) !== canonical(part.model)
  );
}

function modelsOf({ parts }: Board): Models {
  const models = new Map<string, DeckModel>();
  for (const part of parts)
    if ((part.kind === 'diode' || part.kind === 'transistor') && isOwnModel(part))
      models.set(part.model.name.toLowerCase(), {
        kind: part.kind,
        model: part.model,
      } as DeckModel);
  return models;
}

/** One part as a line. models: those that the sheet describes itself. */
export function partLine(part: Part, library: DeviceLibrary, models: Models = new Map()): string {
  const words = wordsFor(part, library);
  const { note, ...said } = part;
  const remark = note === undefined ? '' : ` # ${note}`;
  for (const [line, meant] of [
    [`${words}${remark}`, part],
    [words, part],
  ] as const)
    if (isRead(line, meant, library, models)) return line;
  const more = lacking(words, part, library, models);
  if (more !== undefined) {
    const line = `${words} json=${JSON.stringify(more)}`;
    if (isRead(line, part, library, models)) return line;
  }
  return `part ${part.ref} json=${JSON.stringify(asWritten({ ...said, ...(note === undefined ? {} : { note }) } as Part))}`;
}

function isRead(line: string, part: Part, library: DeviceLibrary, models: Models): boolean {
  const { board, issues } = readSheetLines(line, library, models);
  return (
    issues.length === 0 && board.parts.length === 1 && canonical(board.parts[0]) === canonical(part)
  );
}

/** The fields that words alone do not bring; undefined where they bring some that are not there. */
function lacking(
  words: string,
  part: Part,
  library: DeviceLibrary,
  models: Models,
): Record<string, unknown> | undefined {
  const [read] = readSheetLines(words, library, models).board.parts;
  if (!read || read.kind !== part.kind) return undefined;
  if (Object.keys(read).some((key) => !(key in part))) return undefined;
  return Object.fromEntries(
    Object.entries(part).filter(
      ([key, value]) =>
        canonical(value) !== canonical((read as unknown as Record<string, unknown>)[key]),
    ),
  );
}

function wordsFor(part: Part, library: DeviceLibrary): string {
  const { ref } = part;
  const ends = part.pins.map((net, i) => (net === unsaidNet(ref, i + 1) ? '?' : net));
  const named = (names: readonly string[]): string =>
    ends.flatMap((net, i) => (net === '?' ? [] : [`${names[i] ?? i + 1}=${net}`])).join(' ');
  const value = partValue(part);
  const attributes = attributesOf(part);
  const line = (...words: readonly (string | undefined)[]): string =>
    [ref, ...words, ...attributes].filter((word) => word !== undefined && word !== '').join(' ');
  switch (part.kind) {
    case 'resistor':
    case 'inductor':
      return line(
        kindWord(part, 'R', 'L'),
        ...ends,
        value,
        part.rating && quotedRating(part.rating),
      );
    case 'capacitor':
      return line(
        kindWord(part, 'C'),
        ...ends,
        value,
        part.ratedVolt === undefined ? '' : `${part.ratedVolt}V`,
        part.dielectric,
      );
    case 'winding':
      return line(/^M\d/.test(ref) ? '' : 'winding', ...ends, value);
    case 'voltageSource':
      return /^(J|P|CN)\d/.test(ref)
        ? line(`${part.volt}V in:`, named([]))
        : line(/^V\d/.test(ref) ? '' : 'supply', ...ends, `${part.volt}V`);
    case 'currentSource':
      return line(...ends, `${part.ampere}A`);
    case 'diode':
      return line(/^D\d/.test(ref) ? '' : 'diode', ...ends, part.model.name);
    case 'transistor':
      return line(/^Q\d/.test(ref) ? '' : 'transistor', part.model.name, named(['c', 'b', 'e']));
    case 'fuse':
      return line(/^F\d/.test(ref) ? '' : 'fuse', ...ends, part.rating);
    case 'switch':
      return line(
        /^(S|SW)\d/.test(ref) ? '' : 'switch',
        ...ends,
        part.rest === 'open' ? 'open' : '',
      );
    case 'connectorPin':
      return line(/^(J|P|CN)\d/.test(ref) ? '' : 'pin', ...ends);
    case 'link':
      return line(/^(W|JP)\d/.test(ref) ? '' : 'link', ...ends);
    case 'chip':
    case 'regulator':
    case 'amplifier':
      return line(library.find(part.model.name) ? part.model.name : 'box', named([]));
    case 'opto':
      return line('opto', named(['a', 'k', 'c', 'e']));
    case 'relay':
      return line('relay', named(['coil1', 'coil2', 'common', 'rest', 'work']));
    case 'transformer':
      return line('transformer', named(['p1', 'p2', 's1', 's2']));
    default:
      return line('box', named([]));
  }
}

/** The word that says what a part is where the letters of its designator do not. */
function kindWord({ ref, kind }: Part, ...letters: readonly string[]): string {
  const own = /^[A-Za-z]+/.exec(ref)?.[0].toUpperCase() ?? '';
  return letters.includes(own) || (kind === 'resistor' && own === 'RN') ? '' : kind;
}

const quotedRating = (rating: string): string => `rating=${wordFor(rating)}`;

function attributesOf(part: Part): string[] {
  const pairs: string[] = [];
  const add = (key: string, value: number | string | undefined): void => {
    if (value !== undefined)
      pairs.push(`${key}=${typeof value === 'number' ? value : wordFor(value)}`);
  };
  if (part.tolerance !== undefined) pairs.push(`tol=${formatTolerance(part.tolerance)}`);
  if (part.kind === 'capacitor') add('esr', part.esrOhm);
  if (part.kind === 'inductor' || part.kind === 'winding') add('dcr', part.dcResistanceOhm);
  if (part.kind === 'relay') {
    add('coil', part.coilOhm);
    add('pullin', part.pullInVolt);
  }
  if (part.kind === 'transformer') {
    add('primary', part.primaryOhm);
    add('secondary', part.secondaryOhm);
    add('peak', part.peakVolt);
  }
  if (part.kind === 'opto') add('ratio', part.transferRatio);
  if (part.positionMm) add('pos', part.positionMm.join(','));
  if (part.pinPositionsMm && part.pinPositionsMm.length > 0)
    add('pins', part.pinPositionsMm.map((place) => place?.join(',') ?? '-').join(';'));
  add('side', part.side);
  add('role', part.role);
  add('fit', part.fitYear);
  if (!['resistor', 'inductor', 'fuse'].includes(part.kind)) add('rating', part.rating);
  add('package', part.package);
  return pairs;
}
