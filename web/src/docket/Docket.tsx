import { format } from 'date-fns/format';
import { formatDistanceStrict } from 'date-fns/formatDistanceStrict';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { STAGE_NAMES, STAGES } from '../case/progress';
import { minutesText } from '../case/wording';
import type { DocketLine, DocketTimer } from '../server/case/service';
import { Button, ButtonLink } from '../ui/Button';
import { Keys } from '../ui/Keys';
import { Masthead } from '../ui/Masthead';
import { Pad } from '../ui/Pad';
import style from './Docket.module.css';
import { batchSearch, searchTerms, searchText } from './search';

/** Lines drawn at once; more on demand, so that a docket of thousands stays at hand. */
const PAGE = 60;

/**
 * The docket: every case by urgency, what state it is in, what it waits for, what to do next, what
 * runs by itself.
 */
export function Docket({
  lines,
  now,
  find,
}: {
  lines: readonly DocketLine[];
  now: string;
  find: string;
}) {
  const [search, setSearch] = useState(find);
  const [show, setShow] = useState(PAGE);
  const box = useRef<HTMLInputElement>(null);
  // What was typed before the page came to life counts too.
  useEffect(() => {
    const early = box.current?.value;
    if (early) setSearch(early);
  }, []);
  useHotkeys('/', () => document.getElementById('docket-search')?.focus(), {
    preventDefault: true,
    useKey: true,
  });
  useHotkeys('c', () => window.location.assign('/case/new'));
  const texts = useMemo(() => lines.map(searchText), [lines]);
  const found = useMemo(() => {
    const terms = searchTerms(search);
    return lines.filter((_, i) => terms.every((term) => texts[i]!.includes(term)));
  }, [lines, texts, search]);
  const timers = useMemo(
    () =>
      lines
        .filter(({ state }) => state !== 'closed')
        .flatMap((line) => line.timers.map((timer) => ({ line, timer })))
        .sort((a, b) => Number(b.timer.due) - Number(a.timer.due)),
    [lines],
  );
  return (
    <>
      <Masthead here="docket" />
      <main className={style.page}>
        <div className={style.head}>
          <h1>Docket</h1>
          <label htmlFor="docket-search" className="visually-hidden">
            Find a case
          </label>
          <input
            id="docket-search"
            type="search"
            ref={box}
            placeholder="find by unit, owner, batch, words ( / )"
            value={search}
            onChange={(event) => {
              setSearch(event.target.value);
              setShow(PAGE);
            }}
          />
          <ButtonLink look="main" href="/case/new">
            New case
          </ButtonLink>
        </div>
        {timers.length > 0 && (
          <ul className={style.timers} aria-label="Running by itself">
            {timers.slice(0, 6).map(({ line, timer }) => (
              <li
                key={`${line.number} ${timer.title}`}
                className={timer.due ? style.due : undefined}
              >
                <a href={`/case/${line.number}/first-aid`}>
                  <b>{line.number}</b> {timer.title}: {timerWords(timer, new Date(now))}
                </a>
              </li>
            ))}
          </ul>
        )}
        {lines.length === 0 ? (
          <section className={style.empty}>
            <h2>The bench is clear</h2>
            <p>
              Open a case when a unit comes in: a title such as “CR-40, no movement”, the unit, and
              what its owner says. Then import the sheet of its board under{' '}
              <a href="/boards">Boards</a>, or do it from the case.
            </p>
          </section>
        ) : (
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
              {found.slice(0, show).map((line) => (
                <Line
                  key={line.number}
                  line={line}
                  now={new Date(now)}
                  onBatch={(batch) => setSearch(batchSearch(batch))}
                />
              ))}
            </tbody>
          </table>
        )}
        {found.length > show && (
          <p className={style.more}>
            <Button onClick={() => setShow(show + 5 * PAGE)}>
              Show more: {found.length - show} are left
            </Button>
          </p>
        )}
        {lines.length > 0 && found.length === 0 && (
          <p>No case has all of these words. {lines.length} cases are hidden by the search.</p>
        )}
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

function timerWords({ endsAt, due, hours, daylightHours }: DocketTimer, now: Date): string {
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
  const { progress, promisedOn, urgency, batch } = line;
  const late =
    line.state !== 'closed' && promisedOn !== null && promisedOn < now.toISOString().slice(0, 10);
  return (
    <tr className={line.state === 'closed' ? style.closed : undefined}>
      <th scope="row">
        <a href={`/case/${line.number}/${progress.nextStage}`}>
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
        {line.state === 'waiting' ? `waiting, then ${progress.nextAction}` : progress.nextAction}
        {line.pausedAt && line.state !== 'closed' && <small>left off: {line.pausedAt}</small>}
      </td>
      <td>
        {line.state === 'closed' ? '' : line.waitsFor || 'nothing'}
        {line.state === 'waiting' && line.waitsKind && <small>{WAITS[line.waitsKind]}</small>}
      </td>
      <td className={late ? style.late : undefined}>
        {promisedOn && (
          <span className={style.date}>{format(new Date(promisedOn), 'd MMM yyyy')}</span>
        )}
        {line.state !== 'closed' && <small>{urgency.reason}</small>}
      </td>
      <td>
        <span className={style.date}>{formatDistanceStrict(new Date(line.openedAt), now)}</span>
        <small>{minutesText(line.minutes)}</small>
      </td>
      <td>
        <span className={style.pads}>
          {STAGES.map((stage) => (
            <span key={stage} title={STAGE_NAMES[stage]}>
              <Pad state={progress.pads[stage]} size={15} />
            </span>
          ))}
        </span>
      </td>
    </tr>
  );
}
