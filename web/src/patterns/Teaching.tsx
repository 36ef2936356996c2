import { format } from 'date-fns/format';
import { useState } from 'react';
import { Button } from '../ui/Button';
import { Actions } from '../ui/FormRow';
import { Fold } from '../ui/Fold';
import { Panel } from '../ui/Panel';
import { CaseByCase } from './CaseByCase';
import style from './Patterns.module.css';
import type { PatternsState } from './use-patterns';

/** What it is learned from, case by case; switched off, doubted, or begun anew. */
export function Teaching({ state }: { state: PatternsState }) {
  const { setting, closed, counting } = state.known;
  const [isOpen, setOpen] = useState(false);
  return (
    <Panel title="What it is learned from" framed>
      <label className={style.check}>
        <input
          type="checkbox"
          checked={setting.on}
          onChange={(event) => void state.setLearning({ ...setting, on: event.target.checked })}
        />{' '}
        Line-ups and patterns go by closed cases
      </label>
      <p>
        {setting.on
          ? `${counting} of ${closed} closed cases count.`
          : 'Switched off: the rate table alone.'}{' '}
        {setting.since !== null &&
          `Begun anew on ${format(new Date(setting.since), 'd MMM yyyy HH:mm')}.`}
      </p>
      <Actions>
        {setting.since === null ? (
          <Button
            onClick={() => void state.setLearning({ ...setting, since: new Date().toISOString() })}
          >
            Begin anew
          </Button>
        ) : (
          <Button onClick={() => void state.setLearning({ ...setting, since: null })}>
            Count the earlier ones again
          </Button>
        )}
      </Actions>
      {closed > 0 && (
        <Fold onToggle={(event) => setOpen(event.currentTarget.open)}>
          <summary>Case by case</summary>
          {isOpen && <CaseByCase closed={closed} setTeaches={state.setTeaches} />}
        </Fold>
      )}
    </Panel>
  );
}
