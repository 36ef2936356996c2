import { useState } from 'react';
import { OpenUpStep } from '@hanzai/core/bench';
import { PictureBoard } from '../../case/PictureBoard';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { OneOf } from '../../ui/Choices';
import { EntryForm } from '../../ui/EntryForm';
import { TextField } from '../../ui/TextField';
import { Actions, FormRow, Narrow } from '../../ui/FormRow';
import { Fold } from '../../ui/Fold';
import choices from '../../ui/Choices.module.css';

type What = OpenUpStep['what'];

// prettier-ignore
const WHAT: readonly { value: What; words: string }[] = [
  { value: 'fastener', words: 'screw' }, { value: 'plug', words: 'plug' }, { value: 'flex', words: 'flex' }, { value: 'tab', words: 'tab' },
  { value: 'lift', words: 'lift off' }, { value: 'glue', words: 'glue' }, { value: 'seal', words: 'seal' }, { value: 'empty-hole', words: 'empty hole' },
];

const WAYS = [
  'pull straight, by the moving half',
  'lift the bail',
  'slide the latch',
  'press the tab, then pull',
] as const;

/**
 * One step of the way in. What was typed last stays, so that the next screw of the same lid is one
 * press.
 */
export function StepForm({ state, locked }: { state: CaseState; locked: boolean }) {
  const [what, setWhat] = useState<What>('fastener');
  const [of, setOf] = useState(state.journal.steps.at(-1)?.of ?? 'lid');
  const [name, setName] = useState('M3 pan');
  const [length, setLength] = useState('');
  const [count, setCount] = useState('1');
  const [way, setWay] = useState('');
  const [frees, setFrees] = useState('');
  const [forTest, setForTest] = useState(false);
  const [note, setNote] = useState('');
  const [place, setPlace] = useState<{ x: number; y: number }>();
  const picture =
    state.journal.pictures.find(({ body }) => body.of !== 'board') ?? state.journal.pictures[0];

  function add(): string | undefined {
    const step = OpenUpStep.safeParse({
      what,
      of,
      name: what === 'lift' ? '' : name,
      ...(what === 'fastener' && length.trim() !== ''
        ? { lengthMm: Number(length.replace(',', '.')) }
        : {}),
      count: what === 'fastener' ? Number(count) : 1,
      way: what === 'plug' || what === 'flex' ? way : '',
      ...(place
        ? { place: { ...place, ...(picture ? { picture: picture.body.picture } : {}) } }
        : {}),
      frees: frees.split(/[\s,]+/).filter(Boolean),
      forTest,
      note,
    });
    if (!step.success)
      return step.error.issues
        .map(({ path }) => WRONG[String(path[0])] ?? 'something is missing')
        .join('; ');
    const objection = state.append({ kind: 'step', step: step.data });
    if (objection) return objection;
    setFrees('');
    setNote('');
    setPlace(undefined);
    if (what === 'plug' || what === 'flex') setName('');
    return undefined;
  }

  return (
    <EntryForm label="A step of opening up" onAdd={add}>
      <OneOf
        name="what"
        legend="What came off"
        choices={WHAT}
        value={what}
        onChange={(next) => {
          setWhat(next);
          setName(next === 'fastener' ? 'M3 pan' : '');
        }}
      />{' '}
      <FormRow>
        <TextField
          id="step-of"
          label="Of"
          value={of}
          onChange={(event) => setOf(event.target.value)}
          placeholder="lid, shield, board"
        />
        {what !== 'lift' && (
          <TextField
            id="step-name"
            label={what === 'fastener' ? 'Kind' : 'Name'}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
        {what === 'fastener' && (
          <>
            <Narrow>
              <TextField
                id="step-length"
                label="Length, mm"
                inputMode="decimal"
                value={length}
                onChange={(event) => setLength(event.target.value)}
              />
            </Narrow>
            <Narrow>
              <TextField
                id="step-count"
                label="Count"
                inputMode="numeric"
                value={count}
                onChange={(event) => setCount(event.target.value)}
              />
            </Narrow>
          </>
        )}
        {(what === 'plug' || what === 'flex') && (
          <TextField
            id="step-way"
            label="How it lets go"
            list="step-ways"
            value={way}
            onChange={(event) => setWay(event.target.value)}
          />
        )}
        <datalist id="step-ways">
          {WAYS.map((words) => (
            <option key={words} value={words} />
          ))}
        </datalist>
        {what !== 'empty-hole' && (
          <TextField
            id="step-frees"
            label="In reach now"
            placeholder="parts, nets, or “board”"
            value={frees}
            onChange={(event) => setFrees(event.target.value)}
          />
        )}
        <TextField
          id="step-note"
          label="Note"
          value={note}
          maxLength={300}
          onChange={(event) => setNote(event.target.value)}
        />
      </FormRow>
      <Actions>
        <label className={choices.choice}>
          <input
            type="checkbox"
            checked={forTest}
            onChange={(event) => setForTest(event.target.checked)}
          />
          has to be on for a test
        </label>
        <Button look="main" type="submit" disabled={locked}>
          Add the step
        </Button>
      </Actions>
      {picture && (
        <Fold>
          <summary>
            Where: tap on “{picture.body.title || 'the picture'}”{place ? ', marked' : ''}
          </summary>
          <PictureBoard
            picture={picture.body.picture}
            title={picture.body.title}
            marks={[
              ...state.journal.steps.flatMap((step) =>
                step.place ? [{ x: step.place.x, y: step.place.y }] : [],
              ),
              ...(place ? [{ ...place, fresh: true }] : []),
            ]}
            onPlace={setPlace}
          />
        </Fold>
      )}
    </EntryForm>
  );
}

const WRONG: Readonly<Record<string, string>> = {
  of: 'say of what it came off, for example lid',
  lengthMm: 'the length is millimetres above 0 and up to 200',
  count: 'the count is a whole number from 1 to 60',
  name: 'the name has at most 60 characters',
  frees: 'at most 60 names of parts or nets',
};
