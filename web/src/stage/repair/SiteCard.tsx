import { z } from 'zod';
import type { SiteKind } from '@hanzai/core/fault';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { maybeWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { SITE_NOUN } from '../../case/wording';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import style from './RepairStage.module.css';

const HOW: Readonly<Record<SiteKind, string>> = {
  bridge: 'solder taken off',
  cut: 'track bridged with wire',
};

const MendedTyped = z.object({ how: maybeWords(120), note: maybeWords(300) });

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
  const { form, onSubmit, refusal } = useEntryForm(
    MendedTyped,
    { how: HOW[kind], note: '' },
    {
      enter: ({ how, note }) =>
        state.append({ kind: 'fitted', ref: site, value: how, polarityChecked: false, note }),
    },
  );

  return (
    <form className={style.part} aria-label={`Place ${site}`} noValidate onSubmit={onSubmit}>
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
              <input id={`how-${site}`} {...form.register('how')} />
            </Field>
            <Field id={`note-${site}`} label="Note">
              <input id={`note-${site}`} {...form.register('note')} />
            </Field>
          </div>
          <Refused words={refusal} />
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
