import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { CaseState } from '../../case/use-case';
import { BoardOptions } from '../../case/BoardOptions';
import type { BoardChoice } from '../../server/board/service';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import style from './TakeInStage.module.css';

interface CardFields {
  title: string;
  unitModel: string;
  serial: string;
  owner: string;
  complaint: string;
  spendingLimit: string;
  promisedOn: string;
  waitsFor: string;
  boardId: string;
}

/** The card of a case: what a person may correct at any time. A change made elsewhere meanwhile is not overwritten. */
export function CaseCard({ state, boards }: { state: CaseState; boards: readonly BoardChoice[] }) {
  const { view } = state;
  const { register, handleSubmit, formState, reset } = useForm<CardFields>({ defaultValues: fieldsOf(view) });
  // The version these fields were filled from. A card that somebody else has stored since is never overwritten by these fields: the server says so.
  const [base, setBase] = useState(view.version);
  const [answer, setAnswer] = useState<{ text: string; good: boolean }>();

  const { errors, isDirty, isSubmitting } = formState;

  async function save(fields: CardFields): Promise<void> {
    const body = {
      ...fields,
      spendingLimit: fields.spendingLimit || null,
      promisedOn: fields.promisedOn || null,
      boardId: fields.boardId || null,
      version: base,
    };
    try {
      const response = await fetch(`/api/cases/${view.id}`, { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
      const result = (await response.json()) as { detail?: string; version?: number };
      if (!response.ok) return setAnswer({ text: result.detail ?? 'not stored', good: false });
      await state.reload();
      reset(fields);
      setBase(result.version ?? base);
      setAnswer({ text: 'Stored.', good: true });
    } catch {
      setAnswer({ text: 'The workshop server does not answer; what you typed is still here. Try again in a moment.', good: false });
    }
  }

  return (
    <form className={style.card} onSubmit={(event) => void handleSubmit(save)(event)} aria-label="Card of the case">
      <h2>Card</h2>
      <Field
        id="card-board"
        label="Board sheet"
        hint={boards.length === 0 ? 'None yet: import one under Boards.' : 'Readings are understood against this sheet.'}
      >
        <select id="card-board" {...register('boardId')}>
          <BoardOptions boards={boards} />
        </select>
      </Field>
      <p>
        <a href={`/boards?case=${view.number}`}>Import a board sheet</a>
      </p>
      <Field id="card-title" label="Title" error={errors.title?.message}>
        <input id="card-title" {...register('title', { required: 'a few words' })} />
      </Field>
      <Field id="card-unit" label="Unit" error={errors.unitModel?.message}>
        <input id="card-unit" {...register('unitModel', { required: 'the unit' })} />
      </Field>
      <div className={style.pair}>
        <Field id="card-serial" label="Serial">
          <input id="card-serial" {...register('serial')} />
        </Field>
        <Field id="card-owner" label="Owner">
          <input id="card-owner" {...register('owner')} />
        </Field>
      </div>
      <Field id="card-complaint" label="Complaint, in the owner's words">
        <textarea id="card-complaint" {...register('complaint')} />
      </Field>
      <div className={style.pair}>
        <Field id="card-limit" label="Spending limit" error={errors.spendingLimit?.message}>
          <input
            id="card-limit"
            inputMode="decimal"
            {...register('spendingLimit', { pattern: { value: /^(\d{1,7}(\.\d{1,2})?)?$/, message: 'an amount such as 79.50' } })}
          />
        </Field>
        <Field id="card-promised" label="Promised for">
          <input id="card-promised" type="date" {...register('promisedOn')} />
        </Field>
      </div>
      <Field id="card-waits" label="Waits for" hint="A part, the owner's word; empty when nothing holds it up.">
        <input id="card-waits" {...register('waitsFor')} />
      </Field>
      {answer && (
        <Notice look={answer.good ? 'good' : 'attention'} live>
          {answer.text}
        </Notice>
      )}
      <Button look="main" type="submit" disabled={!isDirty || isSubmitting}>
        Store the card
      </Button>
    </form>
  );
}

function fieldsOf(view: CaseState['view']): CardFields {
  return {
    title: view.title,
    unitModel: view.unitModel,
    serial: view.serial,
    owner: view.owner,
    complaint: view.complaint,
    spendingLimit: view.spendingLimit ?? '',
    promisedOn: view.promisedOn ?? '',
    waitsFor: view.waitsFor,
    boardId: view.board?.id ?? '',
  };
}
