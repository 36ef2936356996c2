import { useCallback, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import {
  parseReadingValue,
  parseShorthand,
  type Measurement,
  type ReadingValue,
} from '@hanzai/core/instrument';
import { CaseFrame } from '../../case/CaseFrame';
import { Decision } from '../../case/Decision';
import { useCircumstances } from '../../case/engine-request';
import { ChargeLock } from '../../case/ChargeLock';
import { PowerAnyway } from '../../case/PowerAnyway';
import { takeBackLast } from '../../case/take-back';
import { readingEntry } from '../../case/written-points';
import { Strip, type StripHandle } from '../../case/Strip';
import type { CaseState } from '../../case/use-case';
import { repairMove, touchedByLook } from '../../case/unit';
import { useEngine } from '../../case/use-engine';
import { percent, shorthandAround } from '../../case/wording';
import { ButtonLink } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { BenchMode } from './BenchMode';
import { CircuitMap } from './CircuitMap';
import { GoTo } from './GoTo';
import { LineUpList } from './LineUpList';
import { NextCard } from './NextCard';
import { ReadingLog } from './ReadingLog';

import style from './TraceStage.module.css';

const KEYS = [
  [
    'type + Enter',
    'file a reading in shorthand: vm 8.6, f1 beep, r13 220, c6 1.03 esr, q1.b q1.e .62 diode, f1 open',
  ],
  ['value + Enter', 'file it for the proposed points'],
  ['↑ ↓', 'earlier lines'],
  ['Ctrl+Z', 'take the last reading back (with the line empty)'],
  ['I', 'to the reading line'],
  ['B', 'bench mode: the next measurement full screen'],
  ['/', 'go to a part or net'],
  ['N', 'the next of the other readings worth taking'],
  ['?', 'these keys'],
] as const;

/** Trace: line-up, next measurement, map, and the strip that takes readings. */
export function TraceStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { index, journal, append } = state;
  const circumstances = useCircumstances(state);
  const seen = useMemo(() => {
    const words = new Map<string, string>();
    for (const { ref, factor, reason } of touchedByLook(index, journal))
      if (!words.has(ref) && factor > 1.5) words.set(ref, `odds × ${factor.toFixed(1)}: ${reason}`);
    return words;
  }, [index, journal]);
  const moved = useMemo(() => repairMove(state.model, journal), [state.model, journal]);
  const engine = useEngine(state, circumstances);
  const [chosenKey, setChosenKey] = useState<string>();
  const [bench, setBench] = useState(false);
  const [goTo, setGoTo] = useState(false);
  const [pointed, setPointed] = useState<string>();
  const strip = useRef<StripHandle>(null);
  const place = useCallback((text: string) => strip.current?.place(text), []);
  const proposals = engine.next?.proposals ?? [];
  const chosen = proposals.find(({ key }) => key === chosenKey) ?? proposals[0];
  const recent = useMemo(
    () => journal.readings.map(({ entry }) => entry.body.typed),
    [journal.readings],
  );

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
  useHotkeys('mod+z', () => takeBackLast(state), { preventDefault: true });

  const fileReading = useCallback(
    (m: Measurement, value: ReadingValue, typed: string) => {
      const objection = append(readingEntry(m, value, typed));
      if (!objection) setChosenKey(undefined);
      return objection;
    },
    [append],
  );

  function fileValue(text: string): string | undefined {
    if (!chosen || !index) return 'there is nothing to measure now';
    const value = parseReadingValue(chosen.kind, text);
    if (!value.ok) return `${value.what}; expected ${value.expected}`;
    const [before, after] = shorthandAround(chosen.kind, chosen.setup, chosen.at, chosen.to);
    const typed = `${before} ${text.trim()} ${after}`.trim();
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

  /**
   * A part that is the mechanism itself ends the job or is decided on, as a kill check that failed.
   */
  function finish(ref: string): void {
    append({
      kind: 'check',
      title: `${ref}: winding bad at the head itself`,
      block: 'heads',
      good: false,
      kill: true,
    });
  }

  if (!index) {
    return (
      <CaseFrame state={state} stage="trace">
        <h2>No board sheet yet</h2>
        <p>
          Tracing needs the circuit. Choose a sheet in Take in, or import your own: a circuit deck
          such as
        </p>
        <pre className={style.example}>
          {'My board\nV1 VCC 0 5\nXF1 VCC VF FUSE\nR1 VF OUT 4.7k\n.end'}
        </pre>
        <ButtonLink look="main" href={`/case/${view.number}/take-in`}>
          Choose a sheet in Take in
        </ButtonLink>
      </CaseFrame>
    );
  }
  return (
    <CaseFrame
      state={state}
      stage="trace"
      bare
      foot={
        <Strip
          ref={strip}
          index={index}
          recent={recent}
          proposal={chosen}
          expect={state.expect}
          onFile={fileReading}
          onRetract={() => takeBackLast(state)}
          disabled={journal.closed}
        />
      }
    >
      <div className={style.columns}>
        <div className={style.left}>
          {engine.failure && (
            <Notice look="attention" live>
              {engine.failure}
            </Notice>
          )}
          {journal.closed && (
            <Notice look="good">This case is closed. Reopen it in Hand back to measure on.</Notice>
          )}
          <Decision state={state} />
          <PowerAnyway state={state} />
          <ChargeLock state={state} />
          {moved?.move === 'back' && !journal.closed && (
            <Notice look="attention" title="It stops earlier than before the repair." live>
              What was just touched comes first: {moved.touched.join(', ')}. Ask the ledger:
              polarity, joints, a bridge of solder, a plug left off.
            </Notice>
          )}
          {moved?.move === 'further' && !journal.closed && (
            <Notice look="attention" title="It gets further than before the repair.">
              The chain has a next link: starts before the repair no longer count.
            </Notice>
          )}
          {journal.condemned.length > 0 && !journal.closed && (
            <Notice look="attention" live>
              Condemned: {journal.condemned.map(({ body }) => body.ref).join(', ')}.{' '}
              <a href={`/case/${view.number}/repair`}>Go on to Repair</a>
            </Notice>
          )}
          <CircuitMap
            index={index}
            journal={journal}
            lineUp={engine.lineUp}
            proposal={chosen}
            onPick={place}
          />
          <ReadingLog
            index={index}
            journal={journal}
            lineUp={engine.lineUp}
            pointed={pointed}
            onRetract={(id) => append({ kind: 'retract', entry: id })}
          />
        </div>
        <aside
          className={style.right}
          data-latency={engine.latency?.toFixed(0)}
          tabIndex={0}
          aria-label="Next measurement and line-up"
        >
          <NextCard
            index={index}
            next={engine.next}
            busy={engine.busy}
            chosen={chosen}
            onChoose={setChosenKey}
            onBench={() => setBench(true)}
            onCondemn={condemn}
            onFinished={finish}
            condemned={new Set(journal.condemned.map(({ body }) => body.ref))}
            proveHref={`/case/${view.number}/prove`}
            repairHref={`/case/${view.number}/repair`}
          />
          {engine.lineUp && (
            <LineUpList
              lineUp={engine.lineUp}
              journal={journal}
              seen={seen}
              onCondemn={condemn}
              onAcquit={(ref) => append({ kind: 'acquit', ref })}
              onPoint={setPointed}
            />
          )}
        </aside>
      </div>
      {bench && (
        <BenchMode
          index={index}
          proposal={chosen}
          next={engine.next}
          lineUp={engine.lineUp}
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
      <Keys keys={KEYS} />
    </CaseFrame>
  );
}
