import { zodResolver } from '@hookform/resolvers/zod';
import { format } from 'date-fns/format';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { UnitTypeOptions } from '../case/UnitTypeOptions';
import { KnownBefore } from './KnownBefore';
import { z } from 'zod';
import { BoardOptions } from '../case/BoardOptions';
import { NewCaseForm } from '../case/case-card';
import { guessUnitType } from '../case/unit';
import { wholeCharacters } from '../case/wording';
import { ask, whyNot, withBody } from '../store/answers';
import type { BoardChoice } from '../case/board-choice';
import { Band } from '../case/Band';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import style from './NewCase.module.css';

const Opened = z.object({ number: z.number().int() });

/** Opens a case in a few fields; the rest can follow in Take in. */
export function NewCase({ boards, chosen }: { boards: readonly BoardChoice[]; chosen: string }) {
  const { register, handleSubmit, formState, watch, setValue } = useForm<
    z.input<typeof NewCaseForm>,
    unknown,
    NewCaseForm
  >({
    resolver: zodResolver(NewCaseForm),
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
  const [title, serial, complaint, unitType] = watch(['title', 'serial', 'complaint', 'unitType']);
  const words = `${watch('title')} ${watch('unitModel')}`;
  useEffect(() => {
    if (!kindChosen) setValue('unitType', guessUnitType(words));
  }, [words, kindChosen, setValue]);
  const alike = Number(watch('alike'));

  /**
   * Opens one case, or several like ones as a batch. What was opened before one failed stays open,
   * and the form says so.
   */
  async function open({ alike: count, ...fields }: NewCaseForm): Promise<void> {
    const today = format(new Date(), 'yyyy-MM-dd');
    const ofSeveral = count > 1 ? wholeCharacters(`${fields.unitModel}, ${today}`, 60) : '';
    const batch = fields.batch || ofSeveral;
    let opened = 0;
    let number: number | undefined;
    try {
      for (; opened < count; opened += 1) {
        const title =
          count > 1
            ? wholeCharacters(`${fields.title} (${opened + 1} of ${count})`, 160)
            : fields.title;
        const body = withBody('POST', { ...fields, batch, title });
        const first = await ask('/api/cases', Opened, body);
        number ??= first.number;
      }
      window.location.assign(`/case/${number}/take-in`);
    } catch (error) {
      const so = opened > 0 ? ` ${opened} of ${count} are open already.` : '';
      setFailure(`${whyNot(error)}${so}`);
    }
  }

  return (
    <>
      <Band here="new" />
      <main className={style.page}>
        <h1>New case</h1>
        <form onSubmit={(event) => void handleSubmit(open)(event)} noValidate>
          <TextField
            id="title"
            label="Title"
            error={errors.title?.message}
            {...register('title')}
            autoFocus
          />
          <TextField
            id="unit"
            label="Unit"
            error={errors.unitModel?.message}
            {...register('unitModel')}
          />
          <div className={style.pair}>
            <TextField
              id="serial"
              label="Serial"
              error={errors.serial?.message}
              {...register('serial')}
            />
            <TextField
              id="owner"
              label="Owner"
              error={errors.owner?.message}
              {...register('owner')}
            />
          </div>
          <Field
            id="complaint"
            label="Complaint, in the owner's words"
            error={errors.complaint?.message}
          >
            <textarea id="complaint" {...register('complaint')} />
          </Field>
          <KnownBefore
            serial={serial ?? ''}
            said={`${title} ${complaint}`}
            unitType={unitType ?? ''}
          />
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
                <UnitTypeOptions />
              </select>
            </Field>
            <TextField
              id="alike"
              label="How many like it"
              error={errors.alike?.message}
              hint="Several become a batch: the same card, a case each."
              inputMode="numeric"
              {...register('alike')}
            />
          </div>
          {alike > 1 && (
            <TextField
              id="batch"
              label="Name of the batch"
              hint="Empty: the unit and today."
              error={errors.batch?.message}
              {...register('batch')}
            />
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
