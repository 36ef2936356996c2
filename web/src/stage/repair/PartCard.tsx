import { useState } from 'react';
import { nameKey, partValue, type BoardIndex } from '@hanzai/core/board';
import { judgeReplacement, orientation, parseOffered } from '@hanzai/core/part';
import { fuseObjection } from '../../case/rules';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import style from './RepairStage.module.css';

/** What the board says that a part is, as one writes it: `470u 16V`, `T1A`, a model's name. */
export function boardValue(index: BoardIndex, ref: string): string {
  const [part] = index.replaceable.get(ref) ?? [];
  if (!part) return '';
  const rating = part.rating ?? (part.kind === 'capacitor' && part.ratedVolt ? `${part.ratedVolt}V` : '');
  return [partValue(part), rating].filter(Boolean).join(' ');
}

/** One part of the ledger: what comes off, what goes on, and whether it may. */
export function PartCard({ refdes, state, index }: { refdes: string; state: CaseState; index: BoardIndex }) {
  const part = index.partByKey.get(nameKey(refdes)) ?? index.replaceable.get(refdes)?.[0];
  const { journal } = state;
  const off = journal.absent.some((ref) => nameKey(ref) === nameKey(refdes));
  const condemned = journal.condemned.find(({ body }) => body.ref === refdes);
  const fitted = journal.ledger.findLast((line) => line.ref === refdes && line.action === 'fitted');
  const [value, setValue] = useState(boardValue(index, refdes));
  const [note, setNote] = useState('');
  const [turned, setTurned] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const remarks = part && off ? judgeReplacement(part, parseOffered(value)) : [];
  const way = part && orientation(part);
  const gate = fuseObjection(index, journal, refdes);

  function enter(kind: 'removed' | 'fitted' | 'leftOut'): void {
    const body =
      kind === 'leftOut'
        ? ({ kind, ref: refdes, note } as const)
        : kind === 'fitted'
          ? ({ kind, ref: refdes, value, polarityChecked: turned, note } as const)
          : ({ kind, ref: refdes, value, note } as const);
    const objection = state.file(body);
    setRefusal(objection);
    if (!objection) setNote('');
  }

  return (
    <form
      className={style.part}
      aria-label={`Part ${refdes}`}
      onSubmit={(event) => {
        event.preventDefault();
        enter(off ? 'fitted' : 'removed');
      }}
    >
      <header>
        <strong className={style.ref}>{refdes}</strong>
        <span>{part?.role ?? part?.kind ?? ''}</span>
        <em>{off ? 'off the board' : fitted ? 'replaced' : 'on the board'}</em>
      </header>
      {condemned && <p className={style.reason}>Condemned: {condemned.body.reason}</p>}
      {gate && (
        <Notice look="harm" title="First:">
          {gate}. Type the ohms below.
        </Notice>
      )}
      {!off && fitted ? (
        <p>
          Went on: <span className="mono">{fitted.value}</span>
          {fitted.polarityChecked && ', polarity checked'}.{' '}
          <Button look="quiet" onClick={() => enter('removed')}>
            Take off again
          </Button>
        </p>
      ) : (
        <>
          <div className={style.fields}>
            <Field id={`value-${refdes}`} label={off ? 'What goes on' : 'What comes off'}>
              <input id={`value-${refdes}`} className="mono" value={value} onChange={(event) => setValue(event.target.value)} />
            </Field>
            <Field id={`note-${refdes}`} label={off ? 'Note (or why it stays off)' : 'Note'}>
              <input id={`note-${refdes}`} value={note} onChange={(event) => setNote(event.target.value)} />
            </Field>
          </div>
          {remarks.map(({ level, text }) => (
            <Notice key={text} look={level === 'stop' ? 'attention' : level === 'ok' ? 'good' : 'plain'}>
              {text}
            </Notice>
          ))}
          {off && way && (
            <label className={style.check}>
              <input type="checkbox" checked={turned} onChange={(event) => setTurned(event.target.checked)} /> This way round: {way}
            </label>
          )}
          {refusal && (
            <Notice look="attention" live>
              {refusal}
            </Notice>
          )}
          <div className={style.actions}>
            <Button look="main" type="submit" disabled={off && gate !== undefined}>
              {off ? `${refdes} went on` : `${refdes} came off`}
            </Button>
            {off && <Button onClick={() => enter('leftOut')}>Stays off on purpose</Button>}
            {condemned && !off && (
              <Button look="quiet" onClick={() => state.file({ kind: 'acquit', ref: refdes })}>
                Take the verdict back
              </Button>
            )}
          </div>
        </>
      )}
    </form>
  );
}
