import type { BoardIndex } from '../board';
import type { HazardKind, UnitModel } from '../block';
import { ENERGY_LIMIT_JOULE, storedCharges, TOUCH_LIMIT_VOLT, type StoredCharge } from './discharge';
import { FINDING_RULES, type FindingKind } from './look';

/** The steps that a hazard locks until somebody has acknowledged it. */
export type Gate = 'power' | 'open';

/** Something that can hurt. */
export interface Hazard {
  /** Stays the same for the same hazard of the same case. */
  readonly key: string;
  readonly kind: HazardKind;
  readonly words: string;
  readonly from: string;
  readonly gates: readonly Gate[];
  /** What keeps the charge, where one does. */
  readonly charge: { readonly title: string; readonly volt: number; readonly farad: number; readonly seconds: number | undefined } | undefined;
}

/** Which steps wait for which kind: what bites when the case is open, and what bites when power is on. */
const GATES: Readonly<Record<HazardKind, readonly Gate[]>> = {
  mains: ['power', 'open'], 'stored-charge': ['open'], laser: ['power'], hot: ['power'], spring: ['open'], chemical: ['open'], static: ['open'],
}; // prettier-ignore

/** What every line about danger ends with. */
export const DEFER = 'Follow local codes; mains and laser work only if you are qualified.';

/** Every hazard of a case: from the model of the unit, from the parts of its board, from what was seen on it. */
export function hazardsOf(model: UnitModel | undefined, index: BoardIndex | undefined, seen: readonly FindingKind[]): readonly Hazard[] {
  const hazard = (key: string, kind: HazardKind, words: string, from: string, charge?: Hazard['charge']): Hazard => ({
    key,
    kind,
    words,
    from,
    gates: GATES[kind],
    charge,
  });
  const ofModel = (model?.hazards ?? []).map(({ kind, note, volt, farad }, i) =>
    hazard(
      `unit-${kind}-${i}`,
      kind,
      note,
      model!.title,
      volt !== undefined && farad !== undefined ? { title: note, volt, farad, seconds: undefined } : undefined,
    ),
  );
  const ofBoard = (index?.board.hazards ?? []).map(({ ref, kind, note }, i) =>
    hazard(`board-${kind}-${ref ?? i}`, kind, ref ? `${ref}: ${note}` : note, 'board sheet'),
  );
  const charges = index ? storedCharges(index).filter(bites) : [];
  const ofParts = charges.map((charge) => hazard(`charge-${charge.ref}`, 'stored-charge', chargeWords(charge), 'worked out of the board', { title: charge.ref, volt: charge.volt, farad: charge.part.capacitanceFarad, seconds: charge.seconds })); // prettier-ignore
  const ofSight = [...new Set(seen)].flatMap((what) => {
    const { caution, title } = FINDING_RULES[what];
    return caution ? [hazard(`seen-${what}`, 'chemical', `${title} was seen: ${caution}`, 'what was seen')] : [];
  });
  return [...ofModel, ...ofBoard, ...ofParts, ...ofSight];
}

function bites({ volt, joule }: StoredCharge): boolean {
  return volt > TOUCH_LIMIT_VOLT || joule >= ENERGY_LIMIT_JOULE;
}

function chargeWords({ ref, volt, joule, seconds }: StoredCharge): string {
  const left = seconds === undefined ? 'nothing leads it away' : `below ${TOUCH_LIMIT_VOLT} V after ${Math.ceil(seconds)} s by itself`;
  return `${ref} holds ${Math.round(volt)} V and ${joule.toPrecision(2)} J: ${left}`;
}

/** Who acknowledged what. */
export interface Acknowledged {
  readonly hazard: string;
  readonly who: string;
}

/** What still locks a kind of step: the hazards that nobody has acknowledged. */
export function lockedBy(hazards: readonly Hazard[], acknowledged: readonly Acknowledged[], gate: Gate): readonly Hazard[] {
  const done = new Set(acknowledged.map(({ hazard }) => hazard));
  return hazards.filter(({ key, gates }) => gates.includes(gate) && !done.has(key));
}
