import { useMemo, useState } from 'react';
import type { CautionedStep } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { GUIDED_CHECKS, type CheckField, type GuidedCheck } from '@hanzai/core/check';
import { parseQuantity } from '@hanzai/core/quantity';
import { Caution } from '../../../case/Caution';
import { givenOf, guidedWords } from '../../../case/kind/surveying';
import type { CaseState } from '../../../case/use-case';
import { Button } from '../../../ui/Button';
import { OneOf } from '../../../ui/Choices';
import { Notice } from '../../../ui/Notice';
import { Rows } from '../../../ui/Rows';
import { TextField } from '../../../ui/TextField';
import { Pane } from '../Pane';
import { ArrayElements } from './ArrayElements';
import style from './Checks.module.css';

/** What to mind at each check. */
const MIND: Readonly<Record<string, readonly CautionedStep[]>> = {
  'centre-tap': ['before-ohms', 'head-ohms'],
  'steering-diodes': ['before-ohms', 'head-ohms'],
  'light-barrier': ['probe-powered'],
  motor: ['motor', 'current'],
  speed: ['probe-powered', 'motor'],
};
const VERDICT_WORDS = { good: 'Good', doubtful: 'In doubt', bad: 'Bad' } as const;

/** What was typed into a field, as it is given to the check; undefined for nothing, null for nonsense. */
export function readField(field: CheckField, text: string): number | string | undefined | null {
  const typed = text.trim();
  if (typed === '') return undefined;
  if (field.unit === 'choice') return field.choices?.includes(typed) ? typed : null;
  // A duration is typed in seconds or milliseconds.
  const time = field.unit === 's' ? /^([\d.,]+)\s*(ms|s)?$/i.exec(typed) : null;
  if (field.unit === 's')
    return time
      ? Number(time[1]!.replace(',', '.')) * (time[2]?.toLowerCase() === 'ms' ? 1e-3 : 1)
      : null;
  const read = parseQuantity(typed);
  if (!read.ok || (read.unit !== '' && read.unit !== field.unit)) return null;
  if (read.value === 'OL') return field.unit === 'ohm' || field.overload ? 'OL' : null;
  return read.value >= 0 ? read.value : null;
}

/** Guided checks: coil, light barrier, motor, speed, contact, array, inductor. */
export default function ChecksPane({
  state,
  index,
  onClose,
}: {
  readonly state: CaseState;
  readonly index: BoardIndex;
  readonly onClose: () => void;
}) {
  const [name, setName] = useState(GUIDED_CHECKS[0]!.name);
  const check = GUIDED_CHECKS.find((one) => one.name === name)!;
  const { guided } = state.journal;
  return (
    <Pane title="Guided checks" fills onClose={onClose}>
      <OneOf
        name="guided-check"
        legend="What is checked"
        choices={GUIDED_CHECKS.map((one) => ({ value: one.name, words: one.title }))}
        value={name}
        onChange={setName}
      />
      <CheckForm key={name} check={check} state={state} index={index} />
      {guided.length > 0 && (
        <Rows>
          {[...guided].reverse().map(({ id, body }) => (
            <li key={id}>
              <span>{guidedWords(body)}</span>
              <Button
                look="quiet"
                aria-label={`Take back: ${guidedWords(body)}`}
                onClick={() => state.append({ kind: 'retract', entry: id })}
              >
                Take back
              </Button>
            </li>
          ))}
        </Rows>
      )}
    </Pane>
  );
}

function CheckForm({
  check,
  state,
  index,
}: {
  readonly check: GuidedCheck;
  readonly state: CaseState;
  readonly index: BoardIndex;
}) {
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const [ref, setRef] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const read = check.fields.map(
    (field) => [field.key, readField(field, typed[field.key] ?? '')] as const,
  );
  const wrong = new Set(read.flatMap(([key, value]) => (value === null ? [key] : [])));
  const given = Object.fromEntries(
    read.flatMap(([key, value]) => (value === undefined || value === null ? [] : [[key, value]])),
  );
  const result = wrong.size > 0 ? undefined : check.judge(givenOf(given));
  const refs = useMemo(() => [...index.replaceable.keys()], [index]);
  const missing = check.fields.filter(({ key, needed }) => needed && given[key] === undefined);
  function file(): void {
    if (!result) return;
    const named = refs.find((one) => one.toLowerCase() === ref.trim().toLowerCase());
    const why = state.append({
      kind: 'guided',
      check: check.name,
      ref: named ?? ref.trim(),
      given,
      verdict: result.verdict,
      because: [...result.because],
    });
    setRefusal(why);
    if (why === undefined) setTyped({});
  }
  return (
    <form
      className={style.form}
      aria-label={check.title}
      onSubmit={(event) => {
        event.preventDefault();
        file();
      }}
    >
      <p>{check.about}</p>
      {(MIND[check.name] ?? ['before-ohms']).map((step, i) => (
        <Caution key={step} of={step} again={i > 0} />
      ))}
      <div className={style.fields}>
        <TextField
          id="guided-ref"
          label="which part"
          hint="as the sheet names it; left empty where it has none"
          list="guided-refs"
          value={ref}
          onChange={(event) => setRef(event.target.value)}
        />
        <datalist id="guided-refs">
          {refs.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
        {check.fields.map((field) =>
          field.choices ? (
            <OneOf
              key={field.key}
              name={`guided-${field.key}`}
              legend={field.label}
              choices={field.choices.map((value) => ({ value, words: value }))}
              value={typed[field.key]}
              onChange={(value) => setTyped({ ...typed, [field.key]: value })}
            />
          ) : (
            <TextField
              key={field.key}
              id={`guided-${field.key}`}
              label={`${field.label}${field.unit === '' ? '' : `, ${field.unit === 'ohm' ? 'Ω' : field.unit}`}`}
              hint={field.hint ?? (field.needed ? undefined : 'if you have it')}
              error={
                wrong.has(field.key)
                  ? `no size of it; such as ${field.unit === 's' ? '200ms' : '4.7'}`
                  : undefined
              }
              className="mono"
              autoComplete="off"
              value={typed[field.key] ?? ''}
              onChange={(event) => setTyped({ ...typed, [field.key]: event.target.value })}
            />
          ),
        )}
      </div>
      {check.name === 'array' && <ArrayElements state={state} index={index} name={ref} />}
      <div role="status">
        {result ? (
          <Notice
            look={result.verdict === 'good' ? 'good' : 'attention'}
            title={`${VERDICT_WORDS[result.verdict]}:`}
          >
            {result.because.join('; ')}.{result.settle && ` What settles it: ${result.settle}.`}
          </Notice>
        ) : (
          <p>
            {missing.length > 0
              ? `Still needed: ${missing.map(({ label }) => label).join(', ')}.`
              : 'What was given says nothing yet.'}
          </p>
        )}
      </div>
      {refusal !== undefined && <p role="alert">Not filed: {refusal}.</p>}
      <Button look="main" type="submit" disabled={!result}>
        File it as evidence
      </Button>
    </form>
  );
}
