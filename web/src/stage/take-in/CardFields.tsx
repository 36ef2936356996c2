import type { FieldErrors, UseFormRegister } from 'react-hook-form';
import { UnitTypeOptions } from '../../case/UnitTypeOptions';
import type { BoardChoice } from '../../case/board-choice';
import { BoardOptions } from '../../case/BoardOptions';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import type { CardTyped } from './card-form';
import style from './TakeInStage.module.css';

interface Props {
  readonly register: UseFormRegister<CardTyped>;
  readonly errors: FieldErrors<CardTyped>;
}

/**
 * Whose it is, what it is called, what it waits for. proposal: the kind that its words speak of.
 */
export function CardFields({
  register,
  errors,
  boards,
  board,
  number,
  proposal,
}: Props & {
  readonly boards: readonly BoardChoice[];
  /** The one it is traced on now. */
  readonly board: { readonly id: string; readonly title: string } | undefined;
  readonly number: number;
  readonly proposal: string | undefined;
}) {
  return (
    <>
      <Field
        id="card-board"
        label="Board sheet"
        hint={
          boards.length === 0
            ? 'None yet: import one under Boards.'
            : 'Readings are understood against this sheet.'
        }
        error={errors.boardId?.message}
      >
        <select id="card-board" {...register('boardId')}>
          <BoardOptions boards={boards} current={board} />
        </select>
      </Field>
      <p>
        <a href={`/boards?case=${number}`}>Import a board sheet</a>
      </p>
      <Field
        id="card-type"
        label="Kind of unit"
        hint="Start sequence, swaps, hazards and first aid go by it."
        error={errors.unitType?.message}
      >
        <select id="card-type" {...register('unitType')}>
          <option value="">not chosen{proposal ? `; the words sound like ${proposal}` : ''}</option>
          <UnitTypeOptions />
        </select>
      </Field>
      <TextField
        id="card-title"
        label="Title"
        error={errors.title?.message}
        {...register('title')}
      />
      <TextField
        id="card-unit"
        label="Unit"
        error={errors.unitModel?.message}
        {...register('unitModel')}
      />
      <div className={style.pair}>
        <TextField
          id="card-made"
          label="Made in"
          hint="A year: electrolytics of old units are suspected more."
          error={errors.madeIn?.message}
          inputMode="numeric"
          {...register('madeIn')}
        />
        <TextField
          id="card-hours"
          label="Hours run"
          hint="Where a counter or its owner tells; else leave it empty."
          error={errors.hoursRun?.message}
          inputMode="numeric"
          {...register('hoursRun')}
        />
      </div>
      <div className={style.pair}>
        <TextField
          id="card-serial"
          label="Serial"
          error={errors.serial?.message}
          {...register('serial')}
        />
        <TextField
          id="card-owner"
          label="Owner"
          error={errors.owner?.message}
          {...register('owner')}
        />
      </div>
      <Field
        id="card-complaint"
        label="Complaint, in the owner's words"
        error={errors.complaint?.message}
      >
        <textarea id="card-complaint" {...register('complaint')} />
      </Field>
      <div className={style.pair}>
        <TextField
          id="card-limit"
          label="Spending limit"
          error={errors.spendingLimit?.message}
          inputMode="decimal"
          {...register('spendingLimit')}
        />
        <TextField
          id="card-promised"
          label="Promised for"
          error={errors.promisedOn?.message}
          type="date"
          {...register('promisedOn')}
        />
      </div>
      <div className={style.pair}>
        <Field id="card-waits-kind" label="Held up by" error={errors.waitsKind?.message}>
          <select id="card-waits-kind" {...register('waitsKind')}>
            <option value="">nothing</option>
            <option value="part">a part</option>
            <option value="owner">the owner&rsquo;s word</option>
            <option value="timer">a timer</option>
          </select>
        </Field>
        <TextField
          id="card-waits"
          label="Waits for"
          hint="Empty when nothing holds it up."
          error={errors.waitsFor?.message}
          {...register('waitsFor')}
        />
      </div>
    </>
  );
}

/** Field of the card, id on the page, label, hint. */
const CAME_WITH = [
  ['accessories', 'card-accessories', 'Accessories', undefined],
  ['stuckInside', 'card-stuck', 'Stuck inside', undefined],
  [
    'causeOfDeath',
    'card-cause',
    'Cause of death, if known',
    'A drop, liquid, years of storage, food pushed in.',
  ],
  [
    'earlierVisitors',
    'card-visitors',
    'Signs of earlier visitors',
    'Missing screws, broken seals, cut tracks, resoldered joints.',
  ],
  [
    'mediaNote',
    'card-media',
    'Media that came with it: what may be looked at',
    'Nothing is read beyond what the owner agreed to.',
  ],
  ['batch', 'card-batch', 'Batch', 'Cases with the same word are worked together.'],
] as const;

/** What came with the unit, and what happened to it before. */
export function CameWithIt({ register, errors }: Props) {
  return (
    <details className={style.more}>
      <summary>What came with it, and what happened to it</summary>
      {CAME_WITH.map(([name, id, label, hint]) => (
        <TextField
          key={name}
          id={id}
          label={label}
          hint={hint}
          error={errors[name]?.message}
          {...register(name)}
        />
      ))}
    </details>
  );
}
