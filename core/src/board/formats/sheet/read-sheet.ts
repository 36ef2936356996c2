import type { FileIssue, ReadResult } from '../../issue';
import type { DeviceLibrary } from '../../library';
import { nameKey } from '../../nets';
import { kindSaid, lettersOf, positionalPins, unsaidNet, type PinSaid } from '../../part-words';
import { Part, type Board } from '../../schema';
import { clip } from '../deck-elements';
import { parseModelCard, type DeckModel } from '../deck-models';
import { NOT_KNOWN, withStandIns } from '../not-known';
import { arrayOf, arrayParts } from './resistor-array';
import { isSheetWord, readSheetWord, type SheetParts } from './sheet-lines';
import { makeSaid, type Context, type Wrong } from './said';
import { attributeOf, fieldsOf, pinOf, splitLine, type SheetLine } from './sheet-words';

/** A sheet as far as it could be read, whatever is wrong with some of its lines. */
export interface SheetReading {
  readonly board: Board;
  readonly issues: readonly FileIssue[];
  /** The line, from 1, on which each part stands, by nameKey of its ref. */
  readonly lines: ReadonlyMap<string, number>;
  /** Models that the sheet describes itself, by name in small letters. */
  readonly models: ReadonlyMap<string, DeckModel>;
}

/** More lines than this nobody writes, and an editor would stand still over them. */
const MOST_LINES = 20_000;

/**
 * Reads a bench sheet: one line one part, in bench words. Lines that cannot be read become issues
 * and the rest a board all the same: it is read while it is typed.
 */
export function readSheetLines(
  source: string,
  library: DeviceLibrary,
  models: ReadonlyMap<string, DeckModel> = new Map(),
): SheetReading {
  const known = new Map(models);
  const parts: Part[] = [];
  const issues: FileIssue[] = [];
  const lines = new Map<string, number>();
  const sheet: SheetParts = { title: 'bench sheet' };
  let section: string | undefined;
  const written = source.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  if (written.length > MOST_LINES)
    issues.push({
      line: MOST_LINES + 1,
      what: 'more lines than are read',
      expected: `at most ${MOST_LINES}`,
    });
  written.slice(0, MOST_LINES).forEach((text, i) => {
    const line = i + 1;
    const header = /^\s*==\s*(.*?)\s*(?:==\s*)?$/.exec(text);
    if (header) {
      section = header[1] || undefined;
      if (section && section.length > 60)
        issues.push({ line, what: 'a long name of a section', expected: 'at most 60 characters' });
      section = section?.slice(0, 60);
      return;
    }
    const split = splitLine(text);
    const [first, ...rest] = split.words;
    if (first === undefined) return;
    if (isSheetWord(first.text) && !first.quoted) {
      const issue = readSheetWord(sheet, first.text, rest, split);
      if (issue) issues.push({ line, ...issue });
      return;
    }
    if (first.text === 'model' && !first.quoted) {
      const card = parseModelCard(text.trim());
      if (card.ok) known.set(card.name.toLowerCase(), card.model);
      else issues.push({ line, what: card.what, expected: card.expected.replace(/^\./, '') });
      return;
    }
    const made = readPart(split, { library, models: known });
    if (!Array.isArray(made)) {
      issues.push({ line, ...made });
      return;
    }
    for (const part of made) {
      const key = nameKey(part.ref);
      const before = lines.get(key);
      if (before !== undefined)
        issues.push({
          line,
          what: `${part.ref} is there twice`,
          expected: `another name: line ${before} has it`,
        });
      else {
        lines.set(key, line);
        parts.push(section ? { ...part, section } : part);
      }
    }
  });
  const { title, ...more } = sheet;
  return {
    board: { format: 'hanzai-board', version: 1, title, parts, ...more },
    issues,
    lines,
    models: known,
  };
}

/** Reads a bench sheet as a board file: whole or not at all. */
export function readSheet(source: string, library: DeviceLibrary): ReadResult<Board> {
  const { board, issues } = readSheetLines(source, library);
  if (issues.length > 0) return { ok: false, issues: issues.slice(0, 20) };
  if (board.parts.length === 0)
    return {
      ok: false,
      issues: [{ what: 'no parts on the sheet', expected: 'lines such as C1 VM 0 470u 16V' }],
    };
  return { ok: true, value: board, notes: [] };
}

function readPart(split: SheetLine, context: Context): Part[] | Wrong {
  const [{ text: ref }, ...words] = split.words as [
    SheetLine['words'][number],
    ...SheetLine['words'],
  ];
  if (ref === 'part') return wholePart(split);
  if (!/^[A-Za-z][\w.+-]*\d[\w.]*$/.test(ref) || ref.length > 80)
    return {
      what: `"${clip(ref)}" is no designator and no word that a line begins with`,
      expected:
        'a part such as C1, or edge, point, setup, see, hazard, outline, title, == section ==',
    };
  const attributes: Record<string, string> = {};
  const pins: PinSaid[] = [];
  const free: string[] = [];
  for (const word of words) {
    const attribute = attributeOf(word);
    const pin = attribute ? undefined : pinOf(word);
    if (attribute) attributes[attribute[0]] = attribute[1];
    else if (pin)
      pins.push({
        pin: pin[0],
        net: pin[1] === NOT_KNOWN ? unsaidNet(ref, pins.length + 1) : pin[1],
      });
    else free.push(word.text);
  }
  const fields = fieldsOf({ ...attributes, ...(split.remark ? { note: split.remark } : {}) });
  if (typeof fields === 'string') {
    const [what = '', expected = ''] = fields.split(': expected ');
    return { what: `${ref}: ${what}`, expected };
  }
  const array = arrayOf(ref, free);
  const made = array
    ? arrayParts(ref, array, free, pins, context)
    : onePart(ref, free, pins, context);
  if (!Array.isArray(made)) return made;
  const more = split.json === undefined ? {} : jsonFields(split.json);
  if (more === undefined)
    return { what: `${ref}: json= cannot be read`, expected: 'a JSON object' };
  return checked(made.map((part) => ({ ...part, ...fields, ...more })));
}

function jsonFields(text: string): Record<string, unknown> | undefined {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : undefined;
  } catch {
    return undefined;
  }
}

/** Parts against the board's schema, for what attributes and JSON brought in. */
function checked(parts: readonly unknown[]): Part[] | Wrong {
  const found: Part[] = [];
  for (const raw of (withStandIns({ parts }) as { parts: unknown[] }).parts) {
    const { success, data, error } = Part.safeParse(raw);
    if (!success) {
      const [issue] = error.issues;
      return {
        what: `${(raw as { ref?: string }).ref ?? 'part'}: ${issue!.path.join('.')} ${issue!.message}`,
        expected: 'what docs/formats/board.md says',
      };
    }
    found.push(data);
  }
  return found;
}

/** `part NAME json={…}`: one that bench words do not tell. */
function wholePart({ words, json }: SheetLine): Part[] | Wrong {
  const ref = words[1]?.text;
  const fields = json === undefined ? undefined : jsonFields(json);
  if (ref === undefined || fields === undefined)
    return { what: 'a part that is not told', expected: 'part NAME json={"kind":…}' };
  return checked([{ ...fields, ref }]);
}

/** Words for kinds are written small, so that a net may be called SWITCH. */
const isKindWord = (word: string): boolean =>
  word === word.toLowerCase() || /^(NPN|PNP|LED)$/.test(word);

/** Two nets are positional on parts of two pins; on others pins are named. */
function onePart(
  ref: string,
  free: readonly string[],
  named: readonly PinSaid[],
  context: Context,
): Part[] | Wrong {
  const words = free.map((word) => (word.endsWith(':') ? word.slice(0, -1) : word));
  if (lettersOf(ref) === 'J' || lettersOf(ref) === 'P' || lettersOf(ref) === 'CN')
    return connector(ref, words, named, context);
  const kind = kindSaid(ref, words.filter(isKindWord));
  const positional = named.length === 0 ? positionalPins(kind) : undefined;
  let pins: PinSaid[] = [...named];
  let rest = words;
  if (positional !== undefined) {
    const leading = words.findIndex(
      (word) => !isKindWord(word) || kindSaid('', [word]) === undefined,
    );
    const from = Math.max(0, leading);
    const nets = words.slice(from, from + positional);
    if (nets.length < positional)
      return {
        what: `${ref} has ${nets.length} ${nets.length === 1 ? 'net' : 'nets'}`,
        expected: `${positional} nets and what it is, for example ${EXAMPLES[kind ?? ''] ?? `${ref} VCC OUT ?`}; ? where an end is not known`,
      };
    pins = nets.map((net, i) => ({
      pin: String(i + 1),
      net: net === NOT_KNOWN ? unsaidNet(ref, i + 1) : net,
    }));
    rest = [...words.slice(0, from), ...words.slice(from + positional)];
  }
  const made = makeSaid({ ref, words: rest, pins, deckOrder: true }, context);
  return made.ok ? [made.part] : { what: `${ref}: ${made.why}`, expected: made.expected };
}

const EXAMPLES: Readonly<Record<string, string>> = {
  resistor: 'R9 VREF 0 4k7',
  capacitor: 'C1 VM 0 470u 16V',
  fuse: 'F1 P9IN P9F T1A',
  diode: 'D1 X Y 1N4148, the anode first',
  transistor: 'Q3 NPN b=DRV c=SOL e=0',
};

/** A plug: what feeds through it is a supply, anything else a box with pins, two nets a contact. */
function connector(
  ref: string,
  words: readonly string[],
  named: readonly PinSaid[],
  context: Context,
): Part[] | Wrong {
  if (named.length === 0 && words.length === 2 && kindSaid('', words) === undefined)
    return [
      {
        kind: 'connectorPin',
        ref,
        pins: words.map((net, i) => (net === NOT_KNOWN ? unsaidNet(ref, i + 1) : net)),
      },
    ];
  if (kindSaid('', words) === 'connectorPin' && named.length === 0)
    return onePart(`W${ref}`, words, named, context);
  const feeds = words.some((word) => word.toLowerCase() === 'in');
  if (feeds && named.length === 2) {
    const made = makeSaid(
      {
        ref,
        words: ['supply', ...words.filter((word) => word.toLowerCase() !== 'in')],
        pins: named.map(({ net }, i) => ({ pin: String(i + 1), net })),
        deckOrder: true,
      },
      context,
    );
    return made.ok
      ? [made.part]
      : { what: `${ref}: ${made.why}`, expected: `${ref} 9V in: 1=SUP9 2=0` };
  }
  if (named.length === 0)
    return {
      what: `${ref}: none of its pins is said`,
      expected: `${ref} 9V in: 1=SUP9 2=0, or ${ref} 1=A 2=B`,
    };
  const made = makeSaid({ ref, words: ['box'], pins: named, deckOrder: true }, context);
  return made.ok ? [made.part] : { what: made.why, expected: made.expected };
}
