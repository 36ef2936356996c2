import { lazy, Suspense, useState } from 'react';
import {
  beginning,
  reckon,
  sweep,
  type Answer,
  type Calculator,
  type Field,
  type Typed,
} from '@hanzai/core/reckon';
import { Button } from '../ui/Button';
import { Field as Control } from '../ui/Field';
import { FormRow } from '../ui/FormRow';
import { Notice } from '../ui/Notice';
import { Table } from '../ui/Table';
import { TextField } from '../ui/TextField';
import { Small } from '../ui/Words';
import { Picture } from './Picture';
import style from './Reckoner.module.css';

const SweepChart = lazy(() => import('./SweepChart'));

/**
 * One calculator: what it asks, its picture, the answer in words and figures with how sure they are,
 * formula and source. typed: what stands in its fields; those that it does not have stand as they begin.
 */
export function Reckoning({
  calculator,
  typed,
  onTyped,
  onFile,
  titled = true,
}: {
  calculator: Calculator;
  typed: Typed;
  onTyped: (typed: Typed) => void;
  /** Files the answer as a note; left out where there is no case. */
  onFile?: ((words: string) => void) | undefined;
  /** False where its title stands above it already. */
  titled?: boolean;
}) {
  const { title, fields, formula, source, caution } = calculator;
  const all = { ...beginning(calculator), ...typed };
  const answer = reckon(calculator, all);
  return (
    <article className={style.reckoning} aria-label={title}>
      {titled && <h2>{title}</h2>}
      {caution !== undefined && (
        <Notice look="attention" title="Mind:">
          {caution}
        </Notice>
      )}
      <div className={style.halves}>
        <form onSubmit={(event) => event.preventDefault()} aria-label="What it goes by">
          <FormRow>
            {fields.map((field) => (
              <Asked
                key={field.name}
                field={field}
                value={all[field.name] ?? ''}
                error={answer.ok ? undefined : answer.fields[field.name]}
                onChange={(value) => onTyped({ ...typed, [field.name]: value })}
              />
            ))}
          </FormRow>
        </form>
        <Picture name={calculator.name} typed={all} />
      </div>
      <Told answer={answer} />
      {answer.ok && onFile && (
        <Button look="main" onClick={() => onFile(noteOf(calculator, all, answer))}>
          File it as a note
        </Button>
      )}
      <Swept calculator={calculator} typed={all} />
      <div>
        <span className="mono">{formula}</span>
        <Small>{source}</Small>
      </div>
    </article>
  );
}

function Asked({
  field,
  value,
  error,
  onChange,
}: {
  field: Field;
  value: string;
  error: string | undefined;
  onChange: (value: string) => void;
}) {
  const id = `reckon-${field.name}`;
  const expected = error === undefined ? undefined : `expected ${error}`;
  if (field.kind === 'choice')
    return (
      <Control id={id} label={field.label} error={expected}>
        <select id={id} value={value} onChange={({ target }) => onChange(target.value)}>
          {field.choices.map((one) => (
            <option key={one.value} value={one.value}>
              {one.words}
            </option>
          ))}
        </select>
      </Control>
    );
  if (field.kind === 'words' && field.lines)
    return (
      <Control id={id} label={field.label} error={expected}>
        <textarea
          id={id}
          rows={6}
          className="mono"
          value={value}
          onChange={({ target }) => onChange(target.value)}
        />
      </Control>
    );
  return (
    <TextField
      id={id}
      label={field.label}
      error={expected}
      className="mono"
      autoComplete="off"
      spellCheck={false}
      maxLength={300}
      value={value}
      onChange={({ target }) => onChange(target.value)}
    />
  );
}

function Told({ answer }: { answer: Answer }) {
  if (!answer.ok)
    return (
      <p className={style.told} role="status">
        {answer.why === '' ? 'No answer before every field is read.' : `No answer: ${answer.why}.`}
      </p>
    );
  return (
    <>
      <p className={style.told} role="status">
        <b>{answer.words}</b>
      </p>
      <Table>
        <tbody>
          {answer.lines.map(({ name, label, text, value, interval }) => (
            <tr key={name}>
              <th scope="row">{label}</th>
              <td className={value === undefined ? undefined : 'mono'}>{text}</td>
              <td>{interval && <Small as="span">95 %: {interval.text}</Small>}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  );
}

/** The answer over a range of one field, once it is asked for. */
function Swept({ calculator, typed }: { calculator: Calculator; typed: Typed }) {
  const [chosen, setChosen] = useState('');
  const figures = calculator.fields.filter((field) => field.kind === 'figure');
  const field = figures.find(({ name }) => name === chosen);
  const swept = field && sweep(calculator, typed, field.name);
  if (figures.length === 0) return null;
  return (
    <section className={style.swept} aria-label="Over a range">
      <Control id="reckon-sweep" label="Over a range of">
        <select id="reckon-sweep" value={chosen} onChange={({ target }) => setChosen(target.value)}>
          <option value="">nothing</option>
          {figures.map(({ name, label }) => (
            <option key={name} value={name}>
              {label}
            </option>
          ))}
        </select>
      </Control>
      {field && !swept && <Small>There is no range to show: fill the fields first.</Small>}
      {field && swept && (
        <Suspense fallback={<Small>Drawn in a moment …</Small>}>
          <SweepChart sweep={swept} field={field} now={typed[field.name] ?? ''} />
        </Suspense>
      )}
    </section>
  );
}

/** An answer as a note of a case: what was typed, what came of it, by which formula. */
export function noteOf(
  { title, fields, formula }: Calculator,
  typed: Typed,
  answer: Extract<Answer, { ok: true }>,
): string {
  const given = fields
    .filter(({ name }) => (typed[name] ?? '') !== '')
    .map(({ name, label }) => `${label} ${typed[name]!.replaceAll('\n', ', ')}`)
    .join('; ');
  return `${title}: ${answer.words} (${given}; ${formula})`.slice(0, 500);
}
