import { GROUND, nameKey, pinName, type BoardIndex, type Part } from '../board';
import { unitWith } from './chip-units';

/** What is known of a net: the level that was read and the one that it has to have. */
export interface NetLevels {
  readonly read: string | undefined;
  readonly wanted: string | undefined;
}

/** A net on the way back from an output, with what drives it. */
export interface WalkedNet extends NetLevels {
  readonly net: string;
  /** right and wrong by what was read; unread where nothing was; open where no level is wanted. */
  readonly state: 'right' | 'wrong' | 'unread' | 'open';
  readonly drivers: readonly WalkedDriver[];
}

/** A chip's output that drives a net, and the nets of the inputs that it hangs on. */
export interface WalkedDriver {
  readonly ref: string;
  readonly pin: string;
  readonly inputs: readonly WalkedNet[];
}

/** So far back a walk goes, and so many inputs it follows of a unit. */
const MOST_BACK = 8;

/**
 * The way back from a net: its drivers, their inputs, what drives those. It ends at nets that were
 * read as they have to be, at what was met before, and where no chip drives. Cost: the nets on the
 * way.
 */
export function walkBack(
  index: BoardIndex,
  net: string,
  levels: (net: string) => NetLevels,
): WalkedNet {
  const met = new Set<string>();
  const walk = (name: string, back: number): WalkedNet => {
    const own = levels(name);
    const state = stateOf(own);
    const isNew = !met.has(nameKey(name));
    met.add(nameKey(name));
    const goesOn = isNew && back > 0 && state !== 'right' && nameKey(name) !== GROUND;
    return {
      net: name,
      ...own,
      state,
      drivers: goesOn ? driversOf(index, name).map((driver) => withInputs(driver, back)) : [],
    };
  };
  const withInputs = ({ part, pin }: Driver, back: number): WalkedDriver => {
    const unit = unitWith(part.model, pin);
    const nets = (unit?.inputs ?? []).map((input) => part.pins[input]!);
    const inputs = [...new Map(nets.map((one) => [nameKey(one), one])).values()];
    return {
      ref: part.ref,
      pin: pinName(part, pin),
      inputs: inputs.map((one) => walk(index.netByKey.get(nameKey(one)) ?? one, back - 1)),
    };
  };
  return walk(net, MOST_BACK);
}

function stateOf({ read, wanted }: NetLevels): WalkedNet['state'] {
  if (wanted === undefined) return 'open';
  if (read === undefined) return 'unread';
  return read === wanted ? 'right' : 'wrong';
}

type Chip = Extract<Part, { kind: 'chip' }>;
interface Driver {
  readonly part: Chip;
  readonly pin: number;
}

function driversOf(index: BoardIndex, net: string): readonly Driver[] {
  return (index.pinsOfNet.get(index.netByKey.get(nameKey(net)) ?? net) ?? []).flatMap(
    ({ part, index: pin }) => {
      const role = part.kind === 'chip' ? part.model.pins[pin]!.role : undefined;
      return part.kind === 'chip' && (role === 'output' || role === 'both') ? [{ part, pin }] : [];
    },
  );
}

/** Where a walk ends that followed the readings. */
export type WalkEnd =
  /** Its inputs are right and its output is wrong: it, or something on its net. */
  | { readonly kind: 'found'; readonly ref: string; readonly pin: string; readonly net: string }
  /** To be read next. */
  | { readonly kind: 'read'; readonly net: string }
  /** Nothing wrong was read on the way. */
  | { readonly kind: 'none' };

/**
 * Follows a walk through what was read wrong to the first place where the inputs are right and the
 * output is not; or names the net that has to be read for that.
 */
export function followed(walked: WalkedNet): WalkEnd {
  if (walked.state === 'unread') return { kind: 'read', net: walked.net };
  if (walked.state !== 'wrong') return { kind: 'none' };
  const unread: WalkEnd[] = [];
  for (const { ref, pin, inputs } of walked.drivers) {
    const wrong = inputs.map((input) => followed(input)).filter(({ kind }) => kind !== 'none');
    const found = wrong.find(({ kind }) => kind === 'found');
    if (found) return found;
    if (wrong.length === 0) unread.push({ kind: 'found', ref, pin, net: walked.net });
    else unread.push(wrong[0]!);
  }
  return (
    unread.find(({ kind }) => kind === 'found') ??
    unread[0] ?? { kind: 'found', ref: '', pin: '', net: walked.net }
  );
}
