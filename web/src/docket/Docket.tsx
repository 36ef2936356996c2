import { format } from 'date-fns/format';
import { formatDistanceStrict } from 'date-fns/formatDistanceStrict';
import { useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { STAGE_NAMES, STAGES } from '../case/progress';
import type { DocketLine } from '../server/case/service';
import { ButtonLink } from '../ui/Button';
import { Keys } from '../ui/Keys';
import { Masthead } from '../ui/Masthead';
import { Pad } from '../ui/Pad';
import style from './Docket.module.css';

/** The docket: every case, what state it is in, what it waits for, what to do next. */
export function Docket({ lines, now }: { lines: readonly DocketLine[]; now: string }) {
  const [search, setSearch] = useState('');
  const box = useRef<HTMLInputElement>(null);
  // What was typed before the page came to life counts too.
  useEffect(() => {
    const early = box.current?.value;
    if (early) setSearch(early);
  }, []);
  useHotkeys('/', () => document.getElementById('docket-search')?.focus(), { preventDefault: true, useKey: true });
  useHotkeys('c', () => window.location.assign('/case/new'));
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = lines.filter((line) =>
    words.every((word) => `${line.number} ${line.title} ${line.unitModel} ${line.owner} ${line.waitsFor} ${line.state}`.toLowerCase().includes(word)),
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
            placeholder="find by unit, owner, words ( / )"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <ButtonLink look="main" href="/case/new">
            New case
          </ButtonLink>
        </div>
        {lines.length === 0 ? (
          <section className={style.empty}>
            <h2>The bench is clear</h2>
            <p>
              Open a case when a unit comes in: a title such as “CR-40, no movement”, the unit, and what its owner says. Then import the sheet of its board
              under <a href="/boards">Boards</a>, or do it from the case.
            </p>
          </section>
        ) : (
          <table className={style.table}>
            <thead>
              <tr>
                <th scope="col">case</th>
                <th scope="col">next action</th>
                <th scope="col">waits for</th>
                <th scope="col">promised</th>
                <th scope="col">age</th>
                <th scope="col">track</th>
              </tr>
            </thead>
            <tbody>
              {found.map((line) => (
                <Line key={line.number} line={line} now={new Date(now)} />
              ))}
            </tbody>
          </table>
        )}
        {lines.length > 0 && found.length === 0 && <p>No case has all of these words. {lines.length} cases are hidden by the search.</p>}
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

function Line({ line, now }: { line: DocketLine; now: Date }) {
  const { progress, promisedOn } = line;
  const late = line.state !== 'closed' && promisedOn !== null && promisedOn < now.toISOString().slice(0, 10);
  return (
    <tr className={line.state === 'closed' ? style.closed : undefined}>
      <th scope="row">
        <a href={`/case/${line.number}/${progress.nextStage}`}>
          <span className={style.number}>{line.number}</span>
          <span className={style.name}>{line.title}</span>
        </a>
        <small>{line.owner}</small>
      </th>
      <td>{line.state === 'waiting' ? `waiting, then ${progress.nextAction}` : progress.nextAction}</td>
      <td>{line.state === 'closed' ? '' : line.waitsFor || 'nothing'}</td>
      <td className={late ? style.late : undefined}>
        {promisedOn && format(new Date(promisedOn), 'd MMM yyyy')}
        {late && ', late'}
      </td>
      <td>{formatDistanceStrict(new Date(line.openedAt), now)}</td>
      <td>
        <span className={style.pads}>
          {STAGES.map((stage) => (
            <span key={stage} title={STAGE_NAMES[stage]}>
              <Pad state={progress.pads[stage]} size={20} />
            </span>
          ))}
        </span>
      </td>
    </tr>
  );
}
