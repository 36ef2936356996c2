import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { CaseState } from '../../case/use-case';
import { ARCHETYPES } from '@hanzai/data';
import { guessUnitType } from '../../case/unit';
import { BoardOptions } from '../../case/BoardOptions';
import type { BoardChoice } from '../../case/board-choice';
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
  waitsKind: string;
  boardId: string;
  unitType: string;
  accessories: string;
  stuckInside: string;
  causeOfDeath: string;
  earlierVisitors: string;
  mediaNote: string;
  batch: string;
}

/**
 * The card of a case: what a person may correct at any time. A change made elsewhere meanwhile is
 * not overwritten.
 */
export function CaseCard({ state, boards }: { state: CaseState; boards: readonly BoardChoice[] }) {
  const { view } = state;
  const { register, handleSubmit, formState, reset } = useForm<CardFields>({
    defaultValues: fieldsOf(view),
  });
  // The version these fields were filled from. A card that somebody else has stored since is never
  // overwritten by these fields: the server says so.
  const [base, setBase] = useState(view.version);
  const [answer, setAnswer] = useState<{ text: string; good: boolean }>();

  const { errors, isDirty, isSubmitting } = formState;
  const guess = guessUnitType(`${view.unitModel} ${view.title}`);
  const proposal = ARCHETYPES.find(({ name }) => name === guess);

  async function save(fields: CardFields): Promise<void> {
    const body = {
      ...fields,
      spendingLimit: fields.spendingLimit || null,
      promisedOn: fields.promisedOn || null,
      boardId: fields.boardId || null,
      version: base,
    };
    try {
      const response = await fetch(`/api/cases/${view.id}`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
      const result = (await response.json()) as { detail?: string; version?: number };
      if (!response.ok) return setAnswer({ text: result.detail ?? 'not stored', good: false });
      await state.reload();
      reset(fields);
      setBase(result.version ?? base);
      setAnswer({ text: 'Stored.', good: true });
    } catch {
      setAnswer({
        text: 'The workshop server does not answer; what you typed is still here. Try again in a moment.',
        good: false,
      });
    }
  }

  return (
    <form
      className={style.card}
      onSubmit={(event) => void handleSubmit(save)(event)}
      aria-label="Card of the case"
    >
      <h2>Card</h2>
      <Field
        id="card-board"
        label="Board sheet"
        hint={
          boards.length === 0
            ? 'None yet: import one under Boards.'
            : 'Readings are understood against this sheet.'
        }
      >
        <select id="card-board" {...register('boardId')}>
          <BoardOptions boards={boards} />
        </select>
      </Field>
      <p>
        <a href={`/boards?case=${view.number}`}>Import a board sheet</a>
      </p>
      <Field
        id="card-type"
        label="Kind of unit"
        hint="Start sequence, swaps, hazards and first aid go by it."
      >
        <select id="card-type" {...register('unitType')}>
          <option value="">
            not chosen{proposal ? `; the words sound like ${proposal.title.toLowerCase()}` : ''}
          </option>
          {ARCHETYPES.map(({ name, title }) => (
            <option key={name} value={name}>
              {title}
            </option>
          ))}
        </select>
      </Field>
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
            {...register('spendingLimit', {
              pattern: { value: /^(\d{1,7}(\.\d{1,2})?)?$/, message: 'an amount such as 79.50' },
            })}
          />
        </Field>
        <Field id="card-promised" label="Promised for">
          <input id="card-promised" type="date" {...register('promisedOn')} />
        </Field>
      </div>
      <div className={style.pair}>
        <Field id="card-waits-kind" label="Held up by">
          <select id="card-waits-kind" {...register('waitsKind')}>
            <option value="">nothing</option>
            <option value="part">a part</option>
            <option value="owner">the owner&rsquo;s word</option>
            <option value="timer">a timer</option>
          </select>
        </Field>
        <Field id="card-waits" label="Waits for" hint="Empty when nothing holds it up.">
          <input id="card-waits" {...register('waitsFor')} />
        </Field>
      </div>
      <details className={style.more}>
        <summary>What came with it, and what happened to it</summary>
        <Field id="card-accessories" label="Accessories">
          <input id="card-accessories" {...register('accessories')} />
        </Field>
        <Field id="card-stuck" label="Stuck inside">
          <input id="card-stuck" {...register('stuckInside')} />
        </Field>
        <Field
          id="card-cause"
          label="Cause of death, if known"
          hint="A drop, liquid, years of storage, food pushed in."
        >
          <input id="card-cause" {...register('causeOfDeath')} />
        </Field>
        <Field
          id="card-visitors"
          label="Signs of earlier visitors"
          hint="Missing screws, broken seals, cut tracks, resoldered joints."
        >
          <input id="card-visitors" {...register('earlierVisitors')} />
        </Field>
        <Field
          id="card-media"
          label="Media that came with it: what may be looked at"
          hint="Nothing is read beyond what the owner agreed to."
        >
          <input id="card-media" {...register('mediaNote')} />
        </Field>
        <Field id="card-batch" label="Batch" hint="Cases with the same word are worked together.">
          <input id="card-batch" {...register('batch')} />
        </Field>
      </details>
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
    waitsKind: view.waitsKind,
    unitType: view.unitType,
    accessories: view.accessories,
    stuckInside: view.stuckInside,
    causeOfDeath: view.causeOfDeath,
    earlierVisitors: view.earlierVisitors,
    mediaNote: view.mediaNote,
    batch: view.batch,
    boardId: view.board?.id ?? '',
  };
}
