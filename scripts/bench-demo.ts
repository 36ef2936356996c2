import type { Board } from '@hanzai/core/board';
import { Engine } from '../web/src/workers/engine';
import type { EngineEvent, EngineReading } from '../web/src/workers/engine-messages';

/** What a demo board took in a new worker, from nothing, milliseconds. */
export interface DemoRow {
  readonly parts: number;
  /**
   * From the first reading to the first line-up and the first suggestion, and to the last of each.
   */
  readonly firstLineUp: number;
  readonly firstSuggestion: number;
  readonly lineUp: number;
  readonly suggestion: number;
  /** From a second reading to its line-up and to its first suggestion. */
  readonly nextLineUp: number;
  readonly nextSuggestion: number;
}

/**
 * Takes a board of the demo through two readings as a page would. reads: the points and volts of
 * each.
 */
export async function benchDemo(
  board: Board,
  reads: readonly (readonly [string, number])[],
): Promise<DemoRow> {
  const engine = new Engine(board);
  const readings = reads.map(([at, value], i): EngineReading => ({
    id: `${i}`,
    setup: 'on',
    kind: 'voltage',
    at,
    to: '',
    value,
    absent: [],
  }));
  const first = await assess(engine, readings.slice(0, 1));
  const second = await assess(engine, readings);
  return {
    parts: board.parts.length,
    firstLineUp: first.firstLineUp,
    firstSuggestion: first.firstSuggestion,
    lineUp: first.lineUp,
    suggestion: first.suggestion,
    nextLineUp: second.firstLineUp,
    nextSuggestion: second.firstSuggestion,
  };
}

type Taken = Pick<DemoRow, 'firstLineUp' | 'firstSuggestion' | 'lineUp' | 'suggestion'>;

let tickets = 0;

async function assess(engine: Engine, readings: EngineReading[]): Promise<Taken> {
  const started = performance.now();
  const taken = { firstLineUp: 0, firstSuggestion: 0, lineUp: 0, suggestion: 0 };
  const send = ({ type }: EngineEvent): void => {
    const now = performance.now() - started;
    if (type === 'line-up')
      Object.assign(taken, { firstLineUp: taken.firstLineUp || now, lineUp: now });
    if (type === 'next')
      Object.assign(taken, { firstSuggestion: taken.firstSuggestion || now, suggestion: now });
  };
  await engine.assess(
    { ticket: (tickets += 1), readings, absent: [], look: {} },
    { send, pause: async () => undefined, stale: () => false },
  );
  return taken;
}
