import { useCallback, useMemo, useState } from 'react';
import { parseReadingValue, parseShorthand } from '@hanzai/core/instrument';
import { useCircumstances, type Circumstances } from '../../case/engine-request';
import { completedFor, type ProposedPoints } from '../../case/strip/grammar';
import type { CaseState } from '../../case/use-case';
import { useEngine, type EngineState } from '../../case/use-engine';
import { readingEntry } from '../../case/written-points';
import type { Limits, Proposal } from '../../workers/engine-messages';
import { useLimits } from './use-limits';
import { useSequence, type RunningSequence } from './use-sequence';

export const NO_LIST: readonly ProposedPoints[] = [];

/** What the engine finds, and what is measured next by it or by a ready list. */
export interface NextState {
  readonly engine: EngineState;
  readonly circumstances: Circumstances;
  readonly limits: Limits;
  readonly setLimits: (limits: Limits) => void;
  /** The case as it is looked at: as it is, or as it was after one of its readings. */
  readonly then: CaseState;
  readonly moment: string | undefined;
  readonly setMoment: (id: string | undefined) => void;
  readonly chosen: Proposal | undefined;
  readonly choose: (key: string | undefined) => void;
  /** Goes on to the next of the proposals. */
  readonly chooseNext: () => void;
  readonly running: RunningSequence | undefined;
  readonly run: (name: string | undefined) => void;
  /** What bare values are taken for, in order. */
  readonly list: readonly ProposedPoints[];
  readonly chance: (ref: string) => number;
  /** Files a bare value for the first of the list; returns why not where it is refused. */
  readonly fileValue: (text: string, instrument?: string) => string | undefined;
}

/** A case as it was after one of its readings; as it is where none is given. */
function stateAt(state: CaseState, id: string | undefined): CaseState {
  const { readings } = state.journal;
  const at = readings.findIndex(({ entry }) => entry.id === id);
  if (id === undefined || at < 0) return state;
  return { ...state, journal: { ...state.journal, readings: readings.slice(0, at + 1) } };
}

/** wanted: false where the exercise shows nothing of what the engine finds. */
export function useNext(state: CaseState, wanted: boolean): NextState {
  const { index, append } = state;
  const told = useCircumstances(state);
  const [limits, setLimits] = useLimits();
  const circumstances = useMemo(() => ({ ...told, limits }), [told, limits]);
  const [runningName, run] = useState<string>();
  const running = useSequence(state, runningName);
  const [moment, setMoment] = useState<string>();
  const then = useMemo(() => stateAt(state, moment), [state, moment]);
  const engine = useEngine(then, circumstances, wanted);
  const { lineUp } = engine;
  const [chosenKey, choose] = useState<string>();
  const proposals = engine.next?.proposals ?? [];
  const chosen = proposals.find(({ key }) => key === chosenKey) ?? proposals[0];
  const list = useMemo(() => running?.left ?? (chosen ? [chosen] : NO_LIST), [running, chosen]);
  const [first] = list;
  const chance = useCallback(
    (ref: string) => lineUp?.entries.find((entry) => entry.ref === ref)?.probability ?? 0,
    [lineUp],
  );
  const fileValue = (text: string, instrument?: string): string | undefined => {
    if (!first || !index) return 'there is nothing to measure now';
    const value = parseReadingValue(first.kind, text);
    if (!value.ok) return `${value.what}; expected ${value.expected}`;
    const typed = completedFor(first, text.trim()) ?? text;
    const read = parseShorthand(index, typed);
    if (!read.ok) return read.expected;
    const objection = append(
      readingEntry(read.reading.measurement, read.reading.value, typed, instrument),
    );
    if (!objection) choose(undefined);
    return objection;
  };
  const chooseNext = (): void => {
    const at = proposals.findIndex(({ key }) => key === chosen?.key);
    choose(proposals[(at + 1) % Math.max(1, proposals.length)]?.key);
  };
  return {
    engine,
    circumstances,
    limits,
    setLimits,
    then,
    moment,
    setMoment,
    chosen,
    choose,
    chooseNext,
    running,
    run,
    list,
    chance,
    fileValue,
  };
}
