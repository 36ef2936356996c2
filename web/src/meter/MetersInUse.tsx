import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import type { CaseState } from '../case/use-case';
import { KIND_WORDS } from '../case/wording';
import { Instrument } from '../instruments/instrument';
import { ask, whyNot } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Rows } from '../ui/Rows';
import style from './Live.module.css';

/** Which of the workshop's instruments the readings of a case are taken with from now on. */
export function MetersInUse({ state }: { state: CaseState }) {
  const { meters } = state.journal;
  const { data, error } = useQuery(
    {
      queryKey: ['instruments'],
      queryFn: () => ask('/api/instruments', z.array(Instrument)),
      staleTime: 30_000,
    },
    store().queries,
  );
  const names = [...new Set([...meters.values()].map(({ name }) => name))];
  const inUse = names.map((own) => {
    const kinds = [...meters].flatMap(([kind, { name }]) =>
      name === own ? [KIND_WORDS[kind]] : [],
    );
    return `${own} (${kinds.join(', ')})`;
  });
  return (
    <section aria-label="Read by eye" className={style.eye}>
      <h3>Or read one by eye</h3>
      <p>
        {inUse.length === 0
          ? 'All kinds are read with the standard meter.'
          : `In use: ${inUse.join(', ')}; the rest with the standard meter.`}{' '}
        What is read from now on is weighed by it.
      </p>
      {error && <p role="alert">The instruments could not be fetched: {whyNot(error)}</p>}
      {data?.length === 0 && (
        <p>
          The workshop has none written down: <a href="/instruments">write one down</a>.
        </p>
      )}
      <Rows>
        {(data ?? []).map(({ id, name, kinds, profile }) => {
          const isUsed = kinds.every((kind) => meters.get(kind)?.name === name);
          return (
            <li key={id}>
              <span>
                <b>{name}</b> <small>{kinds.map((kind) => KIND_WORDS[kind]).join(', ')}</small>
              </span>
              <Button
                aria-pressed={isUsed}
                aria-label={isUsed ? `${name}: the standard meter again` : `Read with ${name}`}
                onClick={() =>
                  void state.append({
                    kind: 'meter',
                    name,
                    kinds: [...kinds],
                    profile: isUsed ? null : profile,
                  })
                }
              >
                {isUsed ? 'Standard again' : 'Use it'}
              </Button>
            </li>
          );
        })}
      </Rows>
    </section>
  );
}
