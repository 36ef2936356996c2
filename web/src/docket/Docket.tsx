import { format } from 'date-fns/format';
import { formatDistanceStrict } from 'date-fns/formatDistanceStrict';
import { parseISO } from 'date-fns/parseISO';
import { keepPreviousData, useQuery, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { stageTitle, STAGES } from '../case/stages';
import { minutesText } from '../case/wording';
import { ask, whyNot } from '../store/answers';
import { store } from '../store/store';
import { DocketPage, type DocketLine, type RunningTimer } from './docket-line';
import { Band } from '../case/Band';
import { Button, ButtonLink } from '../ui/Button';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { PadCopy, PadDrawings } from '../ui/Pad';
import style from './Docket.module.css';
import { batchSearch, batchSearched } from './search';

/** Lines fetched at first, and how many more at a press. */
const PAGE = 60;
const MORE = 200;
/** More at once is no list that anybody reads. */
const MOST = 500;
/** How long typing has to rest before it is looked for, milliseconds. */
const REST_MILLISECONDS = 150;

/**
 * The docket: every case by urgency, what state it is in, what it waits for, what to do next, what
 * runs by itself.
 */
export function Docket({ page, find }: { page: DocketPage; find: string }) {
  const [queries, setQueries] = useState<QueryClient>();
  // The store of a page opens connections: not before the page has come to life.
  useEffect(() => setQueries(store().queries), []);
  return queries ? (
    <LiveDocket first={page} find={find} queries={queries} />
  ) : (
    <DocketSheet page={page} search={find} onSearch={() => undefined} onMore={undefined} />
  );
}

function LiveDocket({
  first,
  find,
  queries,
}: {
  first: DocketPage;
  find: string;
  queries: QueryClient;
}) {
  // What was typed before the page came to life counts too.
  const [search, setSearch] = useState(
    () => document.querySelector<HTMLInputElement>('#docket-search')?.value || find,
  );
  const [most, setMost] = useState(PAGE);
  const rested = useRested(search, REST_MILLISECONDS);
  const { data = first, error } = useQuery(
    {
      queryKey: ['docket', rested, most],
      queryFn: () => ask(`/api/cases?find=${encodeURIComponent(rested)}&most=${most}`, DocketPage),
      placeholderData: keepPreviousData,
      ...(rested === find && most === PAGE ? { initialData: first } : {}),
    },
    queries,
  );
  useHotkeys('/', () => document.getElementById('docket-search')?.focus(), {
    preventDefault: true,
    useKey: true,
  });
  useHotkeys('c', () => window.location.assign('/case/new'));
  return (
    <DocketSheet
      page={data}
      search={search}
      failure={error ? whyNot(error) : undefined}
      onSearch={(text) => {
        setSearch(text);
        setMost(PAGE);
      }}
      onMore={most < MOST ? () => setMost(Math.min(MOST, most + MORE)) : undefined}
    />
  );
}

/** A value once it has not changed for a while. */
function useRested<T>(value: T, milliseconds: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return rested;
}

function DocketSheet({
  page: { lines, found, total, timers, now },
  search,
  failure,
  onSearch,
  onMore,
}: {
  page: DocketPage;
  search: string;
  failure?: string | undefined;
  onSearch: (text: string) => void;
  onMore: (() => void) | undefined;
}) {
  const batch = batchSearched(search);
  return (
    <>
      <Band here="docket" />
      <main className={style.page}>
        <div className={style.head}>
          <h1>Docket</h1>
          <label htmlFor="docket-search" className="visually-hidden">
            Find a case
          </label>
          <input
            id="docket-search"
            type="search"
            placeholder="find by unit, owner, batch, words ( / )"
            value={search}
            maxLength={300}
            onChange={(event) => onSearch(event.target.value)}
          />
          <ButtonLink look="main" href="/case/new">
            New case
          </ButtonLink>
        </div>
        {batch !== undefined && (
          <p>
            <ButtonLink href={`/batch?name=${encodeURIComponent(batch)}`}>
              Delivery note of {batch}
            </ButtonLink>
          </p>
        )}
        {timers.length > 0 && (
          <ul className={style.timers} aria-label="Running by itself">
            {timers.map((timer) => (
              <li
                key={`${timer.number} ${timer.title}`}
                className={timer.due ? style.due : undefined}
              >
                <a href={`/case/${timer.number}/first-aid`}>
                  <b>{timer.number}</b> {timer.title}: {timerWords(timer, new Date(now))}
                </a>
              </li>
            ))}
          </ul>
        )}
        {failure && (
          <Notice look="attention" live>
            {failure}
          </Notice>
        )}
        {total === 0 ? (
          <section className={style.empty}>
            <h2>The bench is clear</h2>
            <p>
              Open a case when a unit comes in: a title such as “CR-40, no movement”, the unit, and
              what its owner says. Then import the sheet of its board under{' '}
              <a href="/boards">Boards</a>, or do it from the case. The <a href="/guide">guide</a>{' '}
              goes through a first repair in fifteen minutes.
            </p>
          </section>
        ) : (
          <>
            <PadDrawings />
            <table className={style.table}>
              <thead>
                <tr>
                  <th scope="col">case, by urgency</th>
                  <th scope="col">next action</th>
                  <th scope="col">waits for</th>
                  <th scope="col">promised</th>
                  <th scope="col">age, booked</th>
                  <th scope="col">track</th>
                </tr>
              </thead>
              <tbody>
                {lines.map((line) => (
                  <Line
                    key={line.number}
                    line={line}
                    now={new Date(now)}
                    onBatch={(batch) => onSearch(batchSearch(batch))}
                  />
                ))}
              </tbody>
            </table>
          </>
        )}
        {found > lines.length && (
          <p className={style.more}>
            {onMore ? (
              <Button onClick={onMore}>Show more: {found - lines.length} are left</Button>
            ) : (
              `${found - lines.length} more: find them by their words.`
            )}
          </p>
        )}
        {total > 0 && found === 0 && (
          <p>
            No case has all of these words. {total === 1 ? 'One case is' : `${total} cases are`}{' '}
            hidden by the search.
          </p>
        )}
        <p className={style.workshop}>
          <a href="/workshop">Backups of the workshop</a> <a href="/people">People</a>
        </p>
      </main>
      <Keys
        keys={[
          ['/', 'find a case'],
          ['C', 'new case'],
          ['Tab, Enter', 'to a case and into it'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}

function timerWords({ endsAt, due, hours, daylightHours }: RunningTimer, now: Date): string {
  if (endsAt === null)
    return due
      ? `due, ${daylightHours} h of daylight`
      : `${daylightHours} of ${hours} h of daylight`;
  return due
    ? `due since ${formatDistanceStrict(new Date(endsAt), now)}`
    : `${formatDistanceStrict(now, new Date(endsAt))} left`;
}

const WAITS: Readonly<Record<string, string>> = {
  part: 'part',
  owner: 'owner’s word',
  timer: 'timer',
};

function Line({
  line,
  now,
  onBatch,
}: {
  line: DocketLine;
  now: Date;
  onBatch: (batch: string) => void;
}) {
  const { promisedOn, batch, late } = line;
  return (
    <tr className={line.state === 'closed' ? style.closed : undefined}>
      <th scope="row">
        <a href={`/case/${line.number}/${line.nextStage}`}>
          <span className={style.number}>{line.number}</span>
          <span className={style.name}>{line.title}</span>
        </a>
        <small>
          {line.owner}
          {batch && (
            <>
              {' · '}
              <button
                type="button"
                className={style.batch}
                onClick={() => onBatch(batch)}
                title="Show this batch"
              >
                batch: {batch}
              </button>
            </>
          )}
        </small>
      </th>
      <td>
        {line.state === 'waiting' ? `waiting, then ${line.nextAction}` : line.nextAction}
        {line.pausedAt && line.state !== 'closed' && <small>left off: {line.pausedAt}</small>}
      </td>
      <td>
        {line.state === 'closed' ? '' : line.waitsFor || 'nothing'}
        {line.state === 'waiting' && line.waitsKind && <small>{WAITS[line.waitsKind]}</small>}
        {line.state === 'open' && line.arrived && <small>here: {line.arrived}</small>}
      </td>
      <td className={late ? style.late : undefined}>
        {promisedOn && (
          <span className={style.date}>{format(parseISO(promisedOn), 'd MMM yyyy')}</span>
        )}
        {line.reason !== 'closed' && <small>{line.reason}</small>}
      </td>
      <td>
        <span className={style.date}>{formatDistanceStrict(new Date(line.openedAt), now)}</span>
        <small>{minutesText(line.minutes)}</small>
      </td>
      <td>
        <span className={style.pads}>
          {STAGES.map((stage) => (
            <span key={stage} title={stageTitle(stage)}>
              <PadCopy state={line.pads[stage] ?? 'hollow'} size={15} />
            </span>
          ))}
        </span>
      </td>
    </tr>
  );
}
