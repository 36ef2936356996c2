import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useEffect, useState } from 'react';
import { oddsWords } from '../case/wording';
import { findPatterns } from '../patterns/find';
import { PatternsAnswer } from '../patterns/patterns';
import { ask } from '../store/answers';
import { store } from '../store/store';
import { Panel } from '../ui/Panel';
import { Rows } from '../ui/Rows';
import { Small } from '../ui/Words';
import { DocketPage } from './docket-line';

/** Patterns worth a line beside a new case. */
const SHOWN = 3;
/** A serial number shorter than this is in every other title. */
const LEAST_SERIAL = 3;
const FRESH_MILLISECONDS = 60_000;

interface Said {
  readonly serial: string;
  readonly said: string;
  readonly unitType: string;
}

/** What is known before a case is opened: earlier cases of the same unit, and what it looks like. */
export function KnownBefore(said: Said) {
  const [alive, setAlive] = useState(false);
  // The store of a page opens connections: not before the page has come to life.
  useEffect(() => setAlive(true), []);
  return alive ? <Known {...said} /> : null;
}

function Known({ serial, said, unitType }: Said) {
  const { queries } = store();
  const looked = useDeferredValue(serial.trim());
  const { data: page } = useQuery(
    {
      queryKey: ['docket', 'serial', looked],
      enabled: looked.length >= LEAST_SERIAL,
      staleTime: FRESH_MILLISECONDS,
      queryFn: () =>
        ask(
          `/api/cases?find=${encodeURIComponent(`"${looked.replaceAll('"', ' ')}"`)}&most=10`,
          DocketPage,
        ),
    },
    queries,
  );
  const { data: known } = useQuery(
    {
      queryKey: ['patterns'],
      staleTime: FRESH_MILLISECONDS,
      queryFn: () => ask('/api/patterns', PatternsAnswer),
    },
    queries,
  );
  const words = said.trim();
  const patterns =
    known && words !== ''
      ? findPatterns(known, words)
          .filter(({ unit }) => unitType === '' || unit === unitType)
          .slice(0, SHOWN)
      : [];
  const earlier = looked.length >= LEAST_SERIAL ? (page?.lines ?? []) : [];
  if (earlier.length === 0 && patterns.length === 0) return null;
  return (
    <Panel title="Known before">
      <Rows>
        {earlier.map(({ number, title, state }) => (
          <li key={number}>
            <span>
              <a href={`/case/${number}/hand-back`}>case {number}</a> {title}{' '}
              <Small as="span">{state === 'closed' ? 'closed: it came back' : state}</Small>
            </span>
          </li>
        ))}
        {patterns.map(({ unit, name, seen, suspects, cases }) => (
          <li key={`${unit} ${name}`}>
            <span>
              <a href={`/patterns?find=${encodeURIComponent(seen)}`}>{seen}</a>{' '}
              <Small as="span">
                {suspects
                  .slice(0, 3)
                  .map(({ title, share }) => `${title} ${oddsWords(share)}`)
                  .join(', ')}
                {cases.length > 0 && `; ${cases.length} cases here`}
              </Small>
            </span>
          </li>
        ))}
      </Rows>
    </Panel>
  );
}
