import { useMemo, useState } from 'react';
import { z } from 'zod';
import {
  mergeNets,
  nextTouches,
  pairKey,
  parseRing,
  ringInto,
  withRing,
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

const NOBODY: ReadonlySet<string> = new Set();

/**
 * The netlist from the bench: two points and a beep join two pins of the sheet. The program proposes
 * which two to touch next; what contradicts the sheet is named, and decided by a press.
 */
export function RingForm({
  text,
  board,
  forCase,
  suspects = NOBODY,
  onChange,
}: {
  text: string;
  board: Board;
  /** The number of the case that the sheet is written for, if it is for one. */
  forCase: string | undefined;
  /** Parts in question, by nameKey: what is undrawn about them is proposed first. */
  suspects?: ReadonlySet<string>;
  onChange: (text: string) => void;
}) {
  const of = forCase === undefined ? {} : { reading: `case ${forCase}` };
  const [said, setSaid] = useState<string>();
  const [merge, setMerge] = useState<{ nets: readonly [string, string]; told: Ring }>();
  const [which, setWhich] = useState<{ nets: readonly string[]; told: Ring }>();
  // Pairs that did not beep are not proposed again.
  const touches = useMemo(
    () =>
      nextTouches(
        board,
        new Set((board.rings ?? []).flatMap(({ a, b, joined }) => (joined ? [] : [pairKey(a, b)]))),
        6,
        suspects,
      ),
    [board, suspects],
  );

  /** A sheet on which stands that this was rung, now and by whom. */
  const witnessed = (sheet: string, told: Ring): string => {
    const by = localStorage.getItem('who')?.trim() ?? '';
    const at = `${new Date().toISOString().slice(0, 16)}Z`;
    return withRing(sheet, { ...told, at, ...(by === '' ? {} : { by: by.slice(0, 80) }), ...of });
  };
  function ring(told: Ring, on?: string): string | undefined {
    const result = ringInto(text, told, LIBRARY, on);
    setWhich(!result.ok && result.nets ? { nets: result.nets, told } : undefined);
    setMerge(!result.ok && result.merge ? { nets: result.merge, told } : undefined);
    setSaid(result.ok ? result.words : undefined);
    if (!result.ok) return result.words;
    onChange(witnessed(result.text, told));
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
      {which && (
        <Notice look="attention">
          <Actions>
            {which.nets.map((net) => (
              <Button key={net} onClick={() => void ring(which.told, net)}>
                It is on {net}
              </Button>
            ))}
          </Actions>
        </Notice>
      )}
      {merge && (
        <Notice look="attention">
          <Actions>
            <Button
              onClick={() => {
                onChange(witnessed(mergeNets(text, merge.nets), merge.told));
                setMerge(undefined);
              }}
            >
              {merge.nets[1]} is {merge.nets[0]}: one net
            </Button>
            <Button
              look="quiet"
              onClick={() => {
                onChange(witnessed(text, merge.told));
                setMerge(undefined);
              }}
            >
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
