import { lazy, Suspense, useCallback, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import {
  parseReadingValue,
  parseShorthand,
  type Measurement,
  type ReadingValue,
} from '@hanzai/core/instrument';
import { CaseFrame } from '../../case/CaseFrame';
import { useCircumstances } from '../../case/engine-request';
import { takeBack } from '../../case/strip/actions';
import { readingEntry } from '../../case/written-points';
import { GrammarLines } from '../../case/strip/GrammarSheet';
import { Strip, type StripHandle } from '../../case/strip/Strip';
import type { CaseState } from '../../case/use-case';
import { touchedByLook } from '../../case/unit';
import { useBeside } from '../../case/use-beside';
import { useEngine } from '../../case/use-engine';
import { percent } from '../../case/wording';
import { Button } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { BenchMode } from './BenchMode';
import { chipsOf } from './chip/chip-pins';
import { CircuitMap } from './CircuitMap';
import { GoTo } from './GoTo';
import { lastMeant } from './last-meant';
import { LineUpList } from './LineUpList';
import { NextPane } from './NextPane';
import { NoSheet } from './NoSheet';
import { ReadingLog } from './ReadingLog';
import { TRACE_KEYS } from './trace-keys';
import { TraceNotices } from './TraceNotices';
import { useSheetWorth } from './use-sheet-worth';
import { useLimits } from './use-limits';
import { useSequence } from './use-sequence';
import { useWhatIf } from './use-what-if';
import { useWhy, type Sides } from './use-why';
import { WhatIf } from './WhatIf';
import { completedFor, type ProposedPoints } from '../../case/strip/grammar';

import style from './TraceStage.module.css';

const NO_LIST: readonly ProposedPoints[] = [];
const ChipView = lazy(() => import('./chip/ChipView'));
const Trail = lazy(() => import('./Trail'));
const Why = lazy(() => import('./Why'));
const SheetDrawer = lazy(() => import('./SheetDrawer'));

/** A case as it was after one of its readings; as it is where none is given. */
function stateAt(state: CaseState, id: string | undefined): CaseState {
  const { readings } = state.journal;
  const at = readings.findIndex(({ entry }) => entry.id === id);
  if (id === undefined || at < 0) return state;
  return { ...state, journal: { ...state.journal, readings: readings.slice(0, at + 1) } };
}

/** Trace: line-up, next measurement, map, and the strip that takes readings. */
export function TraceStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { index, journal, append } = state;
  const strip = useRef<StripHandle>(null);
  const told = useCircumstances(state);
  const [limits, setLimits] = useLimits();
  const circumstances = useMemo(() => ({ ...told, limits }), [told, limits]);
  const [runningName, setRunningName] = useState<string>();
  const running = useSequence(state, runningName);
  const run = useCallback((name: string | undefined) => {
    setRunningName(name);
    strip.current?.focus();
  }, []);
  const seen = useMemo(() => {
    const words = new Map<string, string>();
    for (const { ref, factor, reason } of touchedByLook(index, journal))
      if (!words.has(ref) && factor > 1.5) words.set(ref, `odds × ${factor.toFixed(1)}: ${reason}`);
    return words;
  }, [index, journal]);
  /** The trace as it happened, and the reading after which one looks at it again. */
  const [trail, setTrail] = useState(false);
  const [moment, setMoment] = useState<string>();
  const then = useMemo(() => stateAt(state, moment), [state, moment]);
  const engine = useEngine(then, circumstances);
  const [chosenKey, setChosenKey] = useState<string>();
  const openTrail = useCallback(() => setTrail(true), []);
  const closeTrail = useCallback(() => {
    setTrail(false);
    setMoment(undefined);
  }, []);
  const [bench, setBench] = useState(false);
  const openBench = useCallback(() => setBench(true), []);
  const [goTo, setGoTo] = useState(false);
  const [writing, setWriting] = useState(false);
  const startWriting = useCallback(() => setWriting(true), []);
  /** The faults of the copy of the board that is asked about; empty for a sound one. */
  const [asked, setAsked] = useState<string>();
  const answer = useWhatIf(state, asked);
  /** The chip in view. */
  const [chip, setChip] = useState<string>();
  const [sides, setSides] = useState<Sides>();
  const why = useWhy(state, circumstances, sides);
  const volts = useMemo(
    () => (answer?.ok ? new Map(Object.entries(answer.volts)) : undefined),
    [answer],
  );
  const [pointed, setPointed] = useState<string>();
  const place = useCallback((text: string) => strip.current?.place(text), []);
  const beside = useBeside(view.id);
  const worth = useSheetWorth(state, engine.lineUp);
  const sheetHref = `/boards/${view.board?.id ?? 'new'}?case=${view.number}`;
  const leader = engine.lineUp?.entries[0]?.modes[0] ?? '';
  const askAbout = useCallback(
    () => setAsked((now) => (now === undefined ? leader : undefined)),
    [leader],
  );
  const proposals = engine.next?.proposals ?? [];
  const chosen = proposals.find(({ key }) => key === chosenKey) ?? proposals[0];
  const list = useMemo(() => running?.left ?? (chosen ? [chosen] : NO_LIST), [running, chosen]);
  const [first] = list;
  const { lineUp } = engine;
  const chance = useCallback(
    (ref: string) => lineUp?.entries.find((entry) => entry.ref === ref)?.probability ?? 0,
    [lineUp],
  );

  // With Alt also from within the reading line, where letters are letters.
  useHotkeys('alt+b', () => setBench(true), {
    enabled: !bench,
    preventDefault: true,
    enableOnFormTags: true,
  });
  // Its own letter must not land in the field that opens.
  useHotkeys('b', () => setBench(true), { enabled: !bench, preventDefault: true });
  useHotkeys('i', () => strip.current?.focus(), { preventDefault: true });
  useHotkeys('/', () => setGoTo(true), { preventDefault: true, useKey: true });
  useHotkeys('n', () =>
    setChosenKey(
      proposals[
        (proposals.findIndex(({ key }) => key === chosen?.key) + 1) % Math.max(1, proposals.length)
      ]?.key,
    ),
  );
  /** Why a part rather than the likeliest of the others. */
  const askWhy = useCallback(
    (ref: string) => {
      const other = lineUp?.entries.find((entry) => entry.ref !== ref && !entry.cleared);
      setSides({ one: ref, other: other?.ref ?? '' });
    },
    [lineUp],
  );
  useHotkeys('w', () =>
    setSides((now) => {
      const [first] = lineUp?.entries ?? [];
      if (now || !first) return undefined;
      return { one: first.ref, other: lineUp?.entries[1]?.ref ?? '' };
    }),
  );
  const hasChips = useMemo(
    () => (index?.board.parts ?? []).some(({ kind }) => kind === 'chip'),
    [index],
  );
  /** Shows the likeliest of the chips, or puts the chip away. */
  const toggleChip = useCallback(() => {
    const chips = index ? chipsOf(index).map(({ ref }) => ref) : [];
    const leader = lineUp?.entries.find(({ ref }) => chips.includes(ref))?.ref ?? chips[0];
    setChip((now) => (now === undefined ? leader : undefined));
  }, [index, lineUp]);
  useHotkeys('c', toggleChip);
  useHotkeys('mod+z', () => takeBack(state), { preventDefault: true });

  const fileReading = useCallback(
    (m: Measurement, value: ReadingValue, typed: string) => {
      const objection = append(readingEntry(m, value, typed));
      if (!objection) setChosenKey(undefined);
      return objection;
    },
    [append],
  );

  function fileValue(text: string): string | undefined {
    if (!first || !index) return 'there is nothing to measure now';
    const value = parseReadingValue(first.kind, text);
    if (!value.ok) return `${value.what}; expected ${value.expected}`;
    const typed = completedFor(first, text.trim()) ?? text;
    const read = parseShorthand(index, typed);
    return read.ok
      ? fileReading(read.reading.measurement, read.reading.value, typed)
      : read.expected;
  }

  function condemn(ref: string): void {
    const suspect = engine.lineUp?.entries.find((entry) => entry.ref === ref);
    const loudest =
      suspect?.loudest && journal.readings.find(({ entry }) => entry.id === suspect.loudest!.id);
    const reason = `${percent(suspect?.probability ?? 0)} after ${journal.readings.length} readings${loudest ? `; loudest: ${loudest.entry.body.typed}` : ''}`;
    if (!append({ kind: 'condemn', ref, probability: suspect?.probability ?? 0, reason }))
      setPointed(undefined);
  }

  if (!index) return <NoSheet state={state} />;
  return (
    <CaseFrame
      state={state}
      stage="trace"
      bare
      foot={
        <Strip
          ref={strip}
          state={state}
          // While the sheet is written on, the caution of the next step is out of sight: none is proposed.
          list={writing ? NO_LIST : list}
          circumstances={circumstances}
          chance={chance}
          instant={running !== undefined}
          disabled={journal.closed}
          ready
        />
      }
    >
      <div className={style.columns}>
        <div className={style.left}>
          {then !== state && (
            <Notice look="attention" live title="As it was:">
              line-up and proposals are those after {then.journal.readings.length} of{' '}
              {journal.readings.length} readings. What is filed below is filed now.{' '}
              <Button look="quiet" onClick={() => setMoment(undefined)}>
                Back to now
              </Button>
            </Notice>
          )}
          <TraceNotices
            state={state}
            lineUp={engine.lineUp}
            circumstances={circumstances}
            failure={engine.failure}
          />
          {chip === undefined && (
            <CircuitMap
              sheetHref={sheetHref}
              boardId={view.board!.id}
              index={index}
              journal={journal}
              lineUp={engine.lineUp}
              proposal={first}
              onPick={place}
              expect={state.expect}
              volts={volts}
              onWhatIf={askAbout}
              onWrite={startWriting}
              onChip={hasChips ? toggleChip : undefined}
            />
          )}
          {asked !== undefined && (
            <WhatIf
              index={index}
              journal={journal}
              faults={asked}
              answer={answer}
              onAsk={setAsked}
            />
          )}
          {chip !== undefined && (
            <Suspense fallback={null}>
              <ChipView
                state={state}
                index={index}
                lineUp={lineUp}
                shown={chip}
                onShow={setChip}
                onPlace={place}
              />
            </Suspense>
          )}
          {trail && (
            <Suspense fallback={null}>
              <Trail
                state={state}
                index={index}
                circumstances={told}
                moment={moment}
                onMoment={setMoment}
                onClose={closeTrail}
              />
            </Suspense>
          )}
          {sides && (
            <Suspense fallback={null}>
              <Why
                index={index}
                journal={journal}
                lineUp={lineUp}
                sides={sides}
                answer={why.answer}
                failure={why.failure}
                onSides={setSides}
                onRepeat={place}
              />
            </Suspense>
          )}
          <ReadingLog
            index={index}
            journal={journal}
            lineUp={engine.lineUp}
            beside={beside}
            onTrail={openTrail}
            pointed={pointed}
            whatIf={asked === undefined || asked === '' ? undefined : answer}
            onRetract={(id) => append({ kind: 'retract', entry: id })}
          />
        </div>
        {writing && (
          <Suspense fallback={null}>
            <SheetDrawer state={state} lineUp={engine.lineUp} onClose={() => setWriting(false)} />
          </Suspense>
        )}
        <aside
          className={style.right}
          hidden={writing}
          data-latency={engine.latency?.toFixed(0)}
          tabIndex={0}
          aria-label="Next measurement and line-up"
        >
          <NextPane
            state={state}
            index={index}
            engine={engine}
            circumstances={circumstances}
            chosen={chosen}
            running={running}
            limits={limits}
            onLimits={setLimits}
            onChoose={setChosenKey}
            onRun={run}
            onBench={openBench}
            onCondemn={condemn}
          />
          {engine.lineUp && (
            <LineUpList
              index={index}
              next={engine.next}
              onWhy={askWhy}
              lineUp={engine.lineUp}
              journal={journal}
              seen={seen}
              onCondemn={condemn}
              onAcquit={(ref) => append({ kind: 'acquit', ref })}
              onPoint={setPointed}
              worth={worth}
              sheetHref={sheetHref}
              onWhatIf={setAsked}
            />
          )}
        </aside>
      </div>
      {bench && (
        <BenchMode
          index={index}
          step={first}
          place={
            running
              ? `${running.sequence.title}, ${running.steps.length - running.left.length + 1} of ${running.steps.length}`
              : ''
          }
          next={engine.next}
          lineUp={engine.lineUp}
          meant={lastMeant(index, journal, engine.lineUp)}
          expect={state.expect}
          onValue={fileValue}
          onClose={() => setBench(false)}
        />
      )}
      <GoTo
        index={index}
        open={goTo}
        onClose={() => setGoTo(false)}
        onPick={(text) => strip.current?.place(text)}
      />
      <Keys keys={TRACE_KEYS}>
        <GrammarLines index={index} />
      </Keys>
    </CaseFrame>
  );
}
