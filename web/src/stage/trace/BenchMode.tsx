import { useCallback, useEffect, useRef, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../case/Caution';
import type { Expect } from '../../case/expectation';
import type { ProposedPoints } from '../../case/strip/grammar';
import { sayAloud } from '../../case/strip/use-speech';
import { useExpectation } from '../../case/use-expectation';
import { KIND_WORDS, oddsWords, pointsText, setupWords, valueText } from '../../case/wording';
import type { Live } from '../../meter/use-live';
import { Button } from '../../ui/Button';
import type { LineUp, NextStep } from '../../workers/engine-messages';
import { cautionFor } from './caution-for';
import { usePedal, useScreenOn } from './use-pedal';
import style from './BenchMode.module.css';

interface Props {
  readonly index: BoardIndex;
  /** What is read next: the proposal, or the step of the list that is being gone through. */
  readonly step: ProposedPoints | undefined;
  /** Where in a list it stands, in words; empty without a list. */
  readonly place: string;
  readonly next: NextStep | undefined;
  readonly lineUp: LineUp | undefined;
  /** What the last reading meant, in one sentence. */
  readonly meant: string;
  readonly expect: Expect;
  /** Takes a bare value for the step; returns why not where it is refused. */
  readonly onValue: (text: string, instrument?: string) => string | undefined;
  /** A meter on the line: what it holds stands in the field. */
  readonly live?: Live;
  readonly onClose: () => void;
}

/** Levels are one key: no Enter. */
const LEVEL = /^[01pz]$/i;

/** The next measurement full screen, in figures legible at two metres: value in, Enter, next. */
export function BenchMode({
  index,
  step,
  place,
  next,
  lineUp,
  meant,
  expect,
  onValue,
  live,
  onClose,
}: Props) {
  const [text, setText] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const [aloud, setAloud] = useState(false);
  const dialog = useRef<HTMLDialogElement>(null);
  const sound = useExpectation(expect, step);
  const [top] = lineUp?.entries ?? [];
  const words = step
    ? `${pointsText(index, step.at, step.to)}, ${KIND_WORDS[step.kind]}, ${setupWords(step.setup)}`
    : '';
  const said = [meant, words].filter(Boolean).join(' ');
  const latched = live?.latched;
  useEffect(() => {
    if (latched) setText(latched.text);
  }, [latched]);
  const enter = useCallback(
    (value: string): void => {
      if (value.trim() === '') return;
      const objection = onValue(value, latched?.text === value ? latched.instrument : undefined);
      setRefusal(objection);
      if (!objection) setText('');
    },
    [onValue, latched],
  );
  const press = useCallback(() => enter(text), [enter, text]);
  const pedal = usePedal(press);
  useScreenOn();
  useEffect(() => {
    dialog.current?.showModal();
    document.getElementById('bench-value')?.focus();
  }, []);
  useEffect(() => {
    if (aloud && said !== '') sayAloud(said);
  }, [aloud, said]);
  return (
    <dialog ref={dialog} className={style.bench} onClose={onClose} aria-label="Bench mode">
      <div className={style.top}>
        <span>{top ? `${top.ref} ${oddsWords(top.probability)}` : ''}</span>
        <span className={style.choices}>
          <label>
            <input
              type="checkbox"
              checked={aloud}
              onChange={(event) => setAloud(event.target.checked)}
            />{' '}
            Speak
          </label>
          <Button look="quiet" onClick={pedal.key === undefined ? pedal.learn : pedal.forget}>
            {pedal.learning
              ? 'Press the pedal now (Esc: none)'
              : pedal.key === undefined
                ? 'Set a pedal'
                : `Pedal is ${pedal.key === ' ' ? 'space' : pedal.key}: forget it`}
          </Button>
          <Button onClick={() => dialog.current?.close()}>Leave (Esc)</Button>
        </span>
      </div>
      {meant !== '' && (
        <p className={style.meant} role="status">
          {meant}
        </p>
      )}
      {next?.state === 'replace' && next.replace[0] && (
        <p className={style.settled}>Enough measured: replace {next.replace[0].ref}</p>
      )}
      {step ? (
        <>
          <p className={style.setup}>
            {setupWords(step.setup)}
            {place && ` · ${place}`}
          </p>
          <p className={style.points}>{pointsText(index, step.at, step.to)}</p>
          <p className={style.kind}>
            {KIND_WORDS[step.kind]}: sound is <b>{sound?.display ?? '…'}</b>
            {sound?.band && <small> {sound.band}</small>}
          </p>
          {live?.phase === 'live' && (
            <p className={style.kind} role="status">
              {live.trouble ??
                `${live.name}: ${live.shown ? valueText(live.shown.kind, live.shown.value) : 'no value'}${live.shown?.isAtRest ? ', at rest' : ''}`}
            </p>
          )}
          <form
            onSubmit={(event) => {
              event.preventDefault();
              enter(text);
            }}
          >
            <label className="visually-hidden" htmlFor="bench-value">
              Value
            </label>
            <input
              id="bench-value"
              className={style.value}
              value={text}
              onChange={(event) => {
                const value = event.target.value;
                if (step.kind === 'logic' && text === '' && LEVEL.test(value)) enter(value);
                else setText(value);
              }}
              onKeyDown={(event) => {
                if (event.key !== ' ' || live?.phase !== 'live') return;
                event.preventDefault();
                if (text === '') live.take();
                else enter(text);
              }}
              placeholder={step.kind === 'logic' ? '0 1 p z' : 'value, Enter'}
              autoComplete="off"
            />
          </form>
          <p className={style.refusal} role="status">
            {refusal ?? ''}
          </p>
          <div className={style.caution}>
            <Caution of={cautionFor(index, step)} />
          </div>
        </>
      ) : (
        <p className={style.points}>{next ? 'Nothing left to measure here' : 'Working it out …'}</p>
      )}
    </dialog>
  );
}
