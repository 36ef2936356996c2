import {
  agedParts,
  coursesOf,
  FAULT_AHEAD,
  likeParts,
  quoteOf,
  usualMinutes,
  wasStored,
  type Course,
  type JobFigures,
  type Quote,
  type StageAhead,
} from '@hanzai/core/decide';
import { benchMinutes } from '@hanzai/core/bench';
import type { UnitModel } from '@hanzai/core/block';
import type { BoardIndex } from '@hanzai/core/board';
import { limitOf } from '../../case/agreed';
import type { CaseView } from '../../case/case-view';
import type { Journal } from '../../case/journal';
import type { OtherCases } from '../../case/others';
import type { LineUp, NextStep } from '../../workers/engine-messages';

/** Suspects below this chance are no ground for a decision. */
const WORTH_NAMING = 0.005;
/** Minutes to put a unit together and hand it back, and what a round takes beside its replacement. */
const CLOSING_MINUTES = 25;

export interface Suspect {
  readonly ref: string;
  readonly title: string;
  readonly probability: number;
}

/**
 * Who is suspected: the condemned first, as sure as they were condemned; else the line-up. A line-up
 * that is still being refined counts as it stands.
 */
export function suspectsOf(journal: Journal, lineUp: LineUp | undefined): readonly Suspect[] {
  const untouched = journal.condemned.filter(
    ({ body }) =>
      !journal.ledger.some(({ ref, action }) => ref === body.ref && action === 'fitted'),
  );
  if (untouched.length > 0)
    return untouched.map(({ body }) => ({
      ref: body.ref,
      title: lineUp?.entries.find(({ ref }) => ref === body.ref)?.title ?? '',
      probability: body.probability,
    }));
  return (lineUp?.entries ?? [])
    .filter(({ probability, cleared }) => !cleared && probability >= WORTH_NAMING)
    .map(({ ref, title, probability }) => ({ ref, title, probability }));
}

/** Stages that no start has reached yet, with the chance of a fault of their own. */
export function stagesAhead(
  model: UnitModel | undefined,
  journal: Journal,
  causeOfDeath: string,
): readonly StageAhead[] {
  const last = journal.starts.at(-1)?.body;
  if (!model || !last || last.failedAt === null) return [];
  const at = model.stages.findIndex(({ name }) => name === last.failedAt);
  const faulty = wasStored(causeOfDeath) ? FAULT_AHEAD.stored : FAULT_AHEAD.used;
  return at < 0
    ? []
    : model.stages.slice(at + 1).map(({ name, title }) => ({ name, title, faulty }));
}

/** The figures with the round that closed cases of this kind took, where there are enough of them. */
export function withHistory(figures: JobFigures, others: OtherCases): JobFigures {
  const usual = usualMinutes(others.closedMinutes);
  return usual === undefined ? figures : { ...figures, roundMinutes: usual };
}

export interface Decided {
  readonly suspects: readonly Suspect[];
  readonly courses: readonly Course[];
  readonly quote: Quote;
}

/** Everything that a decision rests on. */
export function standingOf(
  {
    index,
    journal,
    model,
    view,
  }: {
    readonly index: BoardIndex | undefined;
    readonly journal: Journal;
    readonly model: UnitModel | undefined;
    readonly view: Pick<CaseView, 'spendingLimit' | 'causeOfDeath' | 'earlierVisitors'>;
  },
  found: { readonly lineUp: LineUp | undefined; readonly next: NextStep | undefined },
  others: OtherCases,
  own: JobFigures,
  hasDonor: boolean,
): Decided {
  const figures = withHistory(own, others);
  const suspects = suspectsOf(journal, found.lineUp);
  const [reading] = found.next?.state === 'measure' ? found.next.proposals : [];
  const courses = coursesOf(
    {
      suspects,
      likeOf: (ref) => (index ? likeParts(index, ref) : [ref]),
      kindOf: (ref) => (index ? agedParts(index, ref) : [ref]),
      next: reading && { minutes: reading.minutes, bits: reading.gainBits },
      hasDonor,
      earlier: view.earlierVisitors,
    },
    figures,
  );
  const round = figures.roundMinutes * figures.minutePrice + figures.partPrice;
  const [best] = courses;
  return {
    suspects,
    courses,
    quote: quoteOf({
      spentMinutes: benchMinutes(journal.moments),
      minutePrice: figures.minutePrice,
      thisFault: best && Number.isFinite(best.inAll) ? best.inAll : round,
      ahead: stagesAhead(model, journal, view.causeOfDeath),
      roundPrice: round,
      closingMinutes: CLOSING_MINUTES,
      limit: limitOf(journal, view),
    }),
  };
}
