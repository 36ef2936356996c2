import { useState } from 'react';
import { reconcile } from '@hanzai/core/bench';
import { nameKey, partValue, type BoardIndex } from '@hanzai/core/board';
import { judgeReplacement, orientation, parseOffered } from '@hanzai/core/part';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { readingEntry, takeBackLast } from '../../case/file-reading';
import { fuseMustMeasure, fuseObjection } from '../../case/rules';
import { Strip } from '../../case/Strip';
import { useCase, type CaseState } from '../../case/use-case';
import type { CaseView } from '../../server/case/service';
import { Button, ButtonLink } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { LedgerTable } from './LedgerTable';
import style from './RepairStage.module.css';

/** Repair: what came off, what went on, which way round; nothing that came off is forgotten. */
export function RepairStage({ view }: { view: CaseView }) {
  const state = useCase(view);
  const { index, journal } = state;
  if (!index) {
    return (
      <CaseFrame state={state} stage="repair">
        <h2>No board sheet yet</h2>
        <p>The ledger names parts of a board. Choose a sheet in Take in first.</p>
      </CaseFrame>
    );
  }
  const states = reconcile(journal.ledger);
  const refs = [...new Set([...journal.condemned.map(({ body }) => body.ref), ...states.map(({ ref }) => ref)])];
  const toMeasure = refs.map((ref) => fuseMustMeasure(index, journal, ref)).find((net) => net !== undefined);
  const strip = (
    <Strip
      index={index}
      recent={[]}
      proposal={toMeasure === undefined ? undefined : { setup: 'off', kind: 'resistance', at: toMeasure, to: '' }}
      expect={state.expect}
      onFile={(m, value, typed) => state.file(readingEntry(m, value, typed))}
      onRetract={() => takeBackLast(state)}
      disabled={journal.closed}
    />
  );
  return (
    <CaseFrame state={state} stage="repair" foot={strip}>
      <div className={style.intro}>
        <h2>Off and on</h2>
        <Caution of="iron" />
      </div>
      {refs.length === 0 && (
        <Notice title="Nothing is condemned yet.">
          Condemn a suspect in <a href={`/case/${view.number}/trace`}>Trace</a>, or enter any part that you take off below, for example C3.
        </Notice>
      )}
      <div className={style.parts}>
        {refs.map((ref) => (
          <PartCard key={ref} refdes={ref} state={state} index={index} />
        ))}
      </div>
      <OtherPart state={state} index={index} />
      <LedgerTable state={state} />
      {journal.missing.length > 0 ? (
        <Notice look="attention" title="Still missing:">
          {journal.missing.join(', ')} came off and nothing went on. The case cannot be proven or closed like this.
        </Notice>
      ) : (
        states.length > 0 && (
          <p className={style.on}>
            <ButtonLink look="main" href={`/case/${view.number}/prove`}>
              On to Prove
            </ButtonLink>
          </p>
        )
      )}
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'enter it in the ledger'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

/** What the board says that a part is, as one writes it: `470u 16V`, `T1A`, a model's name. */
function boardValue(index: BoardIndex, ref: string): string {
  const [part] = index.replaceable.get(ref) ?? [];
  if (!part) return '';
  const rating = part.rating ?? (part.kind === 'capacitor' && part.ratedVolt ? `${part.ratedVolt}V` : '');
  return [partValue(part), rating].filter(Boolean).join(' ');
}

function PartCard({ refdes, state, index }: { refdes: string; state: CaseState; index: BoardIndex }) {
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

function OtherPart({ state, index }: { state: CaseState; index: BoardIndex }) {
  const [ref, setRef] = useState('');
  const [refusal, setRefusal] = useState<string>();
  return (
    <form
      className={style.other}
      onSubmit={(event) => {
        event.preventDefault();
        const known = [...index.replaceable.keys()].find((name) => nameKey(name) === nameKey(ref.trim()));
        const objection = known
          ? state.file({ kind: 'removed', ref: known, value: boardValue(index, known), note: '' })
          : `no part ${ref.trim() || 'without a name'} on this sheet; expected a designator such as C3`;
        setRefusal(objection);
        if (!objection) setRef('');
      }}
    >
      <Field id="other" label="Another part came off" error={refusal}>
        <input id="other" className="mono" value={ref} onChange={(event) => setRef(event.target.value)} placeholder="C3" />
      </Field>
      <Button type="submit">Enter</Button>
    </form>
  );
}
