import { format } from 'date-fns/format';
import { benchMinutes } from '@hanzai/core/bench';
import type { Salvaged } from '@hanzai/core/decide';
import type { ProofStep } from '@hanzai/core/prove';
import { creditOf, overruledOf } from '../../case/after-repair';
import type { Journal } from '../../case/journal';
import type { ReportList } from '../../case/kind/definition';
import { runWords } from '../../case/kind/proving';
import { kindOf } from '../../case/kinds';
import type { EntryBody } from '../../case/entry';
import { proofWords } from '../../case/proof-words';
import { failedKillChecks } from '../../case/salvage';
import { shownOf } from '../../case/shown';
import type { CaseState } from '../../case/use-case';
import {
  decibanText,
  KIND_WORDS,
  minutesText,
  moneyText,
  percent,
  pointsText,
  setupWords,
  valueText,
  weightWords,
} from '../../case/wording';
import { list, maybe, words, type Block, type Paper } from '../../paper/paper';
import { remainsAtRisk } from './risk';
import type { ReportFigures } from '../../workers/engine-messages';

export type Closing = Extract<EntryBody, { kind: 'close' }>;

export const dayText = (iso: string): string => format(new Date(iso), 'd MMMM yyyy');

/** Parts to keep that a paper names. */
const MOST_KEPT = 12;

/** What a paper is made of. */
export type PaperOf = Pick<CaseState, 'view' | 'journal' | 'index' | 'model'> & {
  readonly proof: readonly ProofStep[];
  /** Parts worth keeping of a unit that was given up. */
  readonly kept: readonly Salvaged[];
  /** Bench minutes that half of the closed cases of its kind took; null without any. */
  readonly usualMinutes: number | null;
};

/** Of a unit that was given up: what is finished, what is worth saving, the parts to keep. */
export function salvageBlocks({ journal, model, kept }: PaperOf): Block[] {
  if (journal.decision?.body.course !== 'give-up') return [];
  const failed = failedKillChecks(journal, model);
  if (failed.length + kept.length === 0) return [];
  return [
    ...failed.map(({ finished, worthSaving }) =>
      words(`Finished: ${finished}. Worth saving: ${worthSaving}.`),
    ),
    ...list(
      kept
        .slice(0, MOST_KEPT)
        .map(({ ref, text, because }) => [`${ref} ${text}`, because].filter(Boolean).join(': ')),
    ),
    ...(kept.length > MOST_KEPT ? [words(`And ${kept.length - MOST_KEPT} more.`)] : []),
    words('Nothing of it is proven: each is tested before it goes into another unit.'),
  ];
}

export const factsOf = ({ view, journal }: PaperOf): Paper['facts'] =>
  (
    [
      ['Unit', view.unitModel],
      ['Serial', view.serial],
      ['Owner', view.owner],
      ['Taken in', dayText(view.openedAt)],
      ['Bench time', minutesText(benchMinutes(journal.moments))],
      ['Board sheet', view.board?.content.title ?? ''],
    ] as const
  ).filter(([, value]) => value !== '');

/**
 * The report with all of it: complaint, findings, readings with their weight, parts, proof, time.
 * figures: undefined while the weight of the readings is being worked out.
 */
export function technicalPaper(
  of: PaperOf,
  figures: ReportFigures | undefined,
  closing?: Closing,
  limit?: number,
): Paper {
  const advice = closing?.note ?? '';
  const { view, journal, index, proof } = of;
  return {
    kind: `Repair report ${view.number}`,
    title: view.title,
    facts: factsOf(of),
    sections: [
      { title: 'Complaint', blocks: view.complaint ? [words(`“${view.complaint}”`)] : [] },
      { title: 'Symptoms and findings', blocks: list(linesOf('findings', journal, index)) },
      { title: 'Tried before measuring', blocks: list(triedWords(journal)) },
      {
        title: 'Readings that led to the verdict',
        blocks: figures
          ? weighed(journal, index, figures)
          : [words('Their weight is still being worked out …')],
      },
      ...maybe(
        'Readings at points that no sheet has',
        list(
          journal.loose.map(
            ({ entry: { body } }) =>
              `${pointsText(undefined, body.at, body.to)}, ${KIND_WORDS[body.quantity]}, ${setupWords(body.setup)}: ${valueText(body.quantity, body.value)}`,
          ),
        ),
      ),
      { title: 'Verdict and parts', blocks: list(linesOf('verdict', journal, index)) },
      ...maybe(
        'What cured it',
        list(
          creditOf(journal).map(
            ({ words: what, share, word }) => `${what}: ${word} (${percent(share)} of the credit)`,
          ),
        ),
      ),
      ...maybe('What remains at risk, and when', list(remainsAtRisk(of))),
      ...maybe('Done against advice, and why', list(overruledOf(journal, index))),
      ...maybe('Decided', list(linesOf('decided', journal, index))),
      ...maybe('Powered as it was, on purpose', list(linesOf('powered', journal, index))),
      { title: 'Proof', blocks: proofBlocks(of) },
      ...maybe('Costs and time', list(costsAndTime(of, closing, limit))),
      ...maybe('Given up: what is kept', salvageBlocks(of)),
      ...maybe('Advice', advice === '' ? [] : [words(advice)]),
    ],
    foot:
      proof.length + journal.readings.length === 0
        ? ''
        : 'Weights are decibans: +10 dB makes the odds ten times higher. Bands allow for part tolerance and meter accuracy, about 95 %.',
  };
}

/** The price against what was agreed, and the time against what such cases took. */
function costsAndTime(
  { journal, usualMinutes }: PaperOf,
  closing: Closing | undefined,
  limit: number | undefined,
): string[] {
  const took = minutesText(benchMinutes(journal.moments));
  return [
    ...costLines(closing, limit),
    usualMinutes === null
      ? `${took} at the bench.`
      : `${took} at the bench; half of the closed cases of its kind took up to ${minutesText(Math.round(usualMinutes))}.`,
  ];
}

/** The price, and how it stands to what was agreed. */
export function costLines(closing: Closing | undefined, limit: number | undefined): string[] {
  if (closing?.price === undefined) return [];
  const agreed =
    limit === undefined
      ? 'Nothing was agreed beforehand.'
      : closing.price <= limit
        ? `Within the ${moneyText(limit)} agreed.`
        : `Above the ${moneyText(limit)} agreed: ask us why.`;
  // To the penny: it is what is paid.
  return [`${closing.price.toFixed(2)}. ${agreed}`];
}

function weighed(
  journal: Journal,
  index: PaperOf['index'],
  { readings, weightFor }: ReportFigures,
): Block[] {
  const rows = journal.readings.flatMap(({ entry, by }) => {
    const figure = readings[entry.id];
    if (!figure) return [];
    const { body } = entry;
    return [
      [
        pointsText(index, body.at, body.to),
        `${KIND_WORDS[body.quantity]}, ${setupWords(body.setup)}${by === undefined ? '' : `, by ${by}`}`,
        valueText(body.quantity, body.value),
        `${figure.expected}${figure.within ? '' : ' (out of band)'}`,
        figure.weight === null
          ? ''
          : `${weightWords(figure.weight)} (${decibanText(figure.weight)})`,
      ],
    ];
  });
  if (rows.length === 0) return [];
  const head = [
    'points',
    'how',
    'read',
    'sound board',
    weightFor ? `weight for ${weightFor}` : 'weight',
  ];
  return [{ type: 'table', head, rows, mono: [2, 3, 4] }];
}

const STATE_WORDS = { open: 'not done', pass: 'pass', fail: 'FAIL' } as const;

/** The steps of the proof, every run, and what they show. */
export function proofBlocks({ journal, index, proof, model }: PaperOf): Block[] {
  const rows = proof.map((step) => {
    const { what, how, must, before, after } = proofWords(step, index);
    return [
      how === '' ? what : `${what}, ${how}`,
      must.band ? `${must.display} (${must.band})` : must.display,
      before,
      after,
      STATE_WORDS[step.state],
    ];
  });
  const head = ['step', 'must show', 'before', 'after', 'state'];
  const table: Block[] = rows.length === 0 ? [] : [{ type: 'table', head, rows, mono: [1, 2, 3] }];
  const runs = journal.runsSince.map(({ body }) => runWords(body));
  return [
    ...table,
    ...list(runs),
    ...(rows.length === 0 ? [] : shownOf({ journal, model }).map(words)),
  ];
}

const counted = (count: number, thing: string): string =>
  `${count} ${thing}${count === 1 ? '' : 's'}`;

/** What was done before the meter came out: starts, swaps, checks, first aid, what was acknowledged. */
function triedWords(journal: Journal): readonly string[] {
  const { starts, acknowledged } = journal;
  const clean = starts.filter(({ body }) => body.failedAt === null).length;
  const [here, away] = [
    acknowledged.filter(({ notHere }) => !notHere),
    acknowledged.filter(({ notHere }) => notHere),
  ];
  const namesOf = (of: typeof acknowledged): string =>
    [...new Set(of.map(({ who }) => who))].join(', ');
  return [
    ...(starts.length > 0
      ? [`${counted(starts.length, 'start')} written down, ${clean} of them clean`]
      : []),
    ...linesOf('tried', journal, undefined),
    ...(here.length > 0
      ? [`${counted(here.length, 'hazard')} acknowledged by ${namesOf(here)}`]
      : []),
    ...(away.length > 0
      ? [`${counted(away.length, 'hazard')} of its kind not on this unit, says ${namesOf(away)}`]
      : []),
  ];
}

/** The lines of one list of the report, in the order entered. */
export function linesOf(
  of: ReportList,
  { standing }: Journal,
  index: PaperOf['index'],
): readonly string[] {
  return standing.flatMap(({ body, by }) => {
    const { report } = kindOf(body.kind);
    const line =
      typeof report === 'object' && report.list === of ? report.line(body, index) : undefined;
    return line ? [by === undefined ? line : `${line} (${by})`] : [];
  });
}
