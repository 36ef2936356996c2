import { formatDistanceStrict } from 'date-fns/formatDistanceStrict';
import { useEffect, useState } from 'react';
import { z } from 'zod';
import { isTimerDue, timerEnd, type Timer } from '../../case/journal';
import { Caution } from '../../case/Caution';
import { TimerKind } from '../../case/entry';
import type { CautionedStep } from '@hanzai/core/bench';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Actions, FormRow } from '../../ui/FormRow';
import tone from '../../ui/Words.module.css';
import { Refused } from '../../form/EntryForm';
import { typedNumber, typedWords, within } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';

// prettier-ignore
const KINDS: readonly (readonly [TimerKind, string])[] = [
  ['soak', 'soak'], ['bleach', 'bleaching, hours of daylight'], ['glue', 'glue'], ['burn-in', 'burn-in'], ['other', 'other'],
];

const DaylightTyped = z.object({
  hours: typedNumber({ fits: within(0, 24), words: 'no time of one day; expected hours up to 24' }),
});

const TimerTyped = z.object({
  what: TimerKind,
  title: typedWords(120, 'say what it is, for example: cover in the sun'),
  hours: typedNumber({ fits: within(0, 2000), words: 'no time; expected hours up to 2000' }),
});

/** What to mind while each kind runs. */
const MIND: Partial<Record<TimerKind, CautionedStep>> = {
  soak: 'soak',
  bleach: 'bleach',
  glue: 'glue',
  'burn-in': 'burn-in',
};

/**
 * What runs by itself: soaks, glue, burn-in by the clock, bleaching by the daylight it has had. The
 * docket says when one is due.
 */
export function Timers({ state }: { state: CaseState }) {
  const running = state.journal.timers.filter(({ done }) => !done);
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const clock = setInterval(() => setNow(Date.now()), 30_000);
    return () => clearInterval(clock);
  }, []);
  return (
    <Panel title="Running by itself" aside="soaks, bleaching, glue, burn-in">
      <Rows>
        {running.map((timer) => (
          <TimerRow key={timer.entry.id} timer={timer} now={now} state={state} />
        ))}
      </Rows>
      <NewTimer state={state} />
    </Panel>
  );
}

function TimerRow({ timer, now, state }: { timer: Timer; now: number; state: CaseState }) {
  const { id, body } = timer.entry;
  const [refusal, setRefusal] = useState<string>();
  const end = timerEnd(timer);
  const due = isTimerDue(timer, now);
  const words =
    end === undefined
      ? `${timer.daylightHours} of ${body.hours} hours of daylight`
      : due
        ? `since ${formatDistanceStrict(end, now)}`
        : `${formatDistanceStrict(now, end)} left`;
  return (
    <li>
      <span>
        {body.title} {due && <b className={`${tone.mark} ${tone.attention}`}>due</b>}
        <small>{words}</small>
        {refusal && <small className={tone.attention}>{refusal}</small>}
      </span>
      <Actions as="span">
        {end === undefined && (
          <Daylight
            of={body.title}
            onAdd={(hours) => state.append({ kind: 'daylight', timer: id, hours })}
          />
        )}
        <Button
          look="quiet"
          onClick={() => setRefusal(state.append({ kind: 'timerDone', timer: id }))}
          aria-label={`Finished: ${body.title}`}
        >
          Finished
        </Button>
      </Actions>
    </li>
  );
}

/** Hours of daylight that something has had. */
function Daylight({ of, onAdd }: { of: string; onAdd: (hours: number) => string | undefined }) {
  const entry = useEntryForm(
    DaylightTyped,
    { hours: '' },
    { enter: ({ hours }) => onAdd(hours), clears: ['hours'], choices: ['hours'] },
  );
  return (
    <Actions as="form" onSubmit={entry.onSubmit}>
      <input
        aria-label={`Hours of daylight for ${of}`}
        inputMode="decimal"
        placeholder="hours"
        style={{ width: '5em', minHeight: 'var(--touch)' }}
        {...entry.form.register('hours')}
      />
      <Button look="quiet" type="submit">
        Add
      </Button>
      <Refused words={entry.refusal} />
    </Actions>
  );
}

function NewTimer({ state }: { state: CaseState }) {
  const entry = useEntryForm(
    TimerTyped,
    { what: 'soak', title: '', hours: '' },
    {
      enter: (typed) => state.append({ kind: 'timer', ...typed }),
      clears: ['title', 'hours'],
    },
  );
  const { field, form } = entry;
  const mind = MIND[form.watch('what')];
  return (
    <FormRow as="form" onSubmit={entry.onSubmit}>
      <Field id="timer-what" label="Start a timer">
        <select id="timer-what" {...form.register('what')}>
          {KINDS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </Field>
      <TextField id="timer-title" label="For" {...field('title')} />
      <Figure id="timer-hours" label="Hours" {...field('hours')} />
      {mind && <Caution of={mind} />}
      <Button type="submit">Start it</Button>
      <Refused words={entry.refusal} />
    </FormRow>
  );
}
