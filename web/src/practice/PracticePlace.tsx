import { useQuery, QueryClientProvider } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { indexBoard, nameKey } from '@hanzai/core/board';
import { HelpGiven, LEVELS, SKILLS, type Level } from '@hanzai/core/training';
import { v7 } from 'uuid';
import { Band } from '../case/Band';
import { minutesText, percent } from '../case/wording';
import { whyNot } from '../store/answers';
import { boardChoicesQuery, caseQuery, fetchBoard } from '../store/case-query';
import { store } from '../store/store';
import { Button, ButtonLink } from '../ui/Button';
import { OneOf } from '../ui/Choices';
import { Field } from '../ui/Field';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import { TextField } from '../ui/TextField';
import { openPracticeBench } from './bench';
import { closedSource } from './closed-case';
import { Courses } from './Courses';
import { propose, statesOf, wentWell, type Proposed } from './propose';
import type { PracticeRun } from './run';
import { practiceHome } from './use-practice-case';
import { useRuns, type Runs } from './use-runs';
import style from './Practice.module.css';

/** What the tour hides. */
const TOUR_SEED = 1;

const HELP_WORDS: Readonly<Record<HelpGiven, string>> = {
  priced: 'a colleague, at his price in minutes',
  none: 'nobody',
  all: 'line-up and proposals, as in a case',
};

/** What is begun: a board with a seed and a level. */
export type Begin = Pick<PracticeRun, 'board' | 'seed' | 'level' | 'help' | 'course' | 'closed'> & {
  readonly within?: string;
  readonly tour?: boolean;
};

export function PracticePlace({ search }: { search: string }) {
  return (
    <QueryClientProvider client={store().queries}>
      <div className={style.frame}>
        <Band here="practice" />
        <Place>
          <Practice search={search} />
        </Place>
      </div>
    </QueryClientProvider>
  );
}

function Practice({ search }: { search: string }) {
  const runs = useRuns();
  const [refusal, setRefusal] = useState<string>();
  const begin = async (what: Begin): Promise<void> => {
    const run: PracticeRun = {
      tour: false,
      within: '',
      ...what,
      id: v7(),
      startedAt: new Date().toISOString(),
      actions: [],
      entries: [],
    };
    try {
      await runs.begin(run);
      window.location.assign(`${practiceHome(run.id)}/trace`);
    } catch (error) {
      setRefusal(whyNot(error));
    }
  };
  const query = new URLSearchParams(search);
  const ofCase = Number(query.get('case') ?? Number.NaN);
  const { runs: all = [] } = runs;
  const open = all.filter(({ result }) => !result);
  const done = all.filter(({ result }) => result);
  return (
    <div className={style.page}>
      <header className={style.whole}>
        <h1>Practice</h1>
        <p>
          A fault is hidden on a board that is computed: no real unit, nothing that can hurt, and
          nothing of it reaches cases, patterns or stock. What you learn here meets mains and lasers
          later: follow local codes; mains and laser work only if you are qualified.
        </p>
        {(refusal ?? runs.failure) && (
          <Notice look="attention" live>
            {refusal ?? runs.failure}
          </Notice>
        )}
      </header>
      {ofCase > 0 && <OfCase number={ofCase} onBegin={begin} />}
      <NewExercise query={query} runs={runs} onBegin={begin} onRefused={setRefusal} />
      <div className={style.debrief}>
        {runs.runs?.length === 0 && <HowItGoes />}
        {open.length > 0 && (
          <Panel title="Go on">
            <ul className={style.list}>
              {open.map((run) => (
                <li key={run.id} className={style.line}>
                  <a href={`${practiceHome(run.id)}/trace`}>
                    {run.closed ? `as in case ${run.closed.number}` : run.board.title}, level{' '}
                    {run.level}, {run.actions.length} moves
                  </a>
                  <Button look="quiet" onClick={() => void runs.remove(run.id)}>
                    Throw away
                  </Button>
                </li>
              ))}
            </ul>
          </Panel>
        )}
        <Skills runs={done} />
        {done.length > 0 && (
          <Panel title="Done" aside={`${done.filter(wentWell).length} of ${done.length} went well`}>
            <ul className={style.list}>
              {done.slice(0, 12).map((run) => (
                <li key={run.id} className={style.line}>
                  <a href={`${practiceHome(run.id)}/debrief`}>
                    {run.closed ? `as in case ${run.closed.number}` : run.board.title}, level{' '}
                    {run.level}
                  </a>
                  <small>
                    {run.result!.solved ? 'sound' : 'not sound'}, {minutesText(run.result!.minutes)}
                    {run.result!.bestMinutes !== null &&
                      ` of ${minutesText(run.result!.bestMinutes)}`}
                  </small>
                </li>
              ))}
            </ul>
          </Panel>
        )}
      </div>
      <Courses runs={runs} onBegin={begin} />
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'begin'],
          ['?', 'these keys'],
        ]}
      />
    </div>
  );
}

/** What stands there before the first exercise. */
function HowItGoes() {
  return (
    <Panel title="How an exercise goes">
      <ol>
        <li>
          Type a point in the reading line of Trace (<code>vm</code>, <code>c6</code>,{' '}
          <code>p5 p9f ohms</code>) and press Enter: the meter shows what is there, with its noise.
        </li>
        <li>Each reading, each change of power and each part costs what it costs at a bench.</li>
        <li>
          Name who is guilty (<code>condemn c3</code>), take it off and put one on in Repair (
          <code>c3 off</code>, <code>c3 on same</code>), and measure again.
        </li>
        <li>
          What is done carelessly has its price: power into a short blows the fuse, a part pulled
          for nothing may take a pad with it, a hazard passed by is counted.
        </li>
        <li>
          “Done” tells what it was, move by move, beside the way that the planner would have gone.
        </li>
      </ol>
    </Panel>
  );
}

function OfCase({ number, onBegin }: { number: number; onBegin: (what: Begin) => Promise<void> }) {
  const { data, error } = useQuery(caseQuery(store().queries, number));
  const source = data && closedSource(data);
  return (
    <div className={style.whole}>
      <Panel title={`As in case ${number}`} framed>
        {!data && !error && <p role="status">The case is being fetched …</p>}
        {error && <Notice look="attention">{whyNot(error)}</Notice>}
        {typeof source === 'string' && (
          <Notice look="attention" title="No exercise:">
            {source}.
          </Notice>
        )}
        {source && typeof source !== 'string' && (
          <>
            <p>
              {data.title}. The meter shows what was really read ({source.readings.length}{' '}
              {source.readings.length === 1 ? 'reading' : 'readings'}), and elsewhere what the
              circuit gives.
            </p>
            <p className={style.row}>
              <Button
                look="main"
                onClick={() =>
                  void onBegin({
                    board: data.board!.content,
                    seed: number,
                    level: 2,
                    help: 'priced',
                    course: '',
                    closed: source,
                  })
                }
              >
                Go through it once more
              </Button>
            </p>
          </>
        )}
      </Panel>
    </div>
  );
}

function NewExercise({
  query,
  runs,
  onBegin,
  onRefused,
}: {
  query: URLSearchParams;
  runs: Runs;
  onBegin: (what: Begin) => Promise<void>;
  onRefused: (why: string | undefined) => void;
}) {
  const { data: boards, error } = useQuery(boardChoicesQuery);
  const [board, setBoard] = useState('');
  const [level, setLevel] = useState<Level>(levelOf(query.get('level')) ?? 1);
  const [help, setHelp] = useState<HelpGiven>('priced');
  const [seed, setSeed] = useState(query.get('seed') ?? '');
  const [within, setWithin] = useState(query.get('within') ?? '');
  const [wrong, setWrong] = useState<string>();
  const [looking, setLooking] = useState(false);
  const wanted = query.get('board');
  useEffect(() => {
    const [first] = boards ?? [];
    const named = boards?.find(({ title }) => title === wanted) ?? first;
    if (named) setBoard((now) => now || named.id);
  }, [boards, wanted]);
  const proposed = propose(runs.runs ?? [], Date.now());

  async function begin(
    own: number,
    more: { readonly level?: Level; readonly tour?: boolean } = {},
  ): Promise<void> {
    onRefused(undefined);
    try {
      const content = await fetchBoard(board);
      const around = more.tour ? '' : within.trim();
      const index = indexBoard(content);
      const isThere =
        around === '' ||
        index.netByKey.has(nameKey(around)) ||
        content.parts.some(({ section }) => section && nameKey(section) === nameKey(around));
      if (!isThere) return onRefused(`No net and no section of this board is called ${around}.`);
      await onBegin({
        board: content,
        seed: own,
        level,
        help,
        course: '',
        within: around,
        ...more,
      });
    } catch (failed) {
      onRefused(whyNot(failed));
    }
  }
  async function follow(next: Proposed): Promise<void> {
    if (next.what === 'repeat') {
      const { board: own, seed: drawn, level: of, within: around, help: asked, closed } = next.run;
      return onBegin({
        board: own,
        seed: drawn,
        level: of,
        help: asked,
        course: '',
        within: around,
        ...(closed ? { closed } : {}),
      });
    }
    setLooking(true);
    onRefused(undefined);
    const bench = openPracticeBench(onRefused);
    try {
      const content = await fetchBoard(board);
      const found = await bench.door.find(content, level, next.skill, randomSeed());
      if (found === undefined)
        onRefused(
          `On this board nothing of ${SKILLS[next.skill].toLowerCase()} was found at level ${level}: choose another board.`,
        );
      else await onBegin({ board: content, seed: found, level, help, course: '' });
    } catch (failed) {
      onRefused(whyNot(failed));
    } finally {
      bench.close();
      setLooking(false);
    }
  }

  return (
    <Panel title="A new exercise" framed>
      <form
        className={style.form}
        onSubmit={(event) => {
          event.preventDefault();
          const number = seed.trim() === '' ? randomSeed() : Number(seed);
          if (!Number.isInteger(number) || number < 1 || number > 50_000_000)
            return setWrong('a whole number from 1 to 50000000, or nothing');
          setWrong(undefined);
          void begin(number);
        }}
      >
        {error && <Notice look="attention">{whyNot(error)}</Notice>}
        {boards?.length === 0 ? (
          <Notice>
            There is no board sheet yet. <a href="/boards">Boards</a> has an example to import.
          </Notice>
        ) : (
          <Field id="practice-board" label="Board">
            <select
              id="practice-board"
              value={board}
              onChange={({ target }) => setBoard(target.value)}
            >
              {boards?.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
            </select>
          </Field>
        )}
        <OneOf
          name="practice-level"
          legend="What is hidden"
          choices={LEVELS.map(({ level: of, words }) => ({
            value: String(of),
            words: `${of}: ${words}`,
          }))}
          value={String(level)}
          onChange={(next) => setLevel(levelOf(next) ?? 1)}
        />
        <OneOf
          name="practice-help"
          legend="Who may be asked"
          choices={HelpGiven.options.map((key) => ({
            value: key,
            words: HELP_WORDS[key],
          }))}
          value={help}
          onChange={setHelp}
        />
        <TextField
          id="practice-within"
          label="Only around"
          hint="a net or a section, such as V12; left empty, anywhere"
          className="mono"
          value={within}
          onChange={({ target }) => setWithin(target.value)}
        />
        <TextField
          id="practice-seed"
          label="Drawn from"
          hint="the same number hides the same fault again; left empty, any"
          inputMode="numeric"
          value={seed}
          error={wrong}
          onChange={({ target }) => setSeed(target.value)}
        />
        <p className={style.row}>
          <Button look="main" type="submit" disabled={board === ''}>
            Begin
          </Button>
        </p>
      </form>
      <p className={style.row}>
        <span>{proposed.words}</span>
        <Button disabled={board === '' || looking} onClick={() => void follow(proposed)}>
          {looking
            ? 'looking for one …'
            : proposed.what === 'repeat'
              ? 'Once more'
              : `Practise ${SKILLS[proposed.skill].toLowerCase()}`}
        </Button>
        <Button
          look="quiet"
          disabled={board === ''}
          onClick={() => void begin(TOUR_SEED, { level: 1, tour: true })}
        >
          A tour of five minutes
        </Button>
        <ButtonLink look="quiet" href="/guide">
          How a repair goes
        </ButtonLink>
      </p>
    </Panel>
  );
}

const randomSeed = (): number => 1 + Math.floor(Math.random() * 1_000_000);

function levelOf(text: string | null): Level | undefined {
  return LEVELS.find(({ level }) => String(level) === text)?.level;
}

function Skills({ runs }: { runs: readonly PracticeRun[] }) {
  const states = statesOf(runs).filter(({ tried }) => tried > 0);
  if (states.length === 0) return null;
  return (
    <Panel title="What is there" aside="where the share lies, 19 times in 20">
      <dl className={style.skills}>
        {states.map(({ skill, tried, done, interval: { low, high } }) => (
          <Skill key={skill} title={SKILLS[skill]} {...{ tried, done, low, high }} />
        ))}
      </dl>
    </Panel>
  );
}

function Skill({
  title,
  tried,
  done,
  low,
  high,
}: {
  title: string;
  tried: number;
  done: number;
  low: number;
  high: number;
}) {
  return (
    <>
      <dt>{title}</dt>
      <dd>
        {done} of {tried}
      </dd>
      <dd>
        <svg
          width="100%"
          height="16"
          role="img"
          aria-label={`between ${percent(low)} and ${percent(high)}`}
        >
          <line x1="0" x2="100%" y1="8" y2="8" stroke="var(--rule)" />
          <rect
            x={`${100 * low}%`}
            width={`${100 * Math.max(high - low, 0.01)}%`}
            y="3"
            height="10"
            fill="none"
            stroke="var(--hatch)"
            strokeWidth="2"
          />
        </svg>
      </dd>
    </>
  );
}
