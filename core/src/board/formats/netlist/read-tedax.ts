import { MAX_ISSUES, type FileIssue } from '../../issue';
import { clip } from '../deck-elements';
import { emptyNetlist, joinPin, nameFrom, partNamed, type RawResult } from './raw-netlist';

/** Words of a line: a blank within one stands behind a backslash. */
function wordsOf(line: string): string[] {
  return (line.match(/(?:\\.|[^\s\\])+/g) ?? []).map((word) =>
    word.replace(
      /\\(.)/g,
      (_, letter: string) => ({ n: '\n', r: '\r', t: '\t' })[letter] ?? letter,
    ),
  );
}

/**
 * Reads the netlist block of a tEDAx file: `begin netlist v1`, then lines `device`, `value`,
 * `footprint`, `conn NET REF PIN`, `pinname REF PIN NAME`. Other blocks and lines are passed over.
 */
export function readTedax(source: string): RawResult {
  const netlist = emptyNetlist('netlist');
  const issues: FileIssue[] = [];
  const names = new Map<string, string>();
  const others = new Set<string>();
  let inside = false;
  let found = false;
  const lines = source.split(/\r\n|\n|\r/);
  if (
    !/^\s*tEDAx\s+v\d/.test(lines.find((line) => line.trim() !== '' && !line.startsWith('#')) ?? '')
  )
    return {
      ok: false,
      issues: [
        { line: 1, what: 'the file does not say what it is', expected: 'a first line tEDAx v1' },
      ],
    };
  for (let i = 0; i < lines.length && issues.length < MAX_ISSUES; i += 1) {
    const [verb = '', ...rest] = wordsOf(lines[i]!);
    if (verb === '' || verb.startsWith('#')) continue;
    if (verb === 'begin') {
      inside = rest[0] === 'netlist';
      found ||= inside;
      if (inside && rest[2] && netlist.title === 'netlist') netlist.title = clip(rest[2], 200);
      continue;
    }
    if (verb === 'end') inside = false;
    if (!inside) continue;
    const [first = '', second = '', third = ''] = rest;
    const lacks = (count: number, expected: string): boolean => {
      if (rest.length >= count) return false;
      issues.push({ line: i + 1, what: `"${clip(lines[i]!.trim())}" is not complete`, expected });
      return true;
    };
    if (verb === 'conn') {
      if (lacks(3, 'conn NET REF PIN')) continue;
      joinPin(netlist, second, { pin: nameFrom(third), net: nameFrom(first) });
    } else if (verb === 'value' || verb === 'device' || verb === 'footprint') {
      if (lacks(1, `${verb} REF TEXT`)) continue;
      partNamed(netlist, first)[verb] = rest.slice(1).join(' ');
    } else if (verb === 'pinname') {
      if (lacks(3, 'pinname REF PIN NAME')) continue;
      names.set(`${nameFrom(first).toLowerCase()} ${nameFrom(second)}`, third);
    } else others.add(verb);
  }
  if (issues.length > 0) return { ok: false, issues };
  if (!found)
    return {
      ok: false,
      issues: [
        { what: 'no netlist in the file', expected: 'a block begin netlist v1 … end netlist' },
      ],
    };
  for (const part of netlist.parts.values())
    part.pins.forEach((pin, i) => {
      const name = names.get(`${part.ref.toLowerCase()} ${pin.pin}`);
      if (name) part.pins[i] = { ...pin, name };
    });
  if (others.size > 0)
    netlist.skipped.push(`lines ${[...others].slice(0, 8).join(', ')} are not read`);
  return { ok: true, netlist };
}
