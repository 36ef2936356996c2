import { useState } from 'react';
import { z } from 'zod';
import { nextSwap, swapPlans, swapTally, type SwapSchool } from '@hanzai/core/block';
import type { BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../../case/Caution';
import type { CaseState } from '../../../case/use-case';
import { EntryForm } from '../../../form/EntryForm';
import { maybeWords } from '../../../form/typed';
import { useEntryForm } from '../../../form/use-entry-form';
import { Button } from '../../../ui/Button';
import { FormRow } from '../../../ui/FormRow';
import { TextField } from '../../../ui/TextField';
import type { LineUp } from '../../../workers/engine-messages';
import { chipsOf } from './chip-pins';
import style from './ChipStock.module.css';

/** What a chip is suspected with where no reading speaks of it. From memory of bench practice. */
const USUAL_CHANCE = 0.05;

/** The chips of the board with what is known of each, and the plan of swaps into a good unit. */
export function ChipStock({
  state,
  index,
  lineUp,
}: {
  state: CaseState;
  index: BoardIndex;
  lineUp: LineUp | undefined;
}) {
  const { journal, append } = state;
  const chips = chipsOf(index);
  const known = new Map(journal.chips.map(({ body }) => [body.ref, body]));
  const [edited, setEdited] = useState<string>();
  const socketed = chips.filter(({ ref }) => known.get(ref)?.socketed).map(({ ref }) => ref);
  return (
    <div className={style.stock}>
      <table>
        <caption>Chips of this board</caption>
        <thead>
          <tr>
            <th scope="col">chip</th>
            <th scope="col">in a socket</th>
            <th scope="col">date code</th>
            <th scope="col">borrowed from</th>
            <th scope="col">tested</th>
            <th scope="col" />
          </tr>
        </thead>
        <tbody>
          {chips.map(({ ref, model }) => {
            const own = known.get(ref) ?? {
              ref,
              socketed: false,
              dateCode: '',
              from: '',
              tested: '',
            };
            return (
              <tr key={ref}>
                <th scope="row" className="mono">
                  {ref} {model.name}
                </th>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`${ref} sits in a socket`}
                    checked={own.socketed}
                    onChange={() => append({ kind: 'chip', ...own, socketed: !own.socketed })}
                  />
                </td>
                <td>{own.dateCode}</td>
                <td>{own.from}</td>
                <td>{own.tested}</td>
                <td>
                  <Button look="quiet" onClick={() => setEdited(edited === ref ? undefined : ref)}>
                    {edited === ref ? 'Away' : 'Write'}
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {edited && (
        <AboutChip
          key={edited}
          state={state}
          own={
            known.get(edited) ?? {
              ref: edited,
              socketed: false,
              dateCode: '',
              from: '',
              tested: '',
            }
          }
        />
      )}
      <Swaps state={state} socketed={socketed} lineUp={lineUp} />
    </div>
  );
}

const Typed = z.object({ dateCode: maybeWords(20), from: maybeWords(80), tested: maybeWords(80) });

function AboutChip({
  state: { append },
  own,
}: {
  state: CaseState;
  own: { ref: string; socketed: boolean; dateCode: string; from: string; tested: string };
}) {
  const entry = useEntryForm(
    Typed,
    { dateCode: own.dateCode, from: own.from, tested: own.tested },
    { enter: (typed) => append({ kind: 'chip', ref: own.ref, socketed: own.socketed, ...typed }) },
  );
  return (
    <EntryForm label={`About ${own.ref}`} entry={entry}>
      <FormRow>
        <TextField id="chip-date" label="Date code" {...entry.field('dateCode')} />
        <TextField id="chip-from" label="Borrowed from" {...entry.field('from')} />
        <TextField
          id="chip-tested"
          label="Tested how"
          placeholder="good in the other unit"
          {...entry.field('tested')}
        />
        <Button type="submit">Keep</Button>
      </FormRow>
    </EntryForm>
  );
}

const SCHOOL_WORDS: Readonly<Record<SwapSchool, string>> = {
  'one by one': 'one after the other',
  pairs: 'in pairs that make up a byte',
  halves: 'half of them at a time',
};

/** Which suspects go into a unit that works next, what each school costs, and the tally so far. */
function Swaps({
  state: { journal, append },
  socketed,
  lineUp,
}: {
  state: CaseState;
  socketed: readonly string[];
  lineUp: LineUp | undefined;
}) {
  const [school, setSchool] = useState<SwapSchool>();
  if (socketed.length === 0)
    return (
      <p>
        Tick the chips that sit in sockets: where several of them may be bad, a plan of swaps into a
        unit that works stands here.
      </p>
    );
  const chance = (ref: string): number =>
    lineUp?.entries.find((entry) => entry.ref === ref)?.probability ?? USUAL_CHANCE;
  const plans = swapPlans(socketed.map((ref) => ({ ref, chance: Math.min(0.99, chance(ref)) })));
  const chosen = school ?? plans[0]!.school;
  const tests = journal.chipSwaps.map(({ body }) => body);
  const tally = swapTally(socketed, tests);
  const put = nextSwap(chosen, socketed, tests);
  const told = (state: string): string =>
    socketed.filter((ref) => tally.get(ref) === state).join(', ') || 'none';
  return (
    <section aria-label="Swaps into a unit that works">
      <h3>Swaps into a unit that works</h3>
      <ul className={style.schools}>
        {plans.map((plan) => (
          <li key={plan.school}>
            <label>
              <input
                type="radio"
                name="school"
                checked={chosen === plan.school}
                onChange={() => setSchool(plan.school)}
              />{' '}
              {SCHOOL_WORDS[plan.school]}: {plan.expected.toFixed(1)} swaps on average, {plan.worst}{' '}
              at most
            </label>
          </li>
        ))}
      </ul>
      <Caution of="reseat" />
      <Caution of="before-ohms" />
      <p>
        Suspects go into the good unit, never its only good chips into this board: what is wrong
        here could kill them. Ohms from supply to ground of each suspect first; power off both units
        for every swap.
      </p>
      {put.length > 0 ? (
        <p>
          Put <b className="mono">{put.join(', ')}</b> into the good unit.{' '}
          <Button
            onClick={() => append({ kind: 'chipSwap', refs: [...put], passed: true, unit: '' })}
          >
            It works with them
          </Button>{' '}
          <Button
            onClick={() => append({ kind: 'chipSwap', refs: [...put], passed: false, unit: '' })}
          >
            It does not
          </Button>
        </p>
      ) : (
        <p role="status">Every chip is told.</p>
      )}
      <p>
        Good: <b className="mono">{told('good')}</b>. Bad: <b className="mono">{told('bad')}</b>.
        Not told yet: <b className="mono">{told('unknown')}</b>.
      </p>
      {journal.chipSwaps.length > 0 && (
        <ol className={style.schools}>
          {journal.chipSwaps.map(({ id, body: { refs, passed } }) => (
            <li key={id}>
              {refs.join(', ')}: {passed ? 'works' : 'does not work'}{' '}
              <Button look="quiet" onClick={() => append({ kind: 'retract', entry: id })}>
                Take back
              </Button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
