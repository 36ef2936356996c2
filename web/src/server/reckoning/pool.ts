import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Piscina } from 'piscina';
import { v7 } from 'uuid';
import type { PatternPack } from '@hanzai/core/learn';
import type { CaseSummary } from '../../case/summary';
import type { CircuitPattern } from '../../patterns/patterns';
import type { ShopFigures } from '../../patterns/shop-figures';
import type { Paper } from '../../paper/paper';
import type { LearnFrom, Learnt } from '../learn/learning';
import type { FileTask, ReadFile } from './read-file';
import type {
  Exposed,
  FiguresTask,
  Judgement,
  JudgeTask,
  SentBoard,
  SummaryTask,
  Task,
  VisitTask,
} from './tasks';

/** Heap of one worker thread, MB. */
const MOST_MEGABYTES = 1024;
/** A file that takes longer to read is refused, milliseconds. */
const FILE_PATIENCE = 15_000;
/** Rules and summaries of one entry may take so long, milliseconds. */
const PATIENCE = 60_000;
/** And what a circuit says of all that is seen, milliseconds. */
const LONG_PATIENCE = 180_000;

/** Which version of the application works things out here: what another one kept is worked out anew. */
let version: string | undefined;
export function reckonerVersion(): string {
  const built = join(dirname(workerFile()), 'dist/reckoner/tasks.js');
  // Sources may change with every start.
  version ??=
    process.env.HANZAI_SERVES_BUILD === '1'
      ? createHash('sha256').update(readFileSync(built)).digest('hex').slice(0, 16)
      : `sources ${v7()}`;
  return version;
}

/** The worker's file: beside the server as it is started, or from the root of the project. */
function workerFile(): string {
  const places = ['reckoner.mjs', 'web/reckoner.mjs'].map((path) => join(process.cwd(), path));
  const found = [process.env.HANZAI_RECKONER, ...places].find((path) => path && existsSync(path));
  if (!found) throw new Error('web/reckoner.mjs is missing');
  return found;
}

const open = (threads: number): Piscina =>
  new Piscina({
    filename: workerFile(),
    minThreads: 1,
    maxThreads: threads,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  });

// What strangers send or ask for has a thread of its own: one that hangs holds nobody's entry up.
// What takes long has its own too: an entry does not wait behind it.
interface Pools {
  readonly own: Piscina;
  readonly files: Piscina;
  readonly long: Piscina;
}
let pools: Pools | undefined;
const pool = (): Pools => (pools ??= { own: open(2), files: open(1), long: open(2) });

function work<Answer>(of: Piscina, task: Task, patience: number): Promise<Answer> {
  return of.run(task, { signal: AbortSignal.timeout(patience) }) as Promise<Answer>;
}

/** Whether an entry may be made, and what the case is then. */
export const judge = (task: Omit<JudgeTask, 'task'>): Promise<Judgement> =>
  work(pool().own, { task: 'judge', ...task }, PATIENCE);

export const summarise = (task: Omit<SummaryTask, 'task'>): Promise<CaseSummary> =>
  work(pool().own, { task: 'summary', ...task }, PATIENCE);

/** What is on a board, and how often it fails by the rate table alone. */
export const exposedBy = (board: SentBoard): Promise<Exposed> =>
  work(pool().long, { task: 'exposure', board }, LONG_PATIENCE);

/** What a board's circuit says of all that is seen of it. */
export const symptomsOf = (board: SentBoard): Promise<CircuitPattern[]> =>
  work(pool().long, { task: 'symptoms', board }, LONG_PATIENCE);

/** What is learned of all closed cases. */
export const learnedFrom = (from: LearnFrom): Promise<Learnt> =>
  work(pool().long, { task: 'learn', from }, LONG_PATIENCE);

/** The same as a pack for another workshop. madeAt: ISO 8601. */
export const packedFrom = (
  from: LearnFrom,
  workshop: string,
  madeAt: string,
): Promise<PatternPack> =>
  work(pool().long, { task: 'pack', from, workshop, madeAt }, LONG_PATIENCE);

/** The shop's own figures. */
export const figuredFrom = (rows: FiguresTask['rows']): Promise<ShopFigures> =>
  work(pool().long, { task: 'figures', rows }, LONG_PATIENCE);

/** What somebody outside gets to see of a case. */
export const visitedBy = (task: Omit<VisitTask, 'task'>): Promise<Paper> =>
  work(pool().files, { task: 'visit', ...task }, PATIENCE);

/** Reads a board file within limits of time and memory. */
export async function readUntrusted(task: Omit<FileTask, 'task'>): Promise<ReadFile> {
  try {
    return await work<ReadFile>(pool().files, { task: 'file', ...task }, FILE_PATIENCE);
  } catch (error) {
    const { name, code } = error as Error & { code?: string };
    const beyond =
      name === 'AbortError' || name === 'TimeoutError' || code === 'ERR_WORKER_OUT_OF_MEMORY';
    if (!beyond) throw error;
    return {
      ok: false,
      issues: [
        {
          what: 'the file unfolds into more than can be read',
          expected: `a sheet that is read within ${FILE_PATIENCE / 1000} seconds and ${MOST_MEGABYTES} MB`,
        },
      ],
    };
  }
}

/** Ends the threads; they start again when they are asked. */
export async function closePools(): Promise<void> {
  const open = pools;
  pools = undefined;
  await Promise.all([open?.own.destroy(), open?.files.destroy(), open?.long.destroy()]);
}
