import { useState } from 'react';
import { DownEdge, FINDING_RULES, FindingKind } from '@hanzai/core/bench';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { OneOf } from '../../ui/Choices';
import { EntryForm } from '../../ui/EntryForm';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { FormRow, Narrow } from '../../ui/FormRow';
import { Small } from '../../ui/Words';
import { wholeCharacters } from '../../case/wording';

const SURE = [
  ['1', 'sure'],
  ['0.7', 'likely'],
  ['0.4', 'perhaps'],
] as const;

interface Props {
  readonly state: CaseState;
  /** The place on the outline, or the one on a picture. */
  readonly place: { readonly xMm: number; readonly yMm: number } | undefined;
  readonly on: { readonly picture: string; readonly x: number; readonly y: number } | undefined;
  readonly onDone: () => void;
}

/** One finding: what, how large, how sure, and where it was tapped. */
export function FindingForm({ state, place, on, onDone }: Props) {
  const [what, setWhat] = useState<FindingKind>();
  const [size, setSize] = useState('4');
  const [sure, setSure] = useState<(typeof SURE)[number][0]>('1');
  const [down, setDown] = useState<DownEdge>(
    state.journal.seen.findLast(({ body }) => body.down)?.body.down ?? 'bottom',
  );
  const [text, setText] = useState('');
  const hasOutline = state.index?.board.outlineMm !== undefined;

  function add(): string | undefined {
    if (!what) return 'say what it is';
    if (hasOutline && !place) return 'tap the place on the board first';
    const millimetres = Number(size.replace(',', '.'));
    if (!(millimetres > 0 && millimetres <= 500))
      return `“${size}” is no size; expected millimetres such as 4`;
    const objection = state.append({
      kind: 'seen',
      what,
      text: wholeCharacters(text.trim(), 300),
      sizeMm: millimetres,
      certainty: Number(sure),
      ...(place ? { at: place } : {}),
      ...(what && FINDING_RULES[what].runsDown ? { down } : {}),
      ...(on ? { on } : {}),
    });
    if (objection) return objection;
    setText('');
    onDone();
    return undefined;
  }

  return (
    <EntryForm label="A finding" onAdd={add}>
      <OneOf
        name="finding"
        legend="Kind"
        value={what}
        onChange={setWhat}
        choices={FindingKind.options.map((value) => ({ value, words: FINDING_RULES[value].title }))}
      />
      <FormRow>
        <Narrow>
          <TextField
            id="finding-size"
            label="Across, mm"
            inputMode="decimal"
            value={size}
            onChange={(event) => setSize(event.target.value)}
          />
        </Narrow>
        {what && FINDING_RULES[what].runsDown && (
          <Narrow>
            <Field id="finding-down" label="Edge down">
              <select
                id="finding-down"
                value={down}
                onChange={(event) => setDown(DownEdge.parse(event.target.value))}
              >
                {DownEdge.options.map((edge) => (
                  <option key={edge}>{edge}</option>
                ))}
              </select>
            </Field>
          </Narrow>
        )}
        <TextField
          id="finding-text"
          label="In your words"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Narrow>
          <Field id="finding-sure" label="How sure">
            <select
              id="finding-sure"
              value={sure}
              onChange={(event) => setSure(event.target.value as typeof sure)}
            >
              {SURE.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          </Field>
        </Narrow>
        <Button look="main" type="submit">
          Add the finding
        </Button>
      </FormRow>
      <Small>
        {place
          ? `At ${place.xMm.toFixed(0)} mm from the left, ${place.yMm.toFixed(0)} mm from the top.`
          : hasOutline
            ? 'No place marked yet.'
            : ''}
      </Small>
    </EntryForm>
  );
}
