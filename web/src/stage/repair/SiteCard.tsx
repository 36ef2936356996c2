import { useState } from 'react';
import type { SiteKind } from '@hanzai/core/fault';
import type { CaseState } from '../../case/use-case';
import { SITE_NOUN } from '../../case/wording';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import style from './RepairStage.module.css';

const HOW: Readonly<Record<SiteKind, string>> = {
  bridge: 'solder taken off',
  cut: 'track bridged with wire',
};

/** A place that is no part: a bridge or a cut that is mended where it is. */
export function SiteCard({
  site,
  kind,
  state,
}: {
  site: string;
  kind: SiteKind;
  state: CaseState;
}) {
  const { journal } = state;
  const condemned = journal.condemned.find(({ body }) => body.ref === site);
  const mended = journal.ledger.findLast((line) => line.ref === site);
  const [how, setHow] = useState(HOW[kind]);
  const [note, setNote] = useState('');
  const [refusal, setRefusal] = useState<string>();

  return (
    <form
      className={style.part}
      aria-label={`Place ${site}`}
      onSubmit={(event) => {
        event.preventDefault();
        setRefusal(
          state.append({ kind: 'fitted', ref: site, value: how, polarityChecked: false, note }),
        );
      }}
    >
      <header>
        <strong className={style.ref}>{site.replace('~', ' to ')}</strong>
        <span>{SITE_NOUN[kind]}</span>
        <em>{mended ? 'mended' : 'not mended yet'}</em>
      </header>
      {condemned && <p className={style.reason}>Condemned: {condemned.body.reason}</p>}
      {mended ? (
        <p>How: {mended.value}</p>
      ) : (
        <>
          <div className={style.fields}>
            <Field id={`how-${site}`} label="How it was mended">
              <input
                id={`how-${site}`}
                value={how}
                onChange={(event) => setHow(event.target.value)}
              />
            </Field>
            <Field id={`note-${site}`} label="Note">
              <input
                id={`note-${site}`}
                value={note}
                onChange={(event) => setNote(event.target.value)}
              />
            </Field>
          </div>
          {refusal && (
            <Notice look="attention" live>
              {refusal}
            </Notice>
          )}
          <div className={style.actions}>
            <Button look="main" type="submit">
              Mended
            </Button>
            {condemned && (
              <Button look="quiet" onClick={() => state.append({ kind: 'acquit', ref: site })}>
                Take the verdict back
              </Button>
            )}
          </div>
        </>
      )}
    </form>
  );
}
