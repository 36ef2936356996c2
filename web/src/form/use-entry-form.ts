import { zodResolver } from '@hookform/resolvers/zod';
import type { FormEvent } from 'react';
import {
  useForm,
  type DefaultValues,
  type FieldPathByValue,
  type FieldValues,
  type Path,
  type UseFormRegisterReturn,
  type UseFormReturn,
} from 'react-hook-form';
import type { z } from 'zod';

/** Why it was not taken; undefined where it was. */
type Refusal = string | undefined;

export interface EntryFormState<Typed extends FieldValues> {
  readonly form: UseFormReturn<Typed, unknown, FieldValues>;
  /** Properties of a field of one line: its value, what it tells, and what is wrong with it. */
  readonly field: <P extends FieldPathByValue<Typed, string>>(
    name: P,
  ) => UseFormRegisterReturn<P> & { readonly error: string | undefined };
  /** Properties of a choice of one or several. */
  readonly choice: <P extends Path<Typed>>(
    name: P,
  ) => { readonly value: Typed[P]; readonly onChange: (value: Typed[P]) => void };
  /** What is wrong with a choice, or why what was entered was not taken. */
  readonly refusal: Refusal;
  readonly onSubmit: (event?: FormEvent) => void;
}

interface Ways<Typed extends FieldValues, Made> {
  /** Files what was made of it and says why not, where it cannot be; what was typed stays then. */
  readonly enter: (made: Made) => Refusal | Promise<Refusal>;
  /** Fields that begin anew once it was taken. The others stay for the next one of the kind. */
  readonly clears?: readonly Path<Typed>[];
  /** Fields without a line of their own to say what is wrong with them. */
  readonly choices?: readonly Path<Typed>[];
}

/**
 * A form that files one thing. What is typed is checked by a schema, which also makes of it what is
 * filed; each field says itself what is wrong with it.
 */
export function useEntryForm<Typed extends FieldValues, Made extends FieldValues>(
  schema: z.ZodType<Made, Typed>,
  defaultValues: NoInfer<DefaultValues<Typed>>,
  { enter, clears = [], choices = [] }: Ways<Typed, Made>,
): EntryFormState<Typed> {
  const form = useForm<Typed, unknown, Made>({ resolver: zodResolver(schema), defaultValues });
  const { errors } = form.formState;
  const told = (name: string): Refusal => {
    const message = (errors as Record<string, { message?: unknown } | undefined>)[name]?.message;
    return typeof message === 'string' ? message : undefined;
  };

  const submit = form.handleSubmit(async (made) => {
    const refusal = await enter(made);
    if (refusal !== undefined) form.setError('root', { message: refusal });
    else for (const name of clears) form.resetField(name);
  });

  return {
    form: form as unknown as UseFormReturn<Typed, unknown, FieldValues>,
    field: (name) => ({ ...form.register(name), error: told(name) }),
    choice: (name) => {
      // Known to the form, though no input of its own has it: it could not be cleared otherwise.
      form.register(name);
      return {
        value: form.watch(name),
        onChange: (value) =>
          form.setValue(name, value, { shouldValidate: form.formState.isSubmitted }),
      };
    },
    refusal: choices.map(told).find((one) => one !== undefined) ?? told('root'),
    onSubmit: (event) => void submit(event),
  };
}
