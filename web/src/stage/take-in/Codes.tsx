import { useEffect, useState } from 'react';
import { decodeTaps, type UnitModel } from '@hanzai/core/block';
import { v7 } from 'uuid';
import { z } from 'zod';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { FormRow } from '../../ui/FormRow';
import { Small } from '../../ui/Words';
import { Rows } from '../../ui/Rows';
import style from './TakeInStage.module.css';
import { Refused } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { ask, whyNot, withBody } from '../../store/answers';

const CodeTyped = z.object({ code: typedWords(20, 'type the code, or tap along with the lamp') });

const NewCodeTyped = z.object({
  stage: z.string(),
  meaning: typedWords(160, 'write what the code means'),
});

/**
 * Lamp and error codes: typed or tapped along, read against the unit's own table, to which the
 * workshop adds.
 */
export function Codes({ state, model }: { state: CaseState; model: UnitModel }) {
  const [taps, setTaps] = useState<readonly number[]>([]);
  const entry = useEntryForm(
    CodeTyped,
    { code: '' },
    {
      enter: (typed) => {
        const objection = state.append({
          kind: 'code',
          code: known(typed.code)?.code ?? typed.code,
        });
        if (!objection) setTaps([]);
        return objection;
      },
      clears: ['code'],
    },
  );
  const { field, form } = entry;
  const code = form.watch('code');
  const known = (text: string) =>
    model.codes?.find((one) => one.code.toLowerCase() === text.trim().toLowerCase());
  const rhythm = decodeTaps(taps);
  const meaning = known(code);
  const filed = state.journal.blockEvents.flatMap((entry) =>
    entry.body.kind === 'code' ? [{ id: entry.id, code: entry.body.code }] : [],
  );
  useEffect(() => {
    if (rhythm) form.setValue('code', rhythm.code);
  }, [rhythm?.code]); // eslint-disable-line react-hooks/exhaustive-deps -- what was tapped last is what counts

  return (
    <Panel title="Codes" aside="blinks as groups: 3-1 is three, pause, one">
      <FormRow as="form" onSubmit={entry.onSubmit}>
        <TextField id="code" label="Code" {...field('code')} />
        <Button type="submit">Add the code</Button>
        <button
          type="button"
          className={style.tap}
          onClick={(event) => setTaps([...taps, event.timeStamp])}
          aria-label="Tap along with the lamp, or press Space at each blink"
        >
          tap along
          <br />
          {taps.length > 0 ? `${taps.length} taps` : 'with the lamp'}
        </button>
        {taps.length > 0 && (
          <Button look="quiet" onClick={() => setTaps([])}>
            Tap anew
          </Button>
        )}
        <Refused words={entry.refusal} />
      </FormRow>
      {rhythm && (
        <Small role="status">
          Heard {rhythm.repeats.join(' / ')}
          {rhythm.repeats.length > 1 &&
            `: ${Math.round(100 * rhythm.agreement)} % of the repeats agree`}
        </Small>
      )}
      {code.trim() !== '' &&
        (meaning ? (
          <Notice look="good">
            {meaning.code}: {meaning.meaning}. It speaks of{' '}
            {model.stages.find(({ name }) => name === meaning.stage)?.title}.
          </Notice>
        ) : (
          <NewCode state={state} model={model} code={code.trim()} />
        ))}{' '}
      {filed.length > 0 && (
        <Rows>
          {filed.map(({ id, code: shown }) => (
            <li key={id}>
              <span>
                <b className="mono">{shown}</b>{' '}
                {model.codes?.find((one) => one.code === shown)?.meaning ??
                  'not in the table of this unit'}
              </span>
              <Button
                look="quiet"
                aria-label={`Take back code ${shown}`}
                onClick={() => state.append({ kind: 'retract', entry: id })}
              >
                Take back
              </Button>
            </li>
          ))}
        </Rows>
      )}
    </Panel>
  );
}

/** A code that the table does not have: write it down for every unit of this maker and type. */
function NewCode({ state, model, code }: { state: CaseState; model: UnitModel; code: string }) {
  const { field, form, onSubmit, refusal } = useEntryForm(
    NewCodeTyped,
    { stage: model.stages[0]!.name, meaning: '' },
    {
      enter: async (typed) => {
        const { unitModel } = state.view;
        const row = { id: v7(), unitType: model.name, unitModel, code, ...typed };
        try {
          await ask('/api/units/codes', z.unknown(), withBody('POST', row));
          await state.reload();
          return undefined;
        } catch (error) {
          return whyNot(error);
        }
      },
    },
  );

  return (
    <FormRow as="form" onSubmit={onSubmit}>
      <Small>
        “{code}” is not in the table of {state.view.unitModel}. If you know it, write it down:
      </Small>
      <Field id="code-stage" label="It speaks of">
        <select id="code-stage" {...form.register('stage')}>
          {model.stages.map(({ name, title }) => (
            <option key={name} value={name}>
              {title}
            </option>
          ))}
        </select>
      </Field>
      <TextField id="code-meaning" label="Meaning" maxLength={160} {...field('meaning')} />
      <Button type="submit">Write it down</Button>
      <Refused words={refusal} />
    </FormRow>
  );
}
