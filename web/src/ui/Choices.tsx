import type { ReactNode } from 'react';
import style from './Choices.module.css';

export interface Choice<T extends string> {
  readonly value: T;
  readonly words: ReactNode;
}

/** One of a few, as boxes large enough for a gloved finger. */
export function OneOf<T extends string>({
  name,
  legend,
  choices,
  value,
  onChange,
}: {
  name: string;
  legend: string;
  choices: readonly Choice<T>[];
  value: T | undefined;
  onChange: (value: T) => void;
}) {
  return (
    <fieldset className={style.choices}>
      <legend>{legend}</legend>
      {choices.map((choice) => (
        <label key={choice.value} className={style.choice}>
          <input
            type="radio"
            name={name}
            checked={choice.value === value}
            onChange={() => onChange(choice.value)}
          />
          {choice.words}
        </label>
      ))}
    </fieldset>
  );
}

/** Any of a few. */
export function AnyOf<T extends string>({
  legend,
  choices,
  value: values,
  onChange,
}: {
  legend: string;
  choices: readonly Choice<T>[];
  value: readonly T[];
  onChange: (value: T[]) => void;
}) {
  return (
    <fieldset className={style.choices}>
      <legend>{legend}</legend>
      {choices.map((choice) => (
        <label key={choice.value} className={style.choice}>
          <input
            type="checkbox"
            checked={values.includes(choice.value)}
            onChange={(event) =>
              onChange(
                event.target.checked
                  ? [...values, choice.value]
                  : values.filter((value) => value !== choice.value),
              )
            }
          />
          {choice.words}
        </label>
      ))}
    </fieldset>
  );
}
