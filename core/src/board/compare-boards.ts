import { canonical } from './formats/sheet/sheet-lines';
import { partValue } from './formats/parts-list';
import { nameKey } from './nets';
import type { Board, Part } from './schema';

/** Fields of a part that words of their own tell. */
const TOLD = new Set(['ref', 'kind', 'pins']);

/**
 * What is different on the second board, in words, one line a change: `C7 is new`, `R9 was 4k7, is
 * 10k`, `U3.5 was on RES, is on P5`. Parts are the same where their designators are.
 */
export function boardChanges(before: Board, after: Board): string[] {
  const lines: string[] = [];
  const old = new Map(before.parts.map((part) => [nameKey(part.ref), part]));
  const fresh = new Map(after.parts.map((part) => [nameKey(part.ref), part]));
  if (before.title !== after.title) lines.push(`the title is “${after.title}”`);
  lines.push(
    ...named(
      [...fresh].filter(([key]) => !old.has(key)),
      'is new',
      'are new',
    ),
    ...named(
      [...old].filter(([key]) => !fresh.has(key)),
      'is gone',
      'are gone',
    ),
  );
  const renamed = netsRenamed(before, after, old);
  for (const [from, to] of renamed) lines.push(`net ${from} is called ${to}`);
  for (const [key, part] of fresh) {
    const was = old.get(key);
    if (was) lines.push(...partChanges(was, part, renamed));
  }
  for (const list of ['edges', 'testPoints', 'setups', 'observables', 'hazards', 'rings'] as const)
    if (canonical(before[list] ?? []) !== canonical(after[list] ?? []))
      lines.push(
        `${LIST_WORDS[list]}: ${before[list]?.length ?? 0} before, ${after[list]?.length ?? 0} now`,
      );
  if (canonical(before.outlineMm) !== canonical(after.outlineMm))
    lines.push('the outline is another');
  return lines;
}

const LIST_WORDS = {
  edges: 'edges',
  testPoints: 'test points',
  setups: 'setups',
  observables: 'what can be seen',
  hazards: 'hazards',
  rings: 'what was rung through',
} as const;

function named(
  parts: readonly (readonly [string, Part])[],
  one: string,
  several: string,
): string[] {
  if (parts.length === 0) return [];
  const refs = parts.map(([, { ref }]) => ref);
  const shown =
    refs.length > 12
      ? `${refs.slice(0, 12).join(', ')} and ${refs.length - 12} more`
      : refs.join(', ');
  return [`${shown} ${refs.length === 1 ? one : several}`];
}

/** Nets whose pins are all on one other net now that was not there before. */
function netsRenamed(
  before: Board,
  after: Board,
  old: ReadonlyMap<string, Part>,
): ReadonlyMap<string, string> {
  const there = new Set(before.parts.flatMap(({ pins }) => pins.map(nameKey)));
  const still = new Set(after.parts.flatMap(({ pins }) => pins.map(nameKey)));
  const moves = new Map<string, Set<string>>();
  for (const part of after.parts) {
    const was = old.get(nameKey(part.ref));
    if (was?.pins.length !== part.pins.length) continue;
    was.pins.forEach((net, i) => {
      const to = moves.get(net) ?? new Set<string>();
      moves.set(net, to.add(part.pins[i]!));
    });
  }
  const renamed = new Map<string, string>();
  for (const [from, to] of moves) {
    const [only] = to;
    if (to.size === 1 && only !== from && !still.has(nameKey(from)) && !there.has(nameKey(only!)))
      renamed.set(from, only!);
  }
  return renamed;
}

function partChanges(was: Part, is: Part, renamed: ReadonlyMap<string, string>): string[] {
  const { ref } = is;
  const lines: string[] = [];
  if (was.kind !== is.kind) return [`${ref} was ${was.kind}, is ${is.kind}`];
  if (was.pins.length !== is.pins.length)
    lines.push(`${ref} had ${was.pins.length} pins, has ${is.pins.length}`);
  else
    is.pins.forEach((net, i) => {
      const before = was.pins[i]!;
      if (before !== net && renamed.get(before) !== net)
        lines.push(`${ref}.${i + 1} was on ${before}, is on ${net}`);
    });
  const [valueWas, valueIs] = [partValue(was), partValue(is)];
  if (valueWas !== valueIs) lines.push(`${ref} was ${valueWas || 'without value'}, is ${valueIs}`);
  const fields = [...new Set([...Object.keys(was), ...Object.keys(is)])].filter(
    (key) =>
      !TOLD.has(key) &&
      canonical((was as unknown as Record<string, unknown>)[key]) !==
        canonical((is as unknown as Record<string, unknown>)[key]),
  );
  if (fields.length > 0 && valueWas === valueIs)
    lines.push(`${ref}: ${fields.map((key) => FIELD_WORDS[key] ?? key).join(', ')} changed`);
  return lines;
}

const FIELD_WORDS: Readonly<Record<string, string>> = {
  positionMm: 'place',
  pinPositionsMm: 'places of its pins',
  side: 'side',
  esrOhm: 'ESR',
  dcResistanceOhm: 'ohms',
  ratedVolt: 'rated volts',
  fitYear: 'year',
  resistanceOhm: 'value',
  capacitanceFarad: 'value',
  inductanceHenry: 'value',
};
