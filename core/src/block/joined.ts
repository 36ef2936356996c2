import { GROUND, nameKey, pinsOn, replaceableRef, type BoardIndex, type Part } from '../board';
import type { UnitModel } from './unit-model';

/**
 * A net with more pins than this is a rail or a bus: to hang on it makes no part one of a block.
 */
const MOST_PINS = 8;
/**
 * What words may multiply the odds of a part by, either way: they speak of blocks, and a part is
 * only by its role one of them. From memory of bench practice.
 */
const MOST_FACTOR = 30;

/**
 * The blocks of a unit to which each part of a board belongs, by the designator under which it is
 * replaced. A part is one of the blocks that name its role, the longest name first; a part whose
 * role no block names is one of those of what it hangs on.
 */
export function blocksOfParts(
  model: UnitModel,
  index: BoardIndex,
): ReadonlyMap<string, readonly string[]> {
  const named = new Map<string, Set<string>>();
  const add = (part: Part, blocks: Iterable<string>): void => {
    const ref = replaceableRef(part.ref);
    const known = named.get(ref) ?? new Set<string>();
    for (const block of blocks) known.add(block);
    if (known.size > 0) named.set(ref, known);
  };
  for (const part of index.board.parts) add(part, blocksNaming(model, part));
  const byRole = new Map(named);
  for (const part of index.board.parts) {
    if (byRole.has(replaceableRef(part.ref))) continue;
    const beside = part.pins
      .flatMap((net) => neighbours(index, net))
      .flatMap((ref) => [...(byRole.get(ref) ?? [])]);
    add(part, beside);
  }
  return new Map([...named].map(([ref, blocks]) => [ref, [...blocks]]));
}

/**
 * The blocks whose words a part's role has, but for those that have it by a word inside a longer
 * one.
 */
function blocksNaming(model: UnitModel, { role }: Part): readonly string[] {
  if (!role) return [];
  const found = model.blocks.flatMap(({ name, roles = [] }) => {
    const words = roles.filter((word) => new RegExp(`(^|[^a-z])${escaped(word)}`, 'i').test(role));
    return words.map((word) => ({ name, word }));
  });
  const isInsideOther = (word: string): boolean =>
    found.some(
      (other) =>
        other.word.length > word.length && other.word.toLowerCase().includes(word.toLowerCase()),
    );
  return [...new Set(found.filter(({ word }) => !isInsideOther(word)).map(({ name }) => name))];
}

const escaped = (word: string): string => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

function neighbours(index: BoardIndex, net: string): readonly string[] {
  const places = pinsOn(index, net);
  if (nameKey(net) === GROUND || places.length > MOST_PINS) return [];
  return places.map(({ part }) => replaceableRef(part.ref));
}

const odds = (probability: number): number => probability / (1 - probability);

/**
 * What is thought of a unit's blocks multiplies the odds of their parts: by how far the odds of a
 * block moved from what they are in a unit of which nothing is known. Parts of several blocks take
 * the mean, parts of none are left alone. believed: probability of each block now.
 */
export function partFactors(
  model: UnitModel,
  members: ReadonlyMap<string, readonly string[]>,
  believed: readonly { readonly block: string; readonly probability: number }[],
): ReadonlyMap<string, number> {
  const now = new Map(believed.map(({ block, probability }) => [block, probability]));
  const factor = new Map(
    model.blocks.map(({ name, prior }) => [
      name,
      odds(Math.min(0.999, now.get(name) ?? prior)) / odds(prior),
    ]),
  );
  return new Map(
    [...members].map(([ref, blocks]) => {
      const mean = Math.exp(
        blocks.reduce((sum, block) => sum + Math.log(factor.get(block)!), 0) / blocks.length,
      );
      return [ref, Math.min(MOST_FACTOR, Math.max(1 / MOST_FACTOR, mean))];
    }),
  );
}

/**
 * The other way round: what readings say of parts moves the blocks that they belong to. before,
 * after: share of belief of each part without and with the readings. A block of which the board has
 * no part keeps its odds.
 */
export function blocksAfterReadings(
  believed: readonly { readonly block: string; readonly probability: number }[],
  members: ReadonlyMap<string, readonly string[]>,
  before: ReadonlyMap<string, number>,
  after: ReadonlyMap<string, number>,
): readonly { readonly block: string; readonly probability: number }[] {
  const shareOf = (block: string, shares: ReadonlyMap<string, number>): number =>
    [...members].reduce(
      (sum, [ref, blocks]) =>
        sum + (blocks.includes(block) ? (shares.get(ref) ?? 0) / blocks.length : 0),
      0,
    );
  return believed
    .map(({ block, probability }) => {
      const [was, is] = [shareOf(block, before), shareOf(block, after)].map((share) =>
        Math.min(0.999, share),
      ) as [number, number];
      if (was <= 0) return { block, probability };
      const moved = odds(probability) * (odds(Math.max(is, 1e-6)) / odds(was));
      return { block, probability: moved / (1 + moved) };
    })
    .sort((a, b) => b.probability - a.probability);
}
