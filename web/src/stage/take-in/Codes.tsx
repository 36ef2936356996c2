import { useEffect, useState } from 'react';
import { decodeTaps, type UnitModel } from '@hanzai/core/block';
import { v7 } from 'uuid';
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
import { wholeCharacters } from '../../case/wording';

/**
 * Lamp and error codes: typed or tapped along, read against the unit's own table, to which the
 * workshop adds.
 */
export function Codes({ state, model }: { state: CaseState; model: UnitModel }) {
  const [code, setCode] = useState('');
  const [taps, setTaps] = useState<readonly number[]>([]);
  const [refusal, setRefusal] = useState<string>();
  const rhythm = decodeTaps(taps);
  const meaning = model.codes?.find((one) => one.code.toLowerCase() === code.trim().toLowerCase());
  const filed = state.journal.blockEvents.flatMap((entry) =>
    entry.body.kind === 'code' ? [{ id: entry.id, code: entry.body.code }] : [],
  );
  useEffect(() => {
    if (rhythm) setCode(rhythm.code);
  }, [rhythm?.code]); // eslint-disable-line react-hooks/exhaustive-deps -- what was tapped last is what counts

  function add(): void {
    const text = code.trim();
    if (text === '') return setRefusal('type the code, or tap along with the lamp');
    const objection = state.append({
      kind: 'code',
      code: meaning?.code ?? wholeCharacters(text, 20),
    });
    setRefusal(objection);
    if (objection) return;
    setCode('');
    setTaps([]);
  }

  return (
    <Panel title="Codes" aside="blinks as groups: 3-1 is three, pause, one">
      <FormRow>
        <TextField
          id="code"
          label="Code"
          error={refusal}
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
        <Button onClick={add}>Add the code</Button>
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
  const [stage, setStage] = useState(model.stages[0]!.name);
  const [meaning, setMeaning] = useState('');
  const [answer, setAnswer] = useState<string>();

  async function store(): Promise<void> {
    if (meaning.trim() === '') return setAnswer('write what the code means');
    try {
      const response = await fetch('/api/units/codes', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          id: v7(),
          unitType: model.name,
          unitModel: state.view.unitModel,
          code,
          stage,
          meaning,
        }),
      });
      if (response.ok) return void (await state.reload());
      const { detail } = (await response.json().catch(() => ({}))) as { detail?: string };
      setAnswer(detail ?? `the server answered ${response.status}`);
    } catch {
      setAnswer('The workshop server does not answer; what you typed is still here.');
    }
  }

  return (
    <FormRow>
      <Small>
        “{code}” is not in the table of {state.view.unitModel}. If you know it, write it down:
      </Small>
      <Field id="code-stage" label="It speaks of">
        <select id="code-stage" value={stage} onChange={(event) => setStage(event.target.value)}>
          {model.stages.map(({ name, title }) => (
            <option key={name} value={name}>
              {title}
            </option>
          ))}
        </select>
      </Field>
      <TextField
        id="code-meaning"
        label="Meaning"
        error={answer}
        value={meaning}
        maxLength={160}
        onChange={(event) => setMeaning(event.target.value)}
      />
      <Button onClick={() => void store()}>Write it down</Button>
    </FormRow>
  );
}
