import { MAX_ISSUES, type FileIssue, type ReadResult } from '../issue';
import { NO_LIBRARY, type DeviceLibrary } from '../library';
import { nameKey } from '../nets';
import type { Board, Part } from '../schema';
import { applyAnnotations } from './deck-annotations';
import { clip, DECK_PACKAGES, parseElement } from './deck-elements';
import { splitDeck, type DeckLine } from './deck-lines';
import { isSheetLine, readSheetLines } from './deck-sheet';
import { parseModelCard, type DeckModel } from './deck-models';

interface Subcircuit {
  readonly name: string;
  readonly line: number;
  readonly ports: readonly string[];
  readonly body: DeckLine[];
}

/** What is being collected while a deck is read. */
interface Reading {
  readonly library: DeviceLibrary;
  readonly parts: Part[];
  readonly byRef: Map<string, Part>;
  readonly models: Map<string, DeckModel>;
  readonly subcircuits: Map<string, Subcircuit>;
  readonly issues: FileIssue[];
  readonly notes: string[];
  /** Lines of subcircuits so far, each as often as it was put in. */
  unfolded: number;
}

/**
 * Where flattened statements land: names inside a subcircuit get the path of its instances in
 * front.
 */
interface Scope {
  readonly path: string;
  readonly ports: ReadonlyMap<string, string>;
  readonly depth: number;
}

const TOP: Scope = { path: '', ports: new Map(), depth: 0 };
const MAX_DEPTH = 20;
const MAX_PARTS = 100_000;
const MAX_UNFOLDED = 200_000;

/**
 * Reads a circuit deck into a board. source: the file's text. library: the packages that X lines
 * may name beside the plain ones. Every issue has its line; reading stops after MAX_ISSUES of them.
 * Cost: linear in the text. The format is described in docs/formats/deck.md.
 */
export function readDeck(source: string, library: DeviceLibrary = NO_LIBRARY): ReadResult<Board> {
  const text = splitDeck(source);
  const reading: Reading = {
    library,
    parts: [],
    byRef: new Map(),
    models: new Map(),
    subcircuits: new Map(),
    issues: [],
    notes: [...text.notes],
    unfolded: 0,
  };
  const top = collectDefinitions(text.statements, reading);
  for (const statement of top) {
    if (reading.issues.length >= MAX_ISSUES) break;
    readStatement(statement, TOP, reading);
  }
  let sheet: Partial<Board> = {};
  if (reading.issues.length < MAX_ISSUES) {
    const sheetLines = readSheetLines(text.annotations.filter(isSheetLine));
    sheet = sheetLines.sheet;
    for (const remarks of [
      applyAnnotations(
        reading.byRef,
        text.annotations.filter((line) => !isSheetLine(line)),
      ),
      sheetLines,
    ]) {
      reading.issues.push(...remarks.issues);
      reading.notes.push(...remarks.notes);
    }
  }
  if (reading.issues.length > 0) return { ok: false, issues: reading.issues.slice(0, MAX_ISSUES) };
  if (reading.parts.length === 0) {
    return {
      ok: false,
      issues: [
        {
          what: 'no parts in the file',
          expected: 'a circuit deck: a title line, then lines such as R1 VCC OUT 4.7k',
        },
      ],
    };
  }
  const title = clip(text.title, 200) || 'untitled board';
  return {
    ok: true,
    value: { format: 'hanzai-board', version: 1, title, parts: reading.parts, ...sheet },
    notes: reading.notes,
  };
}

/** First pass: takes models and subcircuits out and returns the statements of the top level. */
function collectDefinitions(statements: readonly DeckLine[], reading: Reading): DeckLine[] {
  const top: DeckLine[] = [];
  let open: Subcircuit | undefined;
  for (const statement of statements) {
    if (reading.issues.length >= MAX_ISSUES) return top;
    const words = statement.text.split(/\s+/);
    const word = words[0]!.toLowerCase();
    if (word === '.model') {
      const card = parseModelCard(statement.text);
      if (card.ok) reading.models.set(card.name.toLowerCase(), card.model);
      else reading.issues.push({ line: statement.line, what: card.what, expected: card.expected });
    } else if (word === '.subckt') {
      if (open)
        reading.issues.push({
          line: statement.line,
          what: `subcircuit inside subcircuit ${open.name}`,
          expected: '.ends first',
        });
      if (words.length < 3)
        reading.issues.push({
          line: statement.line,
          what: 'subcircuit without a name or nets',
          expected: '.subckt NAME net …',
        });
      const ports = words
        .slice(2)
        .filter((port) => !port.includes('=') && !/^params:$/i.test(port));
      open = { name: words[1] ?? '', line: statement.line, ports: ports.map(nameKey), body: [] };
      reading.subcircuits.set(open.name.toLowerCase(), open);
    } else if (word === '.ends') {
      if (!open)
        reading.issues.push({
          line: statement.line,
          what: '.ends without .subckt',
          expected: 'a .subckt line before it',
        });
      open = undefined;
    } else (open ? open.body : top).push(statement);
  }
  if (open)
    reading.issues.push({
      line: open.line,
      what: `subcircuit ${open.name} is not closed`,
      expected: 'a line .ends',
    });
  return top;
}

function readStatement(statement: DeckLine, scope: Scope, reading: Reading): void {
  const words = statement.text.split(/\s+/);
  const letter = words[0]![0]!.toUpperCase();
  if (letter === '.') {
    reading.notes.push(`line ${statement.line}: ${clip(words[0]!)} skipped`);
  } else if (letter === 'X') readInstance(statement, words, scope, reading);
  else if ('RCLVIDQ'.includes(letter)) {
    const result = parseElement(words, reading.models);
    if (result.ok) addPart(result.part, statement.line, scope, reading);
    else
      reading.issues.push({ line: statement.line, what: result.what, expected: result.expected });
  } else {
    reading.issues.push({
      line: statement.line,
      what: `cannot read "${clip(statement.text)}"`,
      expected: 'a line starting with R, C, L, V, I, D, Q, X, a full stop or *',
    });
  }
}

function readInstance(
  statement: DeckLine,
  words: readonly string[],
  scope: Scope,
  reading: Reading,
): void {
  const plain = words.filter((word) => !word.includes('=') && !/^params:$/i.test(word));
  const ref = plain[0]!.slice(1);
  const name = plain[plain.length - 1]!;
  const nets = plain.slice(1, -1);
  const push = (what: string, expected: string): void =>
    void reading.issues.push({ line: statement.line, what, expected });
  if (ref === '' || plain.length < 3)
    return push(`"${clip(statement.text)}" is not complete`, 'X<ref> net net … NAME');
  const subcircuit = reading.subcircuits.get(name.toLowerCase());
  if (subcircuit) {
    if (nets.length !== subcircuit.ports.length)
      return push(
        `${clip(ref)} has ${nets.length} nets`,
        `${subcircuit.ports.length}, as .subckt ${subcircuit.name} has`,
      );
    if (scope.depth >= MAX_DEPTH)
      return push(
        `${clip(ref)}: subcircuits nested deeper than ${MAX_DEPTH}`,
        'no subcircuit that contains itself',
      );
    const path = `${scope.path}${ref}.`;
    const ports = new Map(subcircuit.ports.map((port, i) => [port, netName(nets[i]!, scope)]));
    // Few lines that call each other can stand for more than any machine holds.
    reading.unfolded += subcircuit.body.length + 1;
    if (reading.unfolded > MAX_UNFOLDED)
      return push(
        `${clip(ref)}: the subcircuits unfold into more than ${MAX_UNFOLDED} lines`,
        'a sheet of one board',
      );
    for (const inner of subcircuit.body) {
      if (reading.issues.length >= MAX_ISSUES) return;
      readStatement(inner, { path, ports, depth: scope.depth + 1 }, reading);
    }
    return;
  }
  const known = DECK_PACKAGES[name.toUpperCase()] ?? reading.library.find(name);
  if (!known)
    return push(
      `${clip(ref)}: ${clip(name)} is not in the device library and has no .subckt`,
      `one of ${[...Object.keys(DECK_PACKAGES), ...reading.library.examples].join(', ')} and the like, or a .subckt ${clip(name)}`,
    );
  if (nets.length !== known.pins)
    return push(
      `${clip(ref)} has ${nets.length} nets`,
      `${known.pins}, one for each pin of ${name.toUpperCase()}`,
    );
  addPart(known.make(ref, [...nets]), statement.line, scope, reading);
}

function netName(net: string, scope: Scope): string {
  const key = nameKey(net);
  if (key === '0') return '0';
  return scope.ports.get(key) ?? `${scope.path}${net}`;
}

function addPart(part: Part, line: number, scope: Scope, reading: Reading): void {
  const placed = {
    ...part,
    ref: `${scope.path}${part.ref}`,
    pins: part.pins.map((net) => netName(net, scope)),
  };
  const tooLong = [placed.ref, ...placed.pins].find((name) => name.length > 80);
  if (tooLong) {
    reading.issues.push({
      line,
      what: `the name "${clip(tooLong)}" is too long`,
      expected: 'names of at most 80 characters',
    });
    return;
  }
  const key = nameKey(placed.ref);
  if (reading.byRef.has(key)) {
    reading.issues.push({
      line,
      what: `${clip(placed.ref)} is there twice`,
      expected: 'each designator once',
    });
    return;
  }
  if (reading.parts.length >= MAX_PARTS) {
    reading.issues.push({
      line,
      what: `more than ${MAX_PARTS} parts`,
      expected: 'a board of at most that size',
    });
    return;
  }
  reading.parts.push(placed);
  reading.byRef.set(key, placed);
}
