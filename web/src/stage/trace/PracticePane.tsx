import { useState } from 'react';
import { HELP_MINUTES } from '@hanzai/core/training';
import type { BoardIndex } from '@hanzai/core/board';
import type { PracticeLink, PracticeQuestion } from '../../case/practice-link';
import { minutesText } from '../../case/wording';
import { Button, ButtonLink } from '../../ui/Button';
import { Panel } from '../../ui/Panel';
import style from './PracticePane.module.css';

const QUESTIONS: Readonly<Record<Exclude<PracticeQuestion, 'net'>, string>> = {
  next: 'What would you measure next?',
  reading: 'What does the last reading say?',
  suspects: 'Whom do you suspect?',
};

/** Beside the map of an exercise: how readings are taken, and what a colleague says for his minutes. */
export function PracticePane({
  practice,
  index,
  home,
  surveying,
  onSurvey,
}: {
  practice: PracticeLink;
  index: BoardIndex;
  home: string;
  surveying: boolean;
  onSurvey: () => void;
}) {
  const [net, setNet] = useState('');
  const { help, busy, said, damage, ask } = practice;
  return (
    <div className={style.pane}>
      <Panel title="Measure">
        <p>
          Type a point below, or pick it on the map, and press Enter: the meter of the exercise
          shows what is there. Power is switched as the reading needs it, and costs its minute.
        </p>
        <p className={style.row}>
          <Button onClick={onSurvey}>{surveying ? 'Leave the survey' : 'Survey capacitors'}</Button>
          <ButtonLink look="quiet" href={`${home}/repair`}>
            Take a part off
          </ButtonLink>
        </p>
      </Panel>
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
            <li>
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
                  {index.nets.map((name) => (
                    <option key={name} value={name} />
                  ))}
                </datalist>
                <Button type="submit" disabled={busy || net.trim() === ''}>
                  Ask <small>{minutesText(HELP_MINUTES.net)}</small>
                </Button>
              </form>
            </li>
          </ul>
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
