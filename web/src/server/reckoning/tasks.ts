// What the server has worked out beside its one thread: rules and summaries that may solve circuits.
// Runs in a worker thread (web/reckoner.mjs).
import { checkBoard, indexBoard, type BoardIndex } from '@hanzai/core/board';
import { exposureOf, kindOfPart, type Exposure, type PatternPack } from '@hanzai/core/learn';
import { symptomTable } from '@hanzai/core/diagnosis';
import { RATES } from '@hanzai/data';
import type { CircuitPattern } from '../../patterns/patterns';
import { shopFigures, type FiguredCase, type ShopFigures } from '../../patterns/shop-figures';
import { CaseFigures } from '../../case/case-figures';
import type { CaseView } from '../../case/case-view';
import type { Entry, EntryBody } from '../../case/entry';
import { epochOf, playJournal } from '../../case/journal';
import { caseProgress } from '../../case/progress';
import { entryObjection } from '../../case/rules';
import { summaryOf, type CaseSummary } from '../../case/summary';
import { unitModelOf } from '../../case/unit';
import type { UnitCode } from '../../case/unit-code';
import type { Paper } from '../../paper/paper';
import { visitorPaper } from '../../visit/visitor-paper';
import { learn, packOf, type LearnFrom, type Learnt } from '../learn/learning';
import { readFile, type FileTask, type ReadFile } from './read-file';

/** A board as it is stored; its index is kept by its id, since it never changes. */
export interface SentBoard {
  readonly id: string;
  readonly content: unknown;
}

/** May this entry be made, and what is the case then? */
export interface JudgeTask {
  readonly task: 'judge';
  readonly body: EntryBody;
  readonly entry: Entry;
  readonly entries: readonly Entry[];
  readonly board: SentBoard | undefined;
  readonly unitType: string;
  readonly codes: readonly UnitCode[];
}

export type Judgement =
  | { readonly objection: string }
  | { readonly summary: CaseSummary; /** Repairs before it. */ readonly epoch: number };

/** What is the case, as it stands? */
export interface SummaryTask {
  readonly task: 'summary';
  readonly entries: readonly Entry[];
  readonly board: SentBoard | undefined;
  readonly unitType: string;
  readonly codes: readonly UnitCode[];
}

/** What is on a board, and how often does it fail by the rate table alone? */
export interface ExposureTask {
  readonly task: 'exposure';
  readonly board: SentBoard;
}

export interface Exposed {
  readonly title: string;
  readonly rows: readonly Exposure[];
  /** The class and role of each part, by its designator. */
  readonly kinds: ReadonlyMap<string, { readonly of: string; readonly role: string }>;
}

/** What does a board's circuit say of all that is seen of it? Takes some seconds on a large one. */
export interface SymptomsTask {
  readonly task: 'symptoms';
  readonly board: SentBoard;
}

/** What is to be learned of all closed cases? Seconds of thousands. */
export interface LearnTask {
  readonly task: 'learn';
  readonly from: LearnFrom;
}

/** And as a pack for another workshop? */
export interface PackTask {
  readonly task: 'pack';
  readonly from: LearnFrom;
  readonly workshop: string;
  readonly madeAt: string;
}

/** What are the shop's own figures? figures: their text; null while a case is open. */
export interface FiguresTask {
  readonly task: 'figures';
  readonly rows: readonly (Omit<FiguredCase, 'figures'> & { readonly figures: string | null })[];
}

/** What does somebody outside get to see of a case? */
export interface VisitTask {
  readonly task: 'visit';
  readonly view: Omit<CaseView, 'board'>;
  readonly board: SentBoard | undefined;
  readonly showsCosts: boolean;
}

export type Task =
  | JudgeTask
  | SummaryTask
  | ExposureTask
  | SymptomsTask
  | LearnTask
  | PackTask
  | FiguresTask
  | VisitTask
  | FileTask;

/** Suspects of a symptom that are told. */
const MOST_SUSPECTS = 10;

/** Boards whose index is kept. */
const MOST_BOARDS = 24;
const indices = new Map<string, BoardIndex>();

function indexOf(board: SentBoard | undefined): BoardIndex | undefined {
  if (!board) return undefined;
  const known = indices.get(board.id);
  if (known) return known;
  const content = checkBoard(board.content);
  if (!content.ok) throw new Error(`board ${board.id} does not fit its schema`);
  const index = indexBoard(content.value);
  if (indices.size >= MOST_BOARDS) indices.delete(indices.keys().next().value!);
  indices.set(board.id, index);
  return index;
}

function judge(task: JudgeTask): Judgement {
  const index = indexOf(task.board);
  const model = unitModelOf(task.unitType, task.codes);
  const objection = entryObjection(task.body, task.entries, index, model);
  if (objection !== undefined) return { objection };
  return {
    summary: summaryOf([...task.entries, task.entry], index, model),
    epoch: epochOf(playJournal(task.entries, index).standing),
  };
}

function exposed(index: BoardIndex): Exposed {
  return {
    title: index.board.title,
    rows: exposureOf(index, RATES),
    kinds: new Map(
      [...index.replaceable.keys()].map((ref) => [ref, kindOfPart(index, RATES, ref)]),
    ),
  };
}

const symptoms = (index: BoardIndex): CircuitPattern[] =>
  symptomTable(index, RATES).map(({ suspects, ...row }) => ({
    ...row,
    suspects: suspects.slice(0, MOST_SUSPECTS),
  }));

const figured = ({ rows }: FiguresTask): ShopFigures =>
  shopFigures(
    rows.map(({ figures, ...row }) => ({
      ...row,
      // What an older version wrote, or nobody can read, is no figure.
      figures: CaseFigures.nullable()
        .catch(null)
        .parse(figures === null ? null : JSON.parse(figures)),
    })),
  );

function visited({ view, board, showsCosts }: VisitTask): Paper {
  const index = indexOf(board);
  const model = unitModelOf(view.unitType, view.codes);
  const journal = playJournal(view.entries, index);
  // Of an open case nothing is said of the proof, which may take its time.
  const { proof } = journal.closed ? caseProgress(index, journal) : { proof: [] };
  const of = { view: { ...view, board: null }, journal, index, model, proof };
  return visitorPaper({ ...of, kept: [], usualMinutes: null }, { showsCosts });
}

export default function reckon(
  task: Task,
):
  | Judgement
  | CaseSummary
  | Exposed
  | CircuitPattern[]
  | Learnt
  | Promise<PatternPack>
  | ShopFigures
  | Paper
  | ReadFile {
  if (task.task === 'learn') return learn(task.from);
  if (task.task === 'figures') return figured(task);
  if (task.task === 'pack') return packOf(task.from, task.workshop, task.madeAt);
  if (task.task === 'judge') return judge(task);
  if (task.task === 'visit') return visited(task);
  if (task.task === 'file') return readFile(task);
  if (task.task === 'symptoms') return symptoms(indexOf(task.board)!);
  if (task.task === 'exposure') return exposed(indexOf(task.board)!);
  return summaryOf(task.entries, indexOf(task.board), unitModelOf(task.unitType, task.codes));
}
