import { useState } from 'react';
import type { Attention } from '@hanzai/core/training';
import { Caution } from '../../case/Caution';
import type { PracticeLink } from '../../case/practice-link';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Narrow, FormRow } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { TextField } from '../../ui/TextField';
import style from './PracticePane.module.css';

type Deed = Attention['do'] | 'flex';

/** Each with what it needs: a part, two of them, minutes, or nothing. */
const DEEDS: Readonly<Record<Deed, { readonly words: string; readonly needs: readonly Need[] }>> = {
  zero: { words: 'Touch the leads together, take what they read off', needs: [] },
  wait: { words: 'Leave it on, and let it get warm', needs: ['minutes'] },
  chill: { words: 'Spray a part cold', needs: ['part'] },
  press: { words: 'Press on a part', needs: ['part'] },
  flex: { words: 'Hold the board flexed', needs: [] },
  release: { words: 'Let go', needs: [] },
  swap: { words: 'Swap two of a kind', needs: ['part', 'other'] },
  mark: { words: 'Write down how a trimmer stands', needs: ['part'] },
};
type Need = 'part' | 'other' | 'minutes';
/** Those that are done to a board that is on, as a rule. */
const PROVOKES: readonly Deed[] = ['wait', 'chill', 'press', 'flex'];

/** What is done at the bench of an exercise beside readings and the iron. */
export function BenchDeeds({ practice }: { practice: PracticeLink }) {
  const [deed, setDeed] = useState<Deed>('zero');
  const [part, setPart] = useState('');
  const [other, setOther] = useState('');
  const [minutes, setMinutes] = useState('5');
  const [wrong, setWrong] = useState<string>();
  const { needs } = DEEDS[deed];
  const last = practice.deeds.at(-1);

  function attend(): void {
    const missing = [
      ...(needs.includes('part') && part.trim() === '' ? ['which part'] : []),
      ...(needs.includes('other') && other.trim() === '' ? ['which two parts'] : []),
      ...(needs.includes('minutes') && !isMinutes(minutes) ? ['1 to 60 whole minutes'] : []),
    ];
    setWrong(missing[0]);
    if (missing.length === 0)
      practice.attend(attentionOf(deed, part.trim(), other.trim(), Number(minutes)));
  }

  return (
    <Panel title="Hand work">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          attend();
        }}
      >
        <FormRow>
          <Field id="deed" label="What">
            <select
              id="deed"
              value={deed}
              onChange={({ target }) => {
                setDeed(target.value as Deed);
                setWrong(undefined);
              }}
            >
              {Object.entries(DEEDS).map(([name, { words }]) => (
                <option key={name} value={name}>
                  {words}
                </option>
              ))}
            </select>
          </Field>
          {needs.includes('part') && (
            <PartField id="deed-part" label="Part" error={wrong} value={part} onType={setPart} />
          )}
          {needs.includes('other') && (
            <PartField id="deed-other" label="With" value={other} onType={setOther} />
          )}
          {needs.includes('minutes') && (
            <Narrow>
              <TextField
                id="deed-minutes"
                label="Minutes"
                inputMode="numeric"
                error={wrong}
                value={minutes}
                onChange={({ target }) => setMinutes(target.value)}
              />
            </Narrow>
          )}
          <Button type="submit" disabled={practice.busy}>
            Do it
          </Button>
        </FormRow>
        {PROVOKES.includes(deed) && <Caution of="provoke" />}
        {deed === 'swap' && <Caution of="iron" />}
        <datalist id="deed-parts">
          {[...practice.bench.replaceable.keys()].map((ref) => (
            <option key={ref} value={ref} />
          ))}
        </datalist>
      </form>
      {last !== undefined && (
        <p className={style.none} role="status">
          Last: {last}.
        </p>
      )}
    </Panel>
  );
}

/** A field for a part of the board, by its designator. */
function PartField({
  onType,
  ...field
}: {
  id: string;
  label: string;
  error?: string | undefined;
  value: string;
  onType: (text: string) => void;
}) {
  return (
    <Narrow>
      <TextField
        {...field}
        className="mono"
        list="deed-parts"
        onChange={({ target }) => onType(target.value)}
      />
    </Narrow>
  );
}

const isMinutes = (text: string): boolean =>
  Number.isInteger(Number(text)) && Number(text) >= 1 && Number(text) <= 60;

function attentionOf(deed: Deed, part: string, other: string, minutes: number): Attention {
  switch (deed) {
    case 'flex':
      return { do: 'press', ref: '' };
    case 'wait':
      return { do: 'wait', minutes };
    case 'swap':
      return { do: 'swap', ref: part, with: other };
    case 'chill':
    case 'press':
    case 'mark':
      return { do: deed, ref: part };
    case 'zero':
    case 'release':
      return { do: deed };
  }
}
