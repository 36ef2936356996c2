import { openPinMode } from '../device';
import type { BoardIndex, Part } from '../board';
import {
  faultsKey,
  isAlteredInASetup,
  linearChange,
  partsOf,
  sameDcKey,
  starvedBy,
  type JointHypothesis,
  type Hypothesis,
  type LinearChange,
  type SingleHypothesis,
} from '../fault';

/** The slot of the sound board. */
export const SOUND = 0;

/**
 * Who answers for a hypothesis at one of its severities: another one that no reading of the kind in
 * question can tell from it, or itself. slot: where its answers are kept.
 */
export type Answerer =
  | { readonly slot: number; readonly hypothesis: SingleHypothesis; readonly k: number }
  | { readonly slot: number; readonly hypothesis: JointHypothesis; readonly k: 0 };

type Single = Extract<Answerer, { hypothesis: SingleHypothesis }>;

/**
 * Sorts hypotheses by what they come to, so that what is one circuit is solved once. Lives as long
 * as a predictor.
 */
export class FaultClasses {
  /** First slot of each hypothesis; its severities follow. */
  private readonly slots = new Map<string, number>();
  private nextSlot = SOUND + 1;
  private readonly changes = new Map<number, LinearChange | null>();
  private readonly firstWith = new Map<string, Single>();
  private readonly opened = new WeakMap<SingleHypothesis, SingleHypothesis>();
  /**
   * By hypothesis, one for each severity: who answers readings of direct current, and who any
   * other.
   */
  private readonly atDc = new WeakMap<Hypothesis, Answerer[]>();
  private readonly else = new WeakMap<Hypothesis, Answerer[]>();
  private readonly altered = new Map<Part, boolean>();

  constructor(private readonly index: BoardIndex) {}

  /**
   * atJoint: a probe sits on the very joint in question. direct: the reading is one of direct
   * current, and every part is on the board.
   */
  of(hypothesis: Hypothesis, i: number, atJoint: boolean, direct: boolean): Answerer {
    if (atJoint && hypothesis.type === 'single') return this.self(hypothesis, i);
    const table = direct ? this.atDc : this.else;
    let known = table.get(hypothesis);
    if (!known) table.set(hypothesis, (known = []));
    const k = hypothesis.type === 'joint' ? 0 : Math.min(i, hypothesis.severities.length - 1);
    return (known[k] ??= this.find(hypothesis, k, direct));
  }

  /**
   * What a hypothesis at its k-th severity changes, where that is one admittance, and the same in
   * every setup.
   */
  changeOf(hypothesis: SingleHypothesis, k: number): LinearChange | undefined {
    const slot = this.slotOf(hypothesis) + k;
    let known = this.changes.get(slot);
    if (known === undefined)
      this.changes.set(slot, (known = this.findChange(hypothesis, k) ?? null));
    return known ?? undefined;
  }

  private findChange({ fault, severities }: SingleHypothesis, k: number): LinearChange | undefined {
    // A blown mains fuse takes a transformer's secondary with it.
    const more =
      starvedBy(this.index, fault).length > 0 ||
      partsOf(fault).some((part) => this.isAltered(part));
    return more ? undefined : linearChange(fault, severities[k]!);
  }

  private isAltered(part: Part): boolean {
    let known = this.altered.get(part);
    if (known === undefined)
      this.altered.set(part, (known = isAlteredInASetup(this.index.board, part)));
    return known;
  }

  private find(hypothesis: Hypothesis, k: number, direct: boolean): Answerer {
    if (hypothesis.type === 'joint') return { slot: this.slotOf(hypothesis), hypothesis, k: 0 };
    const own = this.self(this.asOpen(hypothesis), k);
    return direct ? this.firstLike(own) : own;
  }

  private self(hypothesis: SingleHypothesis, i: number): Single {
    const k = Math.min(i, hypothesis.severities.length - 1);
    return { slot: this.slotOf(hypothesis) + k, hypothesis, k };
  }

  /** The first one met that is the same change to every direct current. */
  private firstLike(own: Single): Single {
    const change = this.changeOf(own.hypothesis, own.k);
    if (!change) return own;
    const key = sameDcKey(change);
    const first = this.firstWith.get(key) ?? own;
    this.firstWith.set(key, first);
    return first;
  }

  /** First slot of a hypothesis, given out when it is first met. */
  private slotOf(hypothesis: Hypothesis): number {
    // A joint that stands for the open part may have other severities than that part's own mode.
    const name =
      hypothesis.type === 'single'
        ? `${hypothesis.name}@${hypothesis.severities.join()}`
        : faultsKey(hypothesis.states);
    let slot = this.slots.get(name);
    if (slot === undefined) {
      this.slots.set(name, (slot = this.nextSlot));
      this.nextSlot += hypothesis.type === 'single' ? hypothesis.severities.length : 1;
    }
    return slot;
  }

  private asOpen(hypothesis: SingleHypothesis): SingleHypothesis {
    let same = this.opened.get(hypothesis);
    if (!same) this.opened.set(hypothesis, (same = asOpen(hypothesis)));
    return same;
  }
}

/**
 * A dry joint opens its pin: seen from everywhere but that joint's own pin it is the fault of the
 * open pin, or of the open part where it has two, and is solved once.
 */
function asOpen(hypothesis: SingleHypothesis): SingleHypothesis {
  const { fault } = hypothesis;
  if (fault.type !== 'dry') return hypothesis;
  const { part, index } = fault.pin;
  const mode = openPinMode(part, index);
  if (!mode) return hypothesis;
  const name = `${part.ref}${mode.pin === undefined ? '' : `.${mode.pin + 1}`}:${mode.name}`;
  const severities =
    mode.severity.low === mode.severity.high && mode.severity.low < 1e6
      ? [mode.severity.low]
      : hypothesis.severities;
  return { ...hypothesis, name, severities, fault: { type: 'mode', name, part, mode } };
}
