import { lazy, Suspense, useCallback, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { CaseFrame } from '../../case/CaseFrame';
import { Caution } from '../../case/Caution';
import { takeBack } from '../../case/strip/actions';
import { GrammarLines } from '../../case/strip/GrammarSheet';
import { Strip, type StripHandle } from '../../case/strip/Strip';
import { touchedByLook } from '../../case/unit';
import { LiveBar } from '../../meter/LiveBar';
import { useLive } from '../../meter/use-live';
import { useBeside } from '../../case/use-beside';
import { oddsNotes } from './odds-notes';
import { useOddsSources } from '../../case/engine-request';
import type { CaseState } from '../../case/use-case';
import { percent } from '../../case/wording';
import { Reckoners } from '../../reckoner/Reckoners';
import { Button } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import tab from '../../ui/Tab.module.css';
import { BenchMode } from './BenchMode';
import { cautionFor } from './caution-for';
import { CircuitMap } from './CircuitMap';
import { GoTo } from './GoTo';
import { lastMeant } from './last-meant';
import { LineUpList } from './LineUpList';
import { NextPane } from './NextPane';
import { NoSheet } from './NoSheet';
import { PracticePane } from './PracticePane';
import { ReadingLog } from './ReadingLog';
import { TRACE_KEYS } from './trace-keys';
import { TraceNotices } from './TraceNotices';
import { useConclusions } from './use-conclusions';
import { NO_LIST, useNext } from './use-next';
import { usePanels } from './use-panels';
import { SURVEY } from './use-sequence';
import { useSheetWorth } from './use-sheet-worth';
import { WhatIf } from './WhatIf';
import style from './TraceStage.module.css';

const SurveyPane = lazy(() => import('./survey/SurveyPane'));
const ChecksPane = lazy(() => import('./checks/ChecksPane'));
const ChipView = lazy(() => import('./chip/ChipView'));
const Trail = lazy(() => import('./Trail'));
const Why = lazy(() => import('./Why'));
const SheetDrawer = lazy(() => import('./SheetDrawer'));

/** What is shown where there is room for one thing at a time. */
const FACES = [
  ['next', 'Next'],
  ['suspects', 'Line-up'],
  ['map', 'Map'],
  ['readings', 'Readings'],
] as const;
type Face = (typeof FACES)[number][0];

/** Trace: line-up, next measurement, map, and the strip that takes readings. */
export function TraceStage({ state }: { state: CaseState }) {
  const { view, index, journal, append } = state;
  const strip = useRef<StripHandle>(null);
  const { practice } = state;
  /** Whether the program's own judgement is shown: in an exercise only where that was chosen. */
  const isCoached = practice === undefined || practice.help === 'all';
  const next = useNext(state, isCoached);
  const { engine, circumstances, running, list, chosen } = next;
  const { lineUp } = engine;
  const [first] = list;
  const live = useLive(first);
  const [asksMeter, setAsksMeter] = useState(false);
  const panels = usePanels(state, next);
  const { writing, write, showChip, chip } = panels;
  const sources = useOddsSources(state);
  const [bench, setBench] = useState(false);
  const openBench = useCallback(() => setBench(true), []);
  const [goTo, setGoTo] = useState(false);
  const [pointed, setPointed] = useState<string>();
  const [face, setFace] = useState<Face>('next');
  const notes = useMemo(
    () => oddsNotes(touchedByLook(index, journal), sources),
    [index, journal, sources],
  );
  const surveying = running?.sequence.name === SURVEY ? running : undefined;
  /** Whether something stands in the place of the next step where there is room for one thing. */
  const covered =
    surveying !== undefined ||
    panels.checking ||
    chip !== undefined ||
    panels.trail ||
    panels.sides !== undefined ||
    panels.asked !== undefined;
  const place = useCallback((text: string) => strip.current?.place(text), []);
  const { pickChip } = panels;
  /** A chip of the map opens pin by pin; anything else goes into the reading line. */
  const pick = useCallback(
    (text: string) => {
      if (!pickChip(text)) place(text);
    },
    [pickChip, place],
  );
  const beside = useBeside(practice ? undefined : view.id);
  const conclusions = useConclusions(state);
  const worth = useSheetWorth(state, lineUp);
  const sheetHref = `/boards/${view.board?.id ?? 'new'}?case=${view.number}`;
  const startWriting = useCallback(() => write(true), [write]);
  const { run } = next;
  const begin = useCallback(
    (name: string | undefined) => {
      run(name);
      strip.current?.focus();
    },
    [run],
  );

  // With Alt also from within the reading line, where letters are letters.
  useHotkeys('alt+b', openBench, {
    enabled: !bench && !practice,
    preventDefault: true,
    enableOnFormTags: true,
  });
  // Its own letter must not land in the field that opens.
  useHotkeys('b', openBench, { enabled: !bench && !practice, preventDefault: true });
  useHotkeys('i', () => strip.current?.focus(), { preventDefault: true });
  useHotkeys('/', () => setGoTo(true), { preventDefault: true, useKey: true });
  useHotkeys('n', next.chooseNext);
  useHotkeys('w', panels.toggleWhy);
  useHotkeys('c', () => panels.toggleChip?.());
  useHotkeys('k', panels.toggleChecks, { preventDefault: true });
  useHotkeys('s', () => begin(surveying ? undefined : SURVEY), { preventDefault: true });
  useHotkeys('mod+z', () => takeBack(state), { preventDefault: true });

  function condemn(ref: string): void {
    const suspect = lineUp?.entries.find((entry) => entry.ref === ref);
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
        <>
          {first && !writing && (
            <div className={style.mind} data-face={covered ? 'panel' : face}>
              <Caution of={cautionFor(index, first)} />
            </div>
          )}
          <LiveBar live={live} step={first} state={state} asks={asksMeter} onAsk={setAsksMeter} />
          <Strip
            ref={strip}
            state={state}
            // While the sheet is written on, the caution of the next step is out of sight: none is
            // proposed.
            list={writing ? NO_LIST : list}
            circumstances={circumstances}
            chance={next.chance}
            instant={running !== undefined}
            disabled={journal.closed}
            latched={bench ? undefined : live.latched}
            onTake={live.shown && live.take}
            onMeter={live.phase === 'off' && !practice ? () => setAsksMeter(true) : undefined}
            ready
          />
        </>
      }
    >
      <nav className={style.faces} aria-label="What is shown">
        {FACES.map(([name, title]) => (
          <button
            key={name}
            type="button"
            className={tab.tab}
            aria-pressed={face === name}
            onClick={() => setFace(name)}
          >
            {title}
          </button>
        ))}
      </nav>
      <div className={style.columns} data-face={face}>
        <div className={style.left}>
          {next.then !== state && (
            <Notice look="attention" live title="As it was:">
              line-up and proposals are those after {next.then.journal.readings.length} of{' '}
              {journal.readings.length} readings. What is filed below is filed now.{' '}
              <Button look="quiet" onClick={() => next.setMoment(undefined)}>
                Back to now
              </Button>
            </Notice>
          )}
          <TraceNotices
            state={state}
            lineUp={lineUp}
            circumstances={circumstances}
            failure={engine.failure}
          />
          {chip === undefined && !surveying && !panels.checking && (
            <div className={style.map}>
              <CircuitMap
                sheetHref={sheetHref}
                boardId={view.board!.id}
                index={index}
                journal={journal}
                lineUp={lineUp}
                proposal={first}
                onPick={pick}
                expect={state.expect}
                volts={panels.volts}
                onWhatIf={isCoached ? panels.toggleAsked : undefined}
                onWrite={practice ? undefined : startWriting}
                onChip={panels.toggleChip}
              />
            </div>
          )}
          <div className={style.panels}>
            {panels.asked !== undefined && (
              <WhatIf
                index={index}
                journal={journal}
                faults={panels.asked}
                answer={panels.answer}
                onAsk={panels.ask}
              />
            )}
            {panels.checking && (
              <Suspense fallback={null}>
                <ChecksPane state={state} index={index} onClose={panels.toggleChecks} />
              </Suspense>
            )}
            {surveying && (
              <Suspense fallback={null}>
                <SurveyPane
                  state={state}
                  running={surveying}
                  onPlace={place}
                  onClose={() => run(undefined)}
                />
              </Suspense>
            )}
            {chip !== undefined && (
              <Suspense fallback={null}>
                <ChipView
                  state={state}
                  index={index}
                  lineUp={lineUp}
                  said={first && cautionFor(index, first)}
                  shown={chip}
                  onShow={showChip}
                  onPlace={place}
                />
              </Suspense>
            )}
            {panels.trail && (
              <Suspense fallback={null}>
                <Trail
                  state={state}
                  index={index}
                  circumstances={circumstances}
                  moment={next.moment}
                  onMoment={next.setMoment}
                  onClose={panels.closeTrail}
                />
              </Suspense>
            )}
            {panels.sides && (
              <Suspense fallback={null}>
                <Why
                  index={index}
                  journal={journal}
                  lineUp={lineUp}
                  sides={panels.sides}
                  answer={panels.why.answer}
                  failure={panels.why.failure}
                  sources={sources}
                  onSides={panels.setSides}
                  onRepeat={place}
                />
              </Suspense>
            )}
          </div>
          {!panels.trail && !surveying && !panels.checking && (
            <div className={style.log}>
              <ReadingLog
                index={index}
                journal={journal}
                lineUp={lineUp}
                beside={beside}
                conclusions={conclusions}
                isExercise={practice !== undefined}
                onTrail={isCoached ? panels.openTrail : undefined}
                pointed={pointed}
                whatIf={panels.asked ? panels.answer : undefined}
                onRetract={(id) => append({ kind: 'retract', entry: id })}
              />
            </div>
          )}
        </div>
        {writing && (
          <Suspense fallback={null}>
            <SheetDrawer state={state} lineUp={lineUp} onClose={() => write(false)} />
          </Suspense>
        )}
        <aside
          className={style.right}
          hidden={writing}
          data-latency={engine.latency?.toFixed(0)}
          tabIndex={0}
          aria-label="Next measurement and line-up"
        >
          {practice && (
            <PracticePane
              practice={practice}
              home={state.home}
              surveying={surveying !== undefined}
              onSurvey={() => begin(surveying ? undefined : SURVEY)}
              onTry={(text) => strip.current?.place(text, false)}
            />
          )}
          {isCoached && (
            <div className={style.next}>
              <NextPane
                state={state}
                index={index}
                engine={engine}
                circumstances={circumstances}
                chosen={chosen}
                running={running}
                limits={next.limits}
                onLimits={next.setLimits}
                onChoose={next.choose}
                onRun={begin}
                onBench={openBench}
                onChecks={panels.toggleChecks}
                onCondemn={condemn}
              />
            </div>
          )}
          {lineUp && (
            <div className={style.suspects}>
              <LineUpList
                index={index}
                next={engine.next}
                onWhy={panels.askWhy}
                lineUp={lineUp}
                journal={journal}
                notes={notes}
                onCondemn={condemn}
                onAcquit={(ref) => append({ kind: 'acquit', ref })}
                onPoint={setPointed}
                worth={worth}
                sheetHref={sheetHref}
                onWhatIf={panels.ask}
              />
            </div>
          )}
          <div className={style.reckon}>
            <Reckoners state={state} stage="trace" />
          </div>
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
          lineUp={lineUp}
          meant={lastMeant(index, journal, lineUp)}
          expect={state.expect}
          onValue={next.fileValue}
          live={live}
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
