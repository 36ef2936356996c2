import { useState } from 'react';
import { HELP_MINUTES, type Help } from '@hanzai/core/training';
import type { PracticeLink, TourStep } from '../../case/practice-link';
import { minutesText } from '../../case/wording';
import { Button, ButtonLink } from '../../ui/Button';
import { Pad } from '../../ui/Pad';
import { Panel } from '../../ui/Panel';
import { BenchDeeds } from './BenchDeeds';
import { OnTheBoard } from './OnTheBoard';
import style from './PracticePane.module.css';

const QUESTIONS: Readonly<Record<Exclude<Help, 'net'>, string>> = {
  next: 'What would you measure next?',
  reading: 'What does the last reading say?',
  suspects: 'Whom do you suspect?',
};

/**
 * Beside the map of an exercise: how readings are taken, and what a colleague says for his minutes.
 */
export function PracticePane({
  practice,
  home,
  surveying = false,
  onSurvey,
  onTry,
}: {
  practice: PracticeLink;
  home: string;
  surveying?: boolean;
  /** Undefined where there is no sheet to go along. */
  onSurvey?: () => void;
  /** Puts an example into the reading line. */
  onTry: (text: string) => void;
}) {
  const [net, setNet] = useState('');
  const { help, busy, said, damage, ask } = practice;
  return (
    <div className={style.pane}>
      {practice.tour && <Tour steps={practice.tour} onTry={onTry} home={home} />}
      <Panel title="Measure">
        <p>
          {practice.hasSheet
            ? 'Type a point below, or pick it on the map, and press Enter'
            : 'Nobody has a sheet of this board. Type a pin or a part below, such as u1.3 or c2, and press Enter'}
          : the meter of the exercise shows what is there. Power is switched as the reading needs
          it, and costs its minute.
        </p>
        <p className={style.row}>
          {onSurvey && (
            <Button onClick={onSurvey}>
              {surveying ? 'Leave the survey' : 'Survey capacitors'}
            </Button>
          )}
          <ButtonLink look="quiet" href={`${home}/repair`}>
            Take a part off
          </ButtonLink>
        </p>
      </Panel>
      {!practice.hasSheet && <OnTheBoard bench={practice.bench} />}
      <BenchDeeds practice={practice} />
      {damage.length > 0 && (
        <Panel title="Harmed">
          <ul className={style.list}>
            {damage.map((words, i) => (
              <li key={i}>{words}</li>
            ))}
          </ul>
        </Panel>
      )}
      {help === 'none' && <p className={style.none}>Nobody is there to be asked.</p>}
      {help === 'priced' && (
        <Panel title="Ask a colleague">
          <ul className={style.list}>
            {(Object.keys(QUESTIONS) as (keyof typeof QUESTIONS)[]).map((question) => (
              <li key={question}>
                <Button disabled={busy} onClick={() => ask(question)}>
                  {QUESTIONS[question]} <small>{minutesText(HELP_MINUTES[question])}</small>
                </Button>
              </li>
            ))}
            <li hidden={!practice.hasSheet}>
              <form
                className={style.row}
                onSubmit={(event) => {
                  event.preventDefault();
                  if (net.trim() !== '') ask('net', net.trim());
                }}
              >
                <label>
                  Who can hold net{' '}
                  <input
                    className="mono"
                    size={8}
                    list="practice-nets"
                    value={net}
                    onChange={({ target }) => setNet(target.value)}
                  />
                </label>
                <datalist id="practice-nets">
                  {practice.bench.nets.map((name) => (
                    <option key={name} value={name} />
                  ))}
                </datalist>
                <Button type="submit" disabled={busy || net.trim() === ''}>
                  Ask <small>{minutesText(HELP_MINUTES.net)}</small>
                </Button>
              </form>
            </li>
          </ul>
          {busy && (
            <p role="status">He thinks: on a board of hundreds of parts up to half a minute …</p>
          )}
          <ol className={style.said} aria-live="polite" aria-label="What was said">
            {said.map(({ words }, i) => (
              <li key={i}>{words}</li>
            ))}
          </ol>
        </Panel>
      )}
    </div>
  );
}

/**
 * The reading line in some minutes: each step done is ticked off, the next one can be put into the
 * line.
 */
function Tour({
  steps,
  onTry,
  home,
}: {
  steps: readonly TourStep[];
  onTry: (text: string) => void;
  home: string;
}) {
  const next = steps.findIndex(({ isDone }) => !isDone);
  return (
    <Panel
      title="The reading line"
      aside={`${steps.filter(({ isDone }) => isDone).length} of ${steps.length}`}
    >
      <ol className={style.list}>
        {steps.map(({ words, example, isDone }, i) => (
          <li key={example} className={style.step} aria-current={i === next ? 'step' : undefined}>
            <Pad state={isDone ? 'filled' : 'hollow'} />
            <span>
              {words}{' '}
              <button type="button" className={style.example} onClick={() => onTry(example)}>
                {example}
              </button>
            </span>
          </li>
        ))}
      </ol>
      {next < 0 && (
        <p className={style.row}>
          That is all of it. <ButtonLink href={`${home}/debrief`}>How was it?</ButtonLink>
        </p>
      )}
    </Panel>
  );
}
