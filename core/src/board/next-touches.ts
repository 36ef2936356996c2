import { nameKey } from './nets';
import { isUnsaid } from './part-words';
import type { Board, Part } from './schema';

/** Two points worth touching next, with why. */
export interface Touch {
  readonly a: string;
  readonly b: string;
  readonly because: string;
}

interface OpenPin {
  readonly part: Part;
  readonly place: number;
  readonly name: string;
  readonly role: 'supply' | 'ground' | 'input' | 'output' | 'end';
}

function openPins({ parts }: Board): OpenPin[] {
  return parts.flatMap((part) =>
    part.pins.flatMap((net, place): OpenPin[] => {
      if (!isUnsaid(net)) return [];
      const name = `${part.ref}.${place + 1}`;
      if (part.kind !== 'chip') return [{ part, place, name, role: 'end' }];
      const { role } = part.model.pins[place]!;
      if (role === 'none') return [];
      const kind =
        role === 'supply' || role === 'rail'
          ? 'supply'
          : role === 'ground'
            ? 'ground'
            : role === 'output' || role === 'both'
              ? 'output'
              : 'input';
      return [{ part, place, name, role: kind }];
    }),
  );
}

/** The most open pins of which pairs are weighed. */
const MOST_WEIGHED = 160;

/**
 * Which two to touch next, the likeliest to beep first: grounds and supplies of chips with the rails
 * that are drawn, an output with an input near it, the open end of a part with a chip's pin. known:
 * pairs that were told apart already, as `A B`. suspects: parts in question, by nameKey: what is
 * undrawn about them comes first.
 */
export function nextTouches(
  board: Board,
  apart: ReadonlySet<string>,
  most = 6,
  suspects: ReadonlySet<string> = new Set(),
): Touch[] {
  const about = partsAbout(board, suspects);
  const bonus = (part: Part): number =>
    suspects.has(nameKey(part.ref)) ? 6 : about.has(part) ? 3 : 0;
  const open = openPins(board).slice(0, MOST_WEIGHED);
  const rails = board.parts.flatMap((part) =>
    part.kind === 'voltageSource' ? [part.pins[0]!] : [],
  );
  const touches: (Touch & { readonly weight: number })[] = [];
  const add = (a: string, b: string, because: string, weight: number): void => {
    if (!apart.has(pairKey(a, b))) touches.push({ a, b, because, weight });
  };
  for (const { part, name, role } of open) {
    if (role === 'ground') add(name, '0', 'a chip’s ground', 9 + bonus(part));
    if (role === 'supply')
      for (const rail of rails)
        add(name, rail, `a chip’s supply, and ${rail} is one`, 8 - rails.length / 10 + bonus(part));
  }
  for (let i = 0; i < open.length; i += 1)
    for (let k = i + 1; k < open.length; k += 1) {
      const [p, q] = [open[i]!, open[k]!];
      if (p.part === q.part) continue;
      const roles = [p.role, q.role].sort().join(' ');
      const weight = { 'input output': 4, 'end input': 3, 'end output': 3, 'end end': 2 }[roles];
      if (weight === undefined) continue;
      const near = nearness(p.part, q.part);
      const own = Math.max(bonus(p.part), bonus(q.part));
      const why = `${WHY[roles]}${near > 0.5 ? ', and near' : ''}${own > 0 ? ', about a suspect' : ''}`;
      add(p.name, q.name, why, weight + 2 * near + own);
    }
  return touches
    .sort((x, y) => y.weight - x.weight)
    .slice(0, most)
    .map(({ a, b, because }) => ({ a, b, because }));
}

/** The parts that share a net with a suspect; not by ground. */
function partsAbout({ parts }: Board, suspects: ReadonlySet<string>): ReadonlySet<Part> {
  const nets = new Set(
    parts
      .filter(({ ref }) => suspects.has(nameKey(ref)))
      .flatMap(({ pins }) => pins.map(nameKey))
      .filter((net) => net !== '0'),
  );
  return new Set(parts.filter(({ pins }) => pins.some((net) => nets.has(nameKey(net)))));
}

const WHY: Readonly<Record<string, string>> = {
  'input output': 'an output and an input',
  'end input': 'an open end and an input',
  'end output': 'an open end and an output',
  'end end': 'two open ends',
};

/** A key under which a pair is the same in either order. */
export const pairKey = (a: string, b: string): string => [nameKey(a), nameKey(b)].sort().join(' ');

/** 1 for parts beside each other, 0 for far ones, or where nobody knows. */
function nearness(a: Part, b: Part): number {
  if (!a.positionMm || !b.positionMm) return 0;
  const distance = Math.hypot(a.positionMm[0] - b.positionMm[0], a.positionMm[1] - b.positionMm[1]);
  return 1 / (1 + (distance / 25) ** 2);
}
