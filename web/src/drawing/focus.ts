import { findPoint, GROUND, nameKey, type BoardIndex, type Part } from '@hanzai/core/board';
import { drawnRef } from './drawn';
import { railsOf } from './rails';

/** What part of a sheet is shown, or why nothing is. */
export type Focus =
  | { readonly ok: true; readonly refs: ReadonlySet<string>; readonly words: string }
  | { readonly ok: false; readonly why: string };

/** More symbols than this are not read at a glance. */
const MOST = 26;

/**
 * The part of a sheet that words ask for: `c4` a part and what shares its nets, `vm` what is on a
 * net, `vm to p5` the shortest way from one to the other with what hangs on it.
 */
export function focusOn(index: BoardIndex, text: string): Focus {
  const [from = '', to] = text
    .trim()
    .split(/\s+to\s+|\s*(?:->|→)\s*/)
    .map((one) => one.trim());
  const start = netsAt(index, from);
  if (!start) return { ok: false, why: `no part, pin or net is called ${from}` };
  if (to === undefined) return show(index, start.part ? [start.part] : [], start.nets, start.name);
  const end = netsAt(index, to);
  if (!end) return { ok: false, why: `no part, pin or net is called ${to}` };
  const way = shortestWay(index, start.nets, end.nets);
  if (!way) return { ok: false, why: `no way leads from ${start.name} to ${end.name}` };
  const both = [start.part, end.part].filter((part) => part !== undefined);
  return show(index, [...both, ...way.parts], way.nets, `from ${start.name} to ${end.name}`);
}

interface Place {
  readonly name: string;
  readonly nets: readonly string[];
  readonly part: Part | undefined;
}

function netsAt(index: BoardIndex, name: string): Place | undefined {
  if (name === '') return undefined;
  const netOf = (net: string): string => index.netByKey.get(nameKey(net))!;
  const part = index.partByKey.get(nameKey(name)) ?? index.replaceable.get(name.toUpperCase())?.[0];
  if (part) {
    const nets = [...new Set(part.pins.map(netOf))].filter((net) => net !== GROUND);
    return { name: part.ref, nets, part };
  }
  const point = findPoint(index, name);
  return (
    point && {
      name: point.pin ? name.toUpperCase() : point.net,
      nets: [point.net],
      part: point.pin?.part,
    }
  );
}

/** The fewest parts that lead from one of some nets to one of others; not through ground or a supply. */
function shortestWay(
  index: BoardIndex,
  from: readonly string[],
  to: readonly string[],
): { readonly parts: readonly Part[]; readonly nets: readonly string[] } | undefined {
  const closed = new Set([GROUND, ...railsOf(index)]);
  const goal = new Set(to);
  const cameBy = new Map<string, { readonly part: Part; readonly from: string } | undefined>(
    from.map((net) => [net, undefined]),
  );
  let wave = [...from];
  let reached = wave.find((net) => goal.has(net));
  while (reached === undefined && wave.length > 0) {
    const next: string[] = [];
    for (const net of wave) {
      // A supply may be where it begins, but everything hangs on it: no way leads through.
      if (closed.has(net) && !from.includes(net)) continue;
      for (const { part } of index.pinsOfNet.get(net) ?? [])
        for (const pin of part.pins) {
          const other = index.netByKey.get(nameKey(pin))!;
          if (cameBy.has(other) || other === GROUND) continue;
          cameBy.set(other, { part, from: net });
          next.push(other);
          if (goal.has(other)) reached ??= other;
        }
    }
    wave = next;
  }
  if (reached === undefined) return undefined;
  const parts: Part[] = [];
  const nets = [reached];
  for (let step = cameBy.get(reached); step; step = cameBy.get(step.from)) {
    parts.unshift(step.part);
    nets.unshift(step.from);
  }
  return { parts, nets };
}

/** The chosen parts with what else is on the nets, where that is not too much to be read. */
function show(
  index: BoardIndex,
  chosen: readonly Part[],
  nets: readonly string[],
  words: string,
): Focus {
  const rails = railsOf(index);
  const around = nets
    .filter((net) => !rails.has(net) || chosen.length === 0)
    .flatMap((net) => (index.pinsOfNet.get(net) ?? []).map(({ part }) => part));
  const own = new Set(chosen.map(({ ref }) => drawnRef(ref)));
  const all = new Set([...own, ...around.map(({ ref }) => drawnRef(ref))]);
  const refs = all.size <= MOST || own.size === 0 ? new Set([...all].slice(0, MOST)) : own;
  const left = all.size - refs.size;
  return { ok: true, refs, words: left > 0 ? `${words}; ${left} more on these nets` : words };
}
