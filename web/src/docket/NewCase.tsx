import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { BoardOptions } from '../case/BoardOptions';
import type { BoardChoice } from '../server/board/service';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { Masthead } from '../ui/Masthead';
import { Notice } from '../ui/Notice';
import style from './NewCase.module.css';

const Fields = z.object({
  title: z.string().trim().min(1, 'a few words, for example: CR-40, no movement').max(160, 'at most 160 characters'),
  unitModel: z.string().trim().min(1, 'the unit, for example: CR-40 card-disc reader').max(120, 'at most 120 characters'),
  serial: z.string().trim().max(80),
  owner: z.string().trim().max(120),
  complaint: z.string().trim().max(2000, 'at most 2000 characters'),
  boardId: z.string(),
});
type Fields = z.infer<typeof Fields>;

/** Opens a case in a few fields; the rest can follow in Take in. */
export function NewCase({ boards, chosen }: { boards: readonly BoardChoice[]; chosen: string }) {
  const { register, handleSubmit, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: { title: '', unitModel: '', serial: '', owner: '', complaint: '', boardId: chosen },
  });
  const [failure, setFailure] = useState<string>();
  const { errors, isSubmitting } = formState;

  async function open(fields: Fields): Promise<void> {
    try {
      const response = await fetch('/api/cases', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ ...fields, boardId: fields.boardId || null }),
      });
      const result = (await response.json()) as { number?: number; detail?: string };
      if (response.ok) window.location.assign(`/case/${result.number}/take-in`);
      else setFailure(result.detail ?? 'the case was not opened');
    } catch {
      setFailure('The workshop server does not answer; what you typed is still here. Try again in a moment.');
    }
  }

  return (
    <>
      <Masthead here="new" />
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
          <Field id="complaint" label="Complaint, in the owner's words" error={errors.complaint?.message}>
            <textarea id="complaint" {...register('complaint')} />
          </Field>
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
