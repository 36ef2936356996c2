import { useEffect, useRef, useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../case/Caution';
import { KIND_WORDS, percent, pointsText, setupWords } from '../../case/wording';
import { Button } from '../../ui/Button';
import type { LineUp, NextStep, Proposal } from '../../workers/engine-messages';
import { cautionFor } from './caution-for';
import style from './BenchMode.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly proposal: Proposal | undefined;
  readonly next: NextStep | undefined;
  readonly lineUp: LineUp | undefined;
  /** Takes a bare value for the proposal; returns why not where it is refused. */
  readonly onValue: (text: string) => string | undefined;
  readonly onClose: () => void;
}

/** The next measurement full screen, in figures legible at two metres: value in, Enter, next. */
export function BenchMode({ index, proposal, next, lineUp, onValue, onClose }: Props) {
  const [text, setText] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const [aloud, setAloud] = useState(false);
  const dialog = useRef<HTMLDialogElement>(null);
  const top = lineUp?.entries[0];
  const words = proposal
    ? `${pointsText(index, proposal.at, proposal.to)}, ${KIND_WORDS[proposal.kind]}, ${setupWords(proposal.setup)}`
    : '';
  useEffect(() => {
    dialog.current?.showModal();
    document.getElementById('bench-value')?.focus();
  }, []);
  useEffect(() => {
    if (!aloud || words === '' || !('speechSynthesis' in window)) return;
    window.speechSynthesis.cancel();
    window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
  }, [aloud, words]);
  return (
    <dialog ref={dialog} className={style.bench} onClose={onClose} aria-label="Bench mode">
      <div className={style.top}>
        <span>{top ? `${top.ref} ${percent(top.probability)}` : ''}</span>
        <label>
          <input
            type="checkbox"
            checked={aloud}
            onChange={(event) => setAloud(event.target.checked)}
          />{' '}
          Speak
        </label>
        <Button onClick={() => dialog.current?.close()}>Leave (Esc)</Button>
      </div>
      {next?.state === 'replace' && next.replace[0] && (
        <p className={style.settled}>Enough measured: replace {next.replace[0].ref}</p>
      )}
      {proposal ? (
        <>
          <p className={style.setup}>{setupWords(proposal.setup)}</p>
          <p className={style.points}>{pointsText(index, proposal.at, proposal.to)}</p>
          <p className={style.kind}>
            {KIND_WORDS[proposal.kind]}: sound is <b>{proposal.expected.display}</b>
          </p>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              const objection = onValue(text);
              setRefusal(objection);
              if (!objection) setText('');
            }}
          >
            <label className="visually-hidden" htmlFor="bench-value">
              Value
            </label>
            <input
              id="bench-value"
              className={style.value}
              value={text}
              onChange={(event) => setText(event.target.value)}
              placeholder="value, Enter"
              autoComplete="off"
            />
          </form>
          <p className={style.refusal} role="status">
            {refusal ?? ''}
          </p>
          <div className={style.caution}>
            <Caution of={cautionFor(index, proposal)} />
          </div>
        </>
      ) : (
        <p className={style.points}>{next ? 'Nothing left to measure here' : 'Working it out …'}</p>
      )}
    </dialog>
  );
}
