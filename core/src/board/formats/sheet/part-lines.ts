import type { DeviceLibrary } from '../../library';
import { nameKey } from '../../nets';
import { kindSaid, positionalPins } from '../../part-words';
import { readSheetLines } from './read-sheet';
import { isSheetWord } from './sheet-lines';
import { attributeOf, pinOf, splitLine, wordFor, type SheetWord } from './sheet-words';

/** The line of a part, taken apart: what a table of a sheet shows and changes. */
export interface PartLine {
  readonly ref: string;
  /** From 1. */
  readonly line: number;
  readonly section: string | undefined;
  /** Its nets as they are written: `VM`, `1=VM`, `?`. */
  readonly pins: readonly string[];
  /** What it is and its value: `470u 16V electrolytic`. */
  readonly words: string;
  /** `key=value` words. */
  readonly attributes: ReadonlyMap<string, string>;
  readonly remark: string | undefined;
  readonly json: string | undefined;
}

/** The lines of a sheet on which parts stand, in their order. */
export function partLines(source: string): readonly PartLine[] {
  const lines: PartLine[] = [];
  let section: string | undefined;
  source.split(/\r\n|\n|\r/).forEach((text, i) => {
    const header = /^\s*==\s*(.*?)\s*(?:==\s*)?$/.exec(text);
    if (header) {
      section = header[1] || undefined;
      return;
    }
    const { words, remark, json } = splitLine(text);
    const [first, ...rest] = words;
    if (!first || first.quoted || isSheetWord(first.text) || /^(model|part)$/.test(first.text))
      return;
    const attributes = new Map(rest.flatMap((word) => [attributeOf(word) ?? []].filter(isPair)));
    const others = rest.filter((word) => !attributeOf(word));
    const [pins, free] = pinsAndWords(first.text, others);
    lines.push({
      ref: first.text,
      line: i + 1,
      section,
      pins: pins.map(written),
      words: free.map(written).join(' '),
      attributes,
      remark,
      json,
    });
  });
  return lines;
}

const isPair = (pair: readonly string[]): pair is readonly [string, string] => pair.length === 2;
const written = ({ text, quoted }: SheetWord): string => (quoted ? wordFor(text) : text);

/** Named pins, or the nets that stand where a part of two or three pins has them. */
function pinsAndWords(
  ref: string,
  others: readonly SheetWord[],
): readonly [readonly SheetWord[], readonly SheetWord[]] {
  const named = others.filter((word) => pinOf(word));
  if (named.length > 0) return [named, others.filter((word) => !pinOf(word))];
  const isKind = ({ text }: SheetWord): boolean =>
    kindSaid('', [text]) !== undefined &&
    (text === text.toLowerCase() || /^(NPN|PNP|LED)$/.test(text));
  const nets =
    positionalPins(
      kindSaid(
        ref,
        others.filter(isKind).map(({ text }) => text),
      ),
    ) ?? 0;
  const from = Math.max(
    0,
    others.findIndex((word) => !isKind(word)),
  );
  return [
    others.slice(from, from + nets),
    [...others.slice(0, from), ...others.slice(from + nets)],
  ];
}

/** What is changed of lines. Nothing is said of what stays; an empty text takes an attribute away. */
export interface PartLineChange {
  readonly words?: string;
  readonly attributes?: Readonly<Record<string, string>>;
}

export interface ChangedLines {
  readonly text: string;
  /** Parts whose line would not be understood so: it stays as it was. */
  readonly refused: readonly { readonly ref: string; readonly why: string }[];
}

/**
 * A sheet with the lines of some parts changed, all alike. A line that would not be understood any
 * more stays as it was, and it is said why.
 */
export function changePartLines(
  source: string,
  refs: readonly string[],
  change: PartLineChange,
  library: DeviceLibrary,
): ChangedLines {
  const wanted = new Set(refs.map(nameKey));
  const chosen = partLines(source).filter(({ ref }) => wanted.has(nameKey(ref)));
  const rows = source.split('\n');
  const before = readSheetLines(source, library).issues;
  for (const line of chosen) rows[line.line - 1] = lineWith(line, change);
  const broken = new Map(
    readSheetLines(rows.join('\n'), library)
      .issues.filter(({ line }) => !before.some((issue) => issue.line === line))
      .map(({ line, what, expected }) => [line, `${what}; expected ${expected}`]),
  );
  const original = source.split('\n');
  const refused = chosen.flatMap(({ ref, line }) => {
    const why = broken.get(line);
    if (why === undefined) return [];
    rows[line - 1] = original[line - 1]!;
    return [{ ref, why }];
  });
  return { text: rows.join('\n'), refused };
}

function lineWith(
  { ref, pins, words, attributes, remark, json }: PartLine,
  change: PartLineChange,
): string {
  const kept = new Map(attributes);
  for (const [key, text] of Object.entries(change.attributes ?? {}))
    if (text.trim() === '') kept.delete(key);
    else kept.set(key, text.trim());
  const said = change.words?.replace(/\s+/g, ' ').trim() ?? words;
  // Named pins stand behind what the part is, bare nets before it.
  const isNamed = pins.some((pin) => pin.includes('='));
  return [
    ref,
    ...(isNamed ? [said, ...pins] : [...pins, said]),
    ...[...kept].map(([key, text]) => (/[\s#]/.test(text) ? `${key}="${text}"` : `${key}=${text}`)),
    remark === undefined ? '' : `# ${remark}`,
    json === undefined ? '' : `json=${json}`,
  ]
    .filter((word) => word !== '')
    .join(' ');
}
