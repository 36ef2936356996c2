import { useMemo, useState } from 'react';
import { z } from 'zod';
import {
  mergeNets,
  nextTouches,
  pairKey,
  parseRing,
  ringInto,
  type Board,
  type Ring,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { Caution } from '../case/Caution';
import { EntryForm } from '../form/EntryForm';
import { useEntryForm } from '../form/use-entry-form';
import { Button } from '../ui/Button';
import { Actions, FormRow } from '../ui/FormRow';
import { Notice } from '../ui/Notice';
import { Rows } from '../ui/Rows';
import { TextField } from '../ui/TextField';

const RingTyped = z.object({
  said: z.string().transform((text, context): Ring => {
    const ring = parseRing(text);
    if (ring) return ring;
    context.addIssue(`“${text}” is no ring; expected two points and what it did: u3.2 u5.4 beep`);
    return z.NEVER;
  }),
});

/**
 * The netlist from the bench: two points and a beep join two pins of the sheet. The program proposes
 * which two to touch next; what contradicts the sheet is named, and decided by a press.
 */
export function RingForm({
  text,
  board,
  onChange,
}: {
  text: string;
  board: Board;
  onChange: (text: string) => void;
}) {
  /** Pairs that did not beep. They guide the next touch; the sheet says by itself that they are two nets. */
  const [apart, setApart] = useState<ReadonlySet<string>>(new Set());
  const [said, setSaid] = useState<string>();
  const [merge, setMerge] = useState<readonly [string, string]>();
  const touches = useMemo(() => nextTouches(board, apart), [board, apart]);

  function ring(told: Ring): string | undefined {
    const result = ringInto(text, told, LIBRARY);
    setMerge(result.ok ? undefined : result.merge);
    setSaid(result.ok ? result.words : undefined);
    if (!result.ok) return result.words;
    if (!told.joined) setApart(new Set([...apart, pairKey(told.a, told.b)]));
    if (result.text !== text) onChange(result.text);
    return undefined;
  }
  const entry = useEntryForm(
    RingTyped,
    { said: '' },
    { enter: ({ said: told }) => ring(told), clears: ['said'] },
  );

  return (
    <EntryForm label="Ring through" entry={entry}>
      <h2>Ring through</h2>
      <Caution of="before-ohms" />
      <FormRow>
        <TextField
          id="ring"
          label="Two points, and beep or open"
          className="mono"
          placeholder="u3.2 u5.4 beep"
          autoComplete="off"
          {...entry.field('said')}
        />
        <Button type="submit">Put it in</Button>
      </FormRow>
      {said && <p role="status">{said}</p>}
      {merge && (
        <Notice look="attention">
          <Actions>
            <Button
              onClick={() => {
                onChange(mergeNets(text, merge));
                setMerge(undefined);
              }}
            >
              {merge[1]} is {merge[0]}: one net
            </Button>
            <Button look="quiet" onClick={() => setMerge(undefined)}>
              Leave it: it is a fault
            </Button>
          </Actions>
        </Notice>
      )}
      <Rows>
        {touches.map(({ a, b, because }) => (
          <li key={`${a} ${b}`}>
            <span>
              <b className="mono">
                {a} {b === '0' ? 'ground' : b}
              </b>
              <small>{because}</small>
            </span>
            <Actions as="span">
              <Button
                look="quiet"
                aria-label={`${a} ${b} beeps`}
                onClick={() => void ring({ a, b, joined: true })}
              >
                beeps
              </Button>
              <Button
                look="quiet"
                aria-label={`${a} ${b} is open`}
                onClick={() => void ring({ a, b, joined: false })}
              >
                open
              </Button>
            </Actions>
          </li>
        ))}
      </Rows>
    </EntryForm>
  );
}
