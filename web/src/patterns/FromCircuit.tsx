import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BoardChoice } from '../case/board-choice';
import { BoardOptions } from '../case/BoardOptions';
import { oddsWords } from '../case/wording';
import { ask, whyNot } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { HatchBar } from '../ui/HatchBar';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Small } from '../ui/Words';
import { matchWords } from './find';
import { CircuitPatterns, type CircuitPattern } from './patterns';
import style from './Patterns.module.css';
import { useLearned } from './use-patterns';

/** A large board takes half a minute the first time, milliseconds. */
const PATIENCE = 200_000;
/** Suspects worth a line. */
const SHOWN = 5;

/** What a board's circuit says of all that is seen of it, beside what closed cases make of that. */
export function FromCircuit({ boards, said }: { boards: readonly BoardChoice[]; said: string }) {
  const [board, setBoard] = useState('');
  const { queries } = store();
  const key = ['circuit', board];
  const { data, error, isFetching } = useQuery(
    {
      queryKey: key,
      enabled: board !== '',
      staleTime: Infinity,
      retry: false,
      queryFn: ({ signal }) =>
        ask(`/api/patterns/circuit/${board}`, CircuitPatterns, {
          signal: AbortSignal.any([signal, AbortSignal.timeout(PATIENCE)]),
        }),
    },
    queries,
  );
  const learned = useLearned(board === '' ? undefined : board);
  const found = data?.filter(({ title }) => matchWords(title, said) > 0) ?? [];
  return (
    <Panel title="Computed from a circuit" aside="each fault of the sheet tried by itself">
      <Field id="circuit-board" label="Board sheet">
        <select
          id="circuit-board"
          value={board}
          onChange={({ target }) => {
            void queries.cancelQueries({ queryKey: key });
            setBoard(target.value);
          }}
        >
          <BoardOptions boards={boards} />
        </select>
      </Field>
      {boards.length === 0 && <Small>No sheet is here yet: import one under Boards.</Small>}
      {isFetching && (
        <Notice title="Being worked out:" live>
          every fault that the sheet can have, against all that is seen of it. A large board takes
          half a minute, once.{' '}
          <Button
            onClick={() => {
              void queries.cancelQueries({ queryKey: key });
              setBoard('');
            }}
          >
            Stop
          </Button>
        </Notice>
      )}
      {error && board !== '' && <Notice look="attention">{whyNot(error)}.</Notice>}
      {data?.length === 0 && (
        <Small>
          This sheet says nothing of what is seen of it: name observables under Boards, and they
          stand here.
        </Small>
      )}
      {data && data.length > 0 && found.length === 0 && (
        <Small>Nothing that is seen of this board is like that.</Small>
      )}
      {found.length > 0 && (
        <ul className={style.computed} aria-label="Computed patterns">
          {found.map((row) => (
            <Computed key={row.name} row={row} factors={learned?.factors ?? {}} />
          ))}
        </ul>
      )}
    </Panel>
  );
}

/** The same odds with what closed cases multiply them by. */
export function withLearned(
  suspects: CircuitPattern['suspects'],
  factors: Readonly<Record<string, number>>,
): readonly { readonly ref: string; readonly before: number; readonly now: number }[] {
  const weighed = suspects.map(({ ref, probability }) => ({
    ref,
    before: probability,
    weight: probability * (factors[ref] ?? 1),
  }));
  // What is not sent is not moved by what was learned.
  const told = suspects.reduce((sum, { probability }) => sum + probability, 0);
  const whole = weighed.reduce((sum, { weight }) => sum + weight, Math.max(0, 1 - told));
  return weighed
    .map(({ ref, before, weight }) => ({ ref, before, now: weight / whole }))
    .sort((a, b) => b.now - a.now);
}

function Computed({
  row: { title, healthy, share, suspects },
  factors,
}: {
  row: CircuitPattern;
  factors: Readonly<Record<string, number>>;
}) {
  return (
    <li>
      <h3>
        {title}: <em>{healthy === 'yes' ? 'not so' : 'so'}</em>
      </h3>
      <Small>
        {suspects.length === 0
          ? 'No single fault of this sheet does that.'
          : `${oddsWords(share)} of the faults of this sheet show it`}
      </Small>
      <ol>
        {withLearned(suspects, factors)
          .slice(0, SHOWN)
          .map(({ ref, before, now }) => (
            <li key={ref}>
              <span className="mono">{ref}</span>
              <span className={style.bar}>
                <HatchBar share={now} label={`${ref}: ${oddsWords(now)}`} />
              </span>
              <b className="mono">{oddsWords(now)}</b>
              <Small as="span">
                {oddsWords(before) === oddsWords(now)
                  ? ''
                  : `${oddsWords(before)} by the circuit alone`}
              </Small>
            </li>
          ))}
      </ol>
    </li>
  );
}
