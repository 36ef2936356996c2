import { formatDistanceStrict } from 'date-fns/formatDistanceStrict';
import { useEffect, useState } from 'react';
import { isTimerDue, timerEnd, type Timer } from '../../case/journal';
import { Caution } from '../../case/Caution';
import type { TimerKind } from '../../case/entry';
import type { CautionedStep } from '@hanzai/core/bench';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Actions, Narrow, FormRow } from '../../ui/FormRow';
import tone from '../../ui/Words.module.css';
import { wholeCharacters } from '../../case/wording';

// prettier-ignore
const KINDS: readonly (readonly [TimerKind, string])[] = [
  ['soak', 'soak'], ['bleach', 'bleaching, hours of daylight'], ['glue', 'glue'], ['burn-in', 'burn-in'], ['other', 'other'],
];

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
  const [hours, setHours] = useState('');
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
          <>
            <input
              aria-label={`Hours of daylight for ${body.title}`}
              inputMode="decimal"
              placeholder="hours"
              style={{ width: '5em', minHeight: 'var(--touch)' }}
              value={hours}
              onChange={(event) => setHours(event.target.value)}
            />
            <Button
              look="quiet"
              onClick={() => {
                const value = Number(hours.replace(',', '.'));
                if (!(value > 0 && value <= 24))
                  return setRefusal(`“${hours}” is no time of one day; expected hours up to 24`);
                setRefusal(state.append({ kind: 'daylight', timer: id, hours: value }));
                setHours('');
              }}
            >
              Add
            </Button>
          </>
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

function NewTimer({ state }: { state: CaseState }) {
  const [what, setWhat] = useState<TimerKind>('soak');
  const [title, setTitle] = useState('');
  const [hours, setHours] = useState('');
  const [refusal, setRefusal] = useState<string>();
  return (
    <FormRow
      as="form"
      onSubmit={(event) => {
        event.preventDefault();
        const value = Number(hours.replace(',', '.'));
        if (title.trim() === '') return setRefusal('say what it is, for example: cover in the sun');
        if (!(value > 0 && value <= 2000))
          return setRefusal(`“${hours}” is no time; expected hours up to 2000`);
        const objection = state.append({
          kind: 'timer',
          what,
          title: wholeCharacters(title.trim(), 120),
          hours: value,
        });
        setRefusal(objection);
        if (objection) return;
        setTitle('');
        setHours('');
      }}
    >
      <Field id="timer-what" label="Start a timer">
        <select
          id="timer-what"
          value={what}
          onChange={(event) => setWhat(event.target.value as TimerKind)}
        >
          {KINDS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </Field>
      <TextField
        id="timer-title"
        label="For"
        error={refusal}
        value={title}
        onChange={(event) => setTitle(event.target.value)}
      />
      <Narrow>
        <TextField
          id="timer-hours"
          label="Hours"
          inputMode="decimal"
          value={hours}
          onChange={(event) => setHours(event.target.value)}
        />
      </Narrow>
      {MIND[what] && <Caution of={MIND[what]} />}
      <Button type="submit">Start it</Button>
    </FormRow>
  );
}
