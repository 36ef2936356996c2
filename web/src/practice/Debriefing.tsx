import { proxy } from 'comlink';
import { useEffect, useState } from 'react';
import type { Debrief, ExerciseResult, Tried } from '@hanzai/core/training';
import { Band } from '../case/Band';
import { PracticeBar } from '../case/PracticeBar';
import type { CaseState } from '../case/use-case';
import { faultWords, minutesText, percent, placeText } from '../case/wording';
import { Button, ButtonLink } from '../ui/Button';
import { ColumnTable } from '../ui/ColumnTable';
import { HatchBar } from '../ui/HatchBar';
import { Fold } from '../ui/Fold';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import type { PracticeBench } from './bench';
import { habitWords, noticedWords, worthWords } from './debrief-words';
import { isTidy } from './practice-case';
import type { PracticeRun } from './run';
import style from './Practice.module.css';

/** What was done beside what could have been: worked out once the trainee says that it is over. */
export function Debriefing({
  run,
  state,
  bench,
  isKept,
  onChange,
}: {
  run: PracticeRun;
  state: CaseState;
  bench: PracticeBench | undefined;
  isKept: boolean;
  onChange: (how: (run: PracticeRun) => PracticeRun) => void;
}) {
  const { said } = run;
  const [far, setFar] = useState('');
  const [failure, setFailure] = useState<string>();
  const [over, setOver] = useState(run.result !== undefined);
  const { practice, index, home } = state;
  useEffect(() => {
    if (!over || !bench || said) return;
    bench.door.debrief(isTidy(run.entries, index), proxy(setFar)).then(
      ({ debrief, tried }) =>
        // What was finished once stays as it was finished.
        onChange((was) => ({
          ...was,
          said: debrief,
          result: was.result ?? resultOf(was, debrief, tried),
        })),
      (error: unknown) => setFailure(String((error as Error).message ?? error)),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when it is over
  }, [over, bench]);

  return (
    <div className={style.frame}>
      <Band here="practice" />
      {practice && <PracticeBar practice={practice} home={home} />}
      <Place>
        <div className={style.debrief}>
          <h1>How it was</h1>
          {!isKept && (
            <Notice look="attention">
              This browser keeps nothing: what is shown is gone with the page.
            </Notice>
          )}
          {!over && (
            <Panel title="Is it done?" framed>
              <p>
                The debrief tells what was hidden. Say first that you hold it for sound, or that you
                give it up; there is no way back.
              </p>
              <p className={style.row}>
                <Button look="main" disabled={!bench} onClick={() => setOver(true)}>
                  It is done
                </Button>
                <ButtonLink href={`${home}/trace`}>Go on measuring</ButtonLink>
              </p>
            </Panel>
          )}
          {over && !said && !failure && (
            <div className={style.row}>
              <p role="status">
                What could have been is being worked out{far && `: ${far}`} … On a board of hundreds
                of parts that takes minutes.
              </p>
              <Button onClick={() => void bench?.door.withoutWay()}>
                Leave the planner’s way out
              </Button>
            </div>
          )}
          {failure && (
            <Notice look="attention" title="Not worked out:" live>
              {failure}
            </Notice>
          )}
          {said && <Told said={said} state={state} run={run} />}
        </div>
      </Place>
    </div>
  );
}

function resultOf(
  { board, seed, level, help }: PracticeRun,
  said: Debrief,
  tried: readonly Tried[],
): ExerciseResult {
  return {
    board: board.title.slice(0, 200),
    seed,
    level,
    help,
    finishedAt: new Date().toISOString(),
    solved: said.solved,
    minutes: said.minutes,
    bestMinutes: said.best?.minutes ?? null,
    score: { ...said.score, cost: said.score.cost ?? null },
    tried: [...tried],
  };
}

function Told({ said, state, run }: { said: Debrief; state: CaseState; run: PracticeRun }) {
  const { index } = state;
  const truth = said.truth.map((name) => {
    const place = name.slice(0, name.lastIndexOf(':'));
    return place.includes('~') ? placeText(index, place) : faultWords(name);
  });
  const habits = habitWords(said);
  return (
    <>
      <Notice
        look={said.solved ? 'good' : 'attention'}
        title={said.solved ? 'It is sound.' : 'It is not sound.'}
      >
        It was {truth.join('; ')}.
      </Notice>
      <div className={style.scores}>
        <Score
          title="Minutes"
          share={said.score.cost}
          words={
            said.best
              ? `${minutesText(said.minutes)}; the planner took ${minutesText(said.best.minutes)}`
              : `${minutesText(said.minutes)}; the planner’s way is not known`
          }
        />
        <Score
          title="Safety"
          share={said.score.safety}
          words={said.score.safety === 1 ? 'nothing was harmed or passed by' : 'see below what was'}
        />
        <Score
          title="The right parts"
          share={said.score.attribution}
          words={partsWords(run, said)}
        />
      </div>
      <p>{noticedWords(said)}</p>
      {(said.wrong.length > 0 || habits.length > 0) && (
        <Panel title="What went wrong">
          <ul>
            {[...said.wrong, ...habits].map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </Panel>
      )}
      {said.notes.length > 0 && (
        <Panel title="What was special about it">
          <ul>
            {said.notes.map((words) => (
              <li key={words}>{words}.</li>
            ))}
          </ul>
        </Panel>
      )}
      <Panel title="Move by move">
        {said.moves.length === 0 ? (
          <p>Nothing was done.</p>
        ) : (
          <ColumnTable
            rows={said.moves.map((move, i) => ({ ...move, n: i + 1 }))}
            keyOf={({ n }) => String(n)}
            columns={[
              { name: 'Move', cell: ({ n, words }) => `${n}. ${words}` },
              { name: 'Took', cell: ({ minutes }) => minutesText(minutes), mono: true },
              { name: 'Told', cell: (move) => worthWords(move) },
              {
                name: 'Better then',
                cell: ({ better, worthBits }) =>
                  better && worthBits !== undefined ? better.words : '',
              },
              {
                name: 'Belief in what was bad',
                cell: ({ belief }) =>
                  belief === undefined ? (
                    ''
                  ) : (
                    <span className={style.belief}>
                      <HatchBar share={belief} label={percent(belief)} /> {percent(belief)}
                    </span>
                  ),
              },
            ]}
          />
        )}
        <Fold>
          <summary>Why: in bits</summary>
          <ol>
            {said.moves.map(({ words, worthBits, better }, i) => (
              <li key={i}>
                {words}
                {worthBits !== undefined && `: ${worthBits.toFixed(3)} bit`}
                {better &&
                  worthBits !== undefined &&
                  `; ${better.words}: ${better.bits.toFixed(3)}`}
              </li>
            ))}
          </ol>
        </Fold>
      </Panel>
      {said.optimum && (
        <Panel
          title="The best order there can be"
          aside={`${minutesText(said.optimum.minutes)} until it is known`}
        >
          <ol>
            {said.optimum.words.map((words, i) => (
              <li key={i}>{words}</li>
            ))}
          </ol>
          <p className={style.soft}>
            Worked out over every set of the {said.optimum.kinds} kinds of fault that could have
            been hidden here and that readings tell plainly apart:{' '}
            {minutesText(said.optimum.meanMinutes)} on average of all of them. It knows that only
            one of those is there, and replaces nothing.
          </p>
        </Panel>
      )}
      {said.best && (
        <Panel title="The planner's way" aside={minutesText(said.best.minutes)}>
          <ol>
            {said.best.words.map((words, i) => (
              <li key={i}>{words}</li>
            ))}
          </ol>
          <p className={style.soft}>
            One good way, not the only one: it weighs what each reading is expected to tell for its
            minutes. On boards small enough for the best possible order to be worked out it takes at
            most a tenth longer.
          </p>
        </Panel>
      )}
      <p className={style.row}>
        {!run.closed && (
          <ButtonLink
            look="main"
            href={`/practice?board=${encodeURIComponent(run.board.title)}&level=${run.level}&seed=${run.seed + 1}&within=${encodeURIComponent(run.within)}`}
          >
            The same board, another fault
          </ButtonLink>
        )}
        <ButtonLink href="/practice">To Practice</ButtonLink>
      </p>
    </>
  );
}

/** How many of the parts that went had been bad. */
function partsWords({ actions }: PracticeRun, { score }: Debrief): string {
  const went = actions.filter(({ action }) => action.do === 'replace').length;
  if (went === 0) return 'nothing was replaced';
  return `${Math.round(score.attribution * went)} of ${went} that went had been bad`;
}

function Score({
  title,
  share,
  words,
}: {
  title: string;
  /** Undefined where it was not judged. */
  share: number | undefined;
  words: string;
}) {
  return (
    <section className={style.score} aria-label={title}>
      <h2>{title}</h2>
      {share === undefined ? (
        <b>not judged</b>
      ) : (
        <>
          <b>{Math.round(10 * share)} of 10</b>
          <HatchBar share={share} label={percent(share)} />
        </>
      )}
      <p>{words}</p>
    </section>
  );
}
