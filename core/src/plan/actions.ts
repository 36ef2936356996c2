import { replaceableRef, type BoardIndex, type Part } from '../board';
import type { Belief } from '../diagnosis';
import { minutesInWords } from '../quantity';
import type { CostTable } from './cost';

/** Something that may cure the board, or a reading that tells where to look. */
export interface Action {
  readonly kind: 'replace' | 'resolder' | 'clean' | 'replace-cohort' | 'measure';
  readonly title: string;
  /** Parts that it touches; none for a reading. */
  readonly refs: readonly string[];
  readonly minutes: number;
  /** Chance that the board works afterwards. */
  readonly cures: number;
  /**
   * Minutes to a proven repair that are to be expected when this is done first and the best order
   * is kept after it.
   */
  readonly expectedMinutes: number;
  readonly reason: string;
}

/** One step of a repair in the order of its worth. */
export interface RepairStep {
  readonly ref: string;
  readonly probability: number;
  readonly minutes: number;
}

/**
 * The order of replacing single suspects that costs least on average: by probability over cost.
 * minutes: the work of each with the test after it. Source: Heckerman, Breese & Rommelse, CACM
 * 38(3), 1995; Kadane & Simon, Ann. Statist. 5, 1977.
 */
export function repairOrder<T extends RepairStep>(steps: readonly T[]): readonly T[] {
  return [...steps].sort((a, b) => b.probability / b.minutes - a.probability / a.minutes);
}

/**
 * Minutes to be expected for a sequence: each step is paid for as far as the ones before it have
 * not cured. What is left at the end costs `otherwise` more.
 */
export function expectedRepairMinutes(steps: readonly RepairStep[], otherwise: number): number {
  const known = steps.reduce((sum, { probability }) => sum + probability, 0);
  let left = 1;
  let total = 0;
  for (const { probability, minutes } of steps) {
    total += Math.max(0, left) * minutes;
    left -= probability;
  }
  return total + Math.max(0, 1 - known) * otherwise;
}

/** Replacing the suspects that count one after the other, each with the test after it. */
export function replacingInOrder(
  shares: ReadonlyMap<string, number>,
  costs: CostTable,
): readonly RepairStep[] {
  return repairOrder(
    [...shares]
      .filter(([, probability]) => probability >= NEGLIGIBLE)
      .map(([ref, probability]) => ({ ref, probability, minutes: costs.replace + MINUTES.test })),
  );
}

/** What a reading promises: chance of each outcome, and the shares of the parts then. */
export interface ReadingPromise {
  readonly title: string;
  readonly minutes: number;
  readonly reason: string;
  readonly outcomes: readonly {
    readonly probability: number;
    readonly shares: ReadonlyMap<string, number>;
  }[];
}

/** Suspects below this take no part in a plan of work. */
export const NEGLIGIBLE = 0.01;
/** Below this a suspect adds nothing to a chance that counts; suspects come likeliest first. */
const UNHEARD = 1e-6;
/**
 * Minutes that a board costs on which everything suspected was replaced in vain. From memory of
 * bench practice.
 */
export const GIVE_UP_MINUTES = 180;
/**
 * Work on joints and contacts, a test after it included, and what each part of a cohort adds once
 * the iron is hot. From memory of bench practice.
 */
const MINUTES = { resolder: 6, clean: 4, cohortPart: 6, test: 5 } as const;

/**
 * Expected minutes that differ by less than this share are as good: then what may cure goes first.
 */
const AS_GOOD = 0.05;

/**
 * All actions on one scale, least expected minutes first. promises: readings that could be taken.
 */
export function planActions(
  index: BoardIndex,
  belief: Belief,
  costs: CostTable,
  promises: readonly ReadingPromise[],
): readonly Action[] {
  const shares = new Map(
    belief.byPart
      .filter(({ probability }) => probability >= NEGLIGIBLE)
      .map(({ ref, probability }) => [ref, probability]),
  );
  const order = (own: ReadonlyMap<string, number>): number =>
    expectedRepairMinutes(replacingInOrder(own, costs), GIVE_UP_MINUTES);
  const now = order(shares);
  const work = (
    kind: Action['kind'],
    title: string,
    refs: readonly string[],
    minutes: number,
    cures: number,
    why: string,
  ): Action => {
    const left = new Map(
      [...shares].map(([ref, p]) => [
        ref,
        refs.includes(ref) ? Math.max(0, p - cures * (p / sumOf(refs, shares))) : p,
      ]),
    );
    const scaled = new Map([...left].map(([ref, p]) => [ref, p / Math.max(1e-9, 1 - cures)]));
    return {
      kind,
      title,
      refs,
      minutes,
      cures,
      expectedMinutes: minutes + (1 - cures) * order(scaled),
      reason: `${why}; cures with ${percent(cures)} for ${minutesInWords(minutes)}`,
    };
  };
  const actions: Action[] = [
    ...[...shares].map(([ref, p]) => {
      if (index.replaceable.has(ref))
        return work(
          'replace',
          `replace ${ref}`,
          [ref],
          costs.replace + MINUTES.test,
          p,
          'the suspect itself',
        );
      const isCut = belief.suspects.some(
        ({ hypothesis }) => hypothesis.refs[0] === ref && hypothesis.name.endsWith(':cut'),
      );
      const title = isCut
        ? `mend the track between ${ref.replace('~', ' and ')}`
        : `take the solder off between ${ref.replace('~', ' and ')}`;
      return work('resolder', title, [ref], MINUTES.resolder, p, 'the suspect itself');
    }),
    ...cheapWork(index, belief, shares, work),
    ...cohorts(index, shares, costs, work),
    ...promises.map(({ title, minutes, reason, outcomes }): Action => {
      const after = outcomes.reduce(
        (sum, { probability, shares: own }) => sum + probability * order(own),
        0,
      );
      return {
        kind: 'measure',
        title,
        refs: [],
        minutes,
        cures: 0,
        expectedMinutes: minutes + Math.min(now, after),
        reason,
      };
    }),
  ];
  const best = actions.reduce(
    (least, { expectedMinutes }) => Math.min(least, expectedMinutes),
    Infinity,
  );
  const level = ({ expectedMinutes }: Action): number =>
    Math.floor(Math.log(expectedMinutes / best) / Math.log(1 + AS_GOOD));
  return actions.sort(
    (a, b) => level(a) - level(b) || b.cures - a.cures || a.expectedMinutes - b.expectedMinutes,
  );
}

type Work = (
  kind: Action['kind'],
  title: string,
  refs: readonly string[],
  minutes: number,
  cures: number,
  why: string,
) => Action;

function sumOf(refs: readonly string[], shares: ReadonlyMap<string, number>): number {
  return refs.reduce((sum, ref) => sum + (shares.get(ref) ?? 0), 0) || 1;
}

/**
 * Joints that can be soldered again and contacts that can be cleaned before a part is condemned.
 */
function cheapWork(
  index: BoardIndex,
  belief: Belief,
  shares: ReadonlyMap<string, number>,
  work: Work,
): Action[] {
  const found: Action[] = [];
  const chances = new Map<string, number>();
  for (const { hypothesis, probability } of belief.suspects) {
    if (probability < UNHEARD) break;
    if (hypothesis.type !== 'single') continue;
    const key = `${hypothesis.refs[0]!}:${hypothesis.name.slice(hypothesis.name.lastIndexOf(':') + 1)}`;
    chances.set(key, (chances.get(key) ?? 0) + probability);
  }
  for (const ref of shares.keys()) {
    const joints = chances.get(`${ref}:dry`) ?? 0;
    if (joints >= NEGLIGIBLE)
      found.push(
        work(
          'resolder',
          `solder the joints of ${ref} again`,
          [ref],
          MINUTES.resolder,
          joints,
          'a dry joint shows as an open part',
        ),
      );
    const [part] = index.replaceable.get(ref) ?? [];
    if (part?.kind === 'switch' || part?.kind === 'connectorPin') {
      const contact = chances.get(`${ref}:open`) ?? 0;
      if (contact >= NEGLIGIBLE)
        found.push(
          work(
            'clean',
            `clean the contacts of ${ref}`,
            [ref],
            MINUTES.clean,
            0.7 * contact,
            'cheap and can be taken back',
          ),
        );
    }
  }
  return found;
}

/** Capacitors of one value and age, where more than one of them is suspected. */
function cohorts(
  index: BoardIndex,
  shares: ReadonlyMap<string, number>,
  costs: CostTable,
  work: Work,
): Action[] {
  const groups = new Map<string, string[]>();
  for (const part of index.board.parts) {
    const key = cohortKey(part);
    if (key) groups.set(key, [...(groups.get(key) ?? []), replaceableRef(part.ref)]);
  }
  return [...groups].flatMap(([, refs]): Action[] => {
    const suspected = refs.filter((ref) => shares.has(ref));
    if (refs.length < 2 || suspected.length < 2) return [];
    const minutes = costs.replace + MINUTES.cohortPart * (refs.length - 1) + MINUTES.test;
    return [
      work(
        'replace-cohort',
        `replace all of ${refs.join(', ')}`,
        refs,
        minutes,
        Math.min(0.999, sumOf(refs, shares)),
        'same value and age',
      ),
    ];
  });
}

function cohortKey(part: Part): string | undefined {
  if (
    part.kind !== 'capacitor' ||
    part.fitYear === undefined ||
    (part.dielectric !== 'electrolytic' && part.dielectric !== 'bipolar')
  )
    return undefined;
  return `${part.dielectric} ${part.fitYear} ${part.capacitanceFarad}`;
}

const percent = (share: number): string => `${Math.round(100 * share)} %`;
