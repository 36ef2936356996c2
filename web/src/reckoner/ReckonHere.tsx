import { useState } from 'react';
import type { Typed } from '@hanzai/core/reckon';
import type { CaseState } from '../case/use-case';
import { Refused } from '../form/EntryForm';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Small } from '../ui/Words';
import { calculatorOf } from './calculators';
import { Reckoning } from './Reckoning';

/** A calculator where it is needed in a case: filled in as far as the case knows, filed as a note. */
export function ReckonHere({
  state,
  name,
  typed = {},
  words,
}: {
  state: CaseState;
  name: string;
  typed?: Typed;
  /** On its button. */
  words: string;
}) {
  const [open, setOpen] = useState(false);
  const [own, setOwn] = useState<Typed>({});
  const [refusal, setRefusal] = useState<string>();
  const calculator = calculatorOf(name);
  const { fields } = calculator;
  const { journal } = state;
  return (
    <>
      <Button
        look="quiet"
        onClick={() => {
          setOwn(typed);
          setOpen(true);
        }}
      >
        {words}
      </Button>
      <Dialog title={words} open={open} onClose={() => setOpen(false)} wide>
        <Small>
          {fields.every(({ name: field }) => field in typed)
            ? 'Filled in with what the case knows.'
            : 'Where the case knows nothing, examples stand: put your own in.'}
        </Small>
        <Reckoning
          titled={false}
          calculator={calculator}
          typed={own}
          onTyped={setOwn}
          onFile={
            journal.closed
              ? undefined
              : (note) => {
                  const why = state.append({ kind: 'finding', text: note });
                  setRefusal(why);
                  if (why === undefined) setOpen(false);
                }
          }
        />
        <Refused words={refusal} />
      </Dialog>
    </>
  );
}
