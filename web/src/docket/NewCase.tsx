import { zodResolver } from '@hookform/resolvers/zod';
import { ARCHETYPES } from '@hanzai/data';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { BoardOptions } from '../case/BoardOptions';
import { guessUnitType } from '../case/unit';
import type { BoardChoice } from '../case/board-choice';
import { Band } from '../case/Band';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { Notice } from '../ui/Notice';
import style from './NewCase.module.css';

const Fields = z.object({
  title: z
    .string()
    .trim()
    .min(1, 'a few words, for example: CR-40, no movement')
    .max(160, 'at most 160 characters'),
  unitModel: z
    .string()
    .trim()
    .min(1, 'the unit, for example: CR-40 card-disc reader')
    .max(120, 'at most 120 characters'),
  serial: z.string().trim().max(80),
  owner: z.string().trim().max(120),
  complaint: z.string().trim().max(2000, 'at most 2000 characters'),
  boardId: z.string(),
  unitType: z.string(),
  batch: z.string().trim().max(60),
  alike: z.coerce
    .number('a whole number')
    .int('a whole number')
    .min(1, 'at least one')
    .max(20, 'at most 20 at a time'),
});
type Fields = z.infer<typeof Fields>;
/** As they stand in the form: the number is still text. */
type Typed = z.input<typeof Fields>;

/** Opens a case in a few fields; the rest can follow in Take in. */
export function NewCase({ boards, chosen }: { boards: readonly BoardChoice[]; chosen: string }) {
  const { register, handleSubmit, formState, watch, setValue } = useForm<Typed, unknown, Fields>({
    resolver: zodResolver(Fields),
    defaultValues: {
      title: '',
      unitModel: '',
      serial: '',
      owner: '',
      complaint: '',
      boardId: chosen,
      unitType: '',
      batch: '',
      alike: 1,
    },
  });
  const [failure, setFailure] = useState<string>();
  const { errors, isSubmitting } = formState;

  const [kindChosen, setKindChosen] = useState(false);
  const words = `${watch('title')} ${watch('unitModel')}`;
  useEffect(() => {
    if (!kindChosen) setValue('unitType', guessUnitType(words));
  }, [words, kindChosen, setValue]);
  const alike = Number(watch('alike'));

  /**
   * Opens one case, or several like ones as a batch. What was opened before one failed stays open,
   * and the form says so.
   */
  async function open({ alike: count, ...fields }: Fields): Promise<void> {
    let opened = 0;
    let number: number | undefined;
    try {
      for (; opened < count; opened += 1) {
        const batch =
          fields.batch ||
          (count > 1
            ? `${fields.unitModel}, ${new Date().toISOString().slice(0, 10)}`.slice(0, 60)
            : '');
        const response = await fetch('/api/cases', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({
            ...fields,
            batch,
            title:
              count > 1
                ? `${fields.title} (${opened + 1} of ${count})`.slice(0, 160)
                : fields.title,
            boardId: fields.boardId || null,
          }),
        });
        const result = (await response.json()) as { number?: number; detail?: string };
        if (!response.ok)
          return setFailure(
            `${result.detail ?? 'the case was not opened'}${opened > 0 ? `; ${opened} of ${count} are open already` : ''}`,
          );
        number ??= result.number;
      }
      window.location.assign(`/case/${number}/take-in`);
    } catch {
      setFailure(
        `The workshop server does not answer; what you typed is still here.${opened > 0 ? ` ${opened} of ${count} are open already.` : ''} Try again in a moment.`,
      );
    }
  }

  return (
    <>
      <Band here="new" />
      <main className={style.page}>
        <h1>New case</h1>
        <form onSubmit={(event) => void handleSubmit(open)(event)} noValidate>
          <Field id="title" label="Title" error={errors.title?.message}>
            <input id="title" {...register('title')} autoFocus />
          </Field>
          <Field id="unit" label="Unit" error={errors.unitModel?.message}>
            <input id="unit" {...register('unitModel')} />
          </Field>
          <div className={style.pair}>
            <Field id="serial" label="Serial" error={errors.serial?.message}>
              <input id="serial" {...register('serial')} />
            </Field>
            <Field id="owner" label="Owner" error={errors.owner?.message}>
              <input id="owner" {...register('owner')} />
            </Field>
          </div>
          <Field
            id="complaint"
            label="Complaint, in the owner's words"
            error={errors.complaint?.message}
          >
            <textarea id="complaint" {...register('complaint')} />
          </Field>
          <div className={style.pair}>
            <Field
              id="unit-type"
              label="Kind of unit"
              hint="Start sequence, swaps and hazards go by it."
            >
              <select
                id="unit-type"
                {...register('unitType', { onChange: () => setKindChosen(true) })}
              >
                <option value="">not chosen</option>
                {ARCHETYPES.map(({ name, title }) => (
                  <option key={name} value={name}>
                    {title}
                  </option>
                ))}
              </select>
            </Field>
            <Field
              id="alike"
              label="How many like it"
              error={errors.alike?.message}
              hint="Several become a batch: the same card, a case each."
            >
              <input id="alike" inputMode="numeric" {...register('alike')} />
            </Field>
          </div>
          {alike > 1 && (
            <Field
              id="batch"
              label="Name of the batch"
              hint="Empty: the unit and today."
              error={errors.batch?.message}
            >
              <input id="batch" {...register('batch')} />
            </Field>
          )}
          <Field id="board" label="Board sheet" hint="Can be chosen or imported later.">
            <select id="board" {...register('boardId')}>
              <BoardOptions boards={boards} />
            </select>
          </Field>
          {failure && (
            <Notice look="attention" live>
              {failure}
            </Notice>
          )}
          <Button look="main" type="submit" disabled={isSubmitting}>
            Open the case
          </Button>
        </form>
      </main>
    </>
  );
}
