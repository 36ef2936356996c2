import Papa from 'papaparse';
import {
  GROUND,
  indexBoard,
  MAX_ISSUES,
  nameKey,
  type Board,
  type BoardIndex,
  type FileIssue,
  type Part,
  type ReadResult,
} from '../board';
import type { NoOperatingPoint } from '../circuit';
import type { FaultState } from '../fault';
import { parseQuantity } from '../quantity';
import { BenchState } from './bench-state';

/** One change of an input level: the net is held at so many volts from here on. */
export interface LevelChange {
  readonly step: number;
  readonly net: string;
  readonly volt: number;
}

export interface StepVolts {
  readonly step: number;
  readonly nets: Readonly<Record<string, number | null>>;
}

export type SteppingResult =
  | { readonly ok: true; readonly steps: readonly StepVolts[] }
  | (NoOperatingPoint & { readonly step: number });

const COLUMNS = ['step', 'net', 'volts'] as const;

/**
 * Reads a file of level changes against a board: `step,net,volts` with a header line, steps in
 * ascending order. Every issue has its line.
 */
export function readStepsFile(
  index: BoardIndex,
  source: string,
): ReadResult<readonly LevelChange[]> {
  const { data } = Papa.parse<string[]>(source.replace(/^\uFEFF/, ''), { skipEmptyLines: false });
  const header = data[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  if (COLUMNS.some((column, i) => header[i] !== column)) {
    return {
      ok: false,
      issues: [
        {
          line: 1,
          what: 'the header line is not that of a steps file',
          expected: COLUMNS.join(','),
        },
      ],
    };
  }
  const changes: LevelChange[] = [];
  const issues: FileIssue[] = [];
  data.forEach((row, i) => {
    if (i === 0 || row.every((cell) => cell.trim() === '') || issues.length >= MAX_ISSUES) return;
    const [stepText = '', netText = '', voltText = ''] = row.map((cell) => cell.trim());
    const step = Number(stepText);
    const net = index.netByKey.get(nameKey(netText));
    const volt = parseQuantity(voltText);
    const push = (what: string, expected: string): void =>
      void issues.push({ line: i + 1, what, expected });
    if (row.length !== 3) push(`${row.length} fields`, `3: ${COLUMNS.join(',')}`);
    else if (stepText === '' || !Number.isFinite(step)) push(`step "${stepText}"`, 'a number');
    else if (step < (changes.at(-1)?.step ?? -Infinity))
      push(`step ${stepText} after step ${changes.at(-1)!.step}`, 'steps in ascending order');
    else if (net === undefined || net === GROUND)
      push(
        `the board has no net "${netText}" to be driven`,
        'a net of the board other than ground',
      );
    else if (!volt.ok || volt.value === 'OL' || Math.abs(volt.value) > 10_000)
      push(`cannot read the volts "${voltText}"`, 'a number of volts');
    else changes.push({ step, net, volt: volt.value });
  });
  return issues.length > 0 ? { ok: false, issues } : { ok: true, value: changes, notes: [] };
}

/**
 * Applies changes of input levels one after the other, the chips keeping what they remember, and
 * gives the volts at the end of each step. A net that a
 * supply of the board already holds has that supply changed; any other net is held by a source of
 * its own from its first change on.
 */
export function stepThrough(
  index: BoardIndex,
  changes: readonly LevelChange[],
  faults: readonly FaultState[] = [],
): SteppingResult {
  const held = new Map<string, number>();
  let state = new BenchState(index, { setup: 'on', faults, absent: [] });
  const steps: StepVolts[] = [];
  for (const [i, change] of changes.entries()) {
    const settled = state.solve();
    if (!settled.ok) return { ...settled, step: change.step };
    held.set(change.net, change.volt);
    state = new BenchState(
      withLevels(index, held),
      { setup: 'on', faults, absent: [] },
      state,
      true,
    );
    if (changes[i + 1]?.step === change.step) continue;
    const nets = state.netVolts();
    if ('ok' in nets && nets.ok === false)
      return { ...(nets as NoOperatingPoint), step: change.step };
    steps.push({ step: change.step, nets: nets as Record<string, number | null> });
  }
  return { ok: true, steps };
}

/**
 * The board with some nets held. Its parts stay the same objects, so that faults that name them
 * still fit.
 */
function withLevels(index: BoardIndex, held: ReadonlyMap<string, number>): BoardIndex {
  const own = new Set<string>();
  const sameNet = (a: string, b: string): boolean => nameKey(a) === nameKey(b);
  const parts = index.board.parts.map((part): Part => {
    if (
      part.kind !== 'voltageSource' ||
      part.pins[1] === undefined ||
      nameKey(part.pins[1]) !== GROUND
    )
      return part;
    const level = [...held].find(([net]) => sameNet(net, part.pins[0]!));
    if (!level) return part;
    own.add(nameKey(level[0]));
    return { ...part, volt: level[1] };
  });
  const added = [...held]
    .filter(([net]) => !own.has(nameKey(net)))
    .map(([net, volt]): Part => ({
      kind: 'voltageSource',
      ref: `step#${net}`,
      pins: [net, GROUND],
      volt,
    }));
  const board: Board = { ...index.board, parts: [...parts, ...added] };
  return indexBoard(board);
}
