import { z } from 'zod';
import { METER_LIMIT_VOLT, TOUCH_LIMIT_VOLT, type Hazard } from '@hanzai/core/bench';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { typedNumber } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { Actions } from '../../ui/FormRow';
import tone from '../../ui/Words.module.css';

// prettier-ignore
const KIND_WORDS: Readonly<Record<Hazard['kind'], string>> = {
  mains: 'mains', 'stored-charge': 'stored charge', laser: 'laser', hot: 'hot', spring: 'sprung', chemical: 'chemical', static: 'static',
};

/**
 * One hazard: acknowledged by itself, or looked for and not there; a charge with the volts that
 * were read on it.
 */
export function HazardRow({
  hazard,
  state,
  onAcknowledge,
}: {
  hazard: Hazard;
  state: CaseState;
  onAcknowledge: (notHere: boolean) => void;
}) {
  const done = state.journal.acknowledged.find((one) => one.hazard === hazard.key);
  return (
    <li>
      <span>
        <b className={`${tone.mark} ${tone.harm}`}>{KIND_WORDS[hazard.kind]}</b> {hazard.words}
        <small>
          {hazard.from}
          {done &&
            ` · ${done.notHere ? 'not here, says' : 'acknowledged by'} ${done.who}, ${new Date(done.entry.madeAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}`}
        </small>
        {hazard.charge && hazard.charge.volt > TOUCH_LIMIT_VOLT && !done?.notHere && (
          <Charge hazard={hazard} state={state} />
        )}
      </span>
      {done ? (
        <Button
          look="quiet"
          onClick={() => state.append({ kind: 'retract', entry: done.entry.id })}
          aria-label={`Take back: ${hazard.words}`}
        >
          Take back
        </Button>
      ) : (
        <Actions as="span">
          <Button onClick={() => onAcknowledge(false)} aria-label={`Acknowledge: ${hazard.words}`}>
            {hazard.ifFitted ? 'It has it' : 'Acknowledge'}
          </Button>
          {hazard.ifFitted && (
            <Button onClick={() => onAcknowledge(true)} aria-label={`Not here: ${hazard.words}`}>
              Not here
            </Button>
          )}
        </Actions>
      )}
    </li>
  );
}

const VoltTyped = z.object({
  volt: z
    .string()
    .transform((text) => text.replace(/\s*v\s*$/i, ''))
    .pipe(
      typedNumber({
        fits: (value) => value >= 0 && value <= 10_000,
        words: 'no voltage; expected something like 1.8',
      }),
    ),
});

/** The volts last read on a charge that can bite, and what they allow. */
function Charge({ hazard, state }: { hazard: Hazard; state: CaseState }) {
  const { form, onSubmit, refusal } = useEntryForm(
    VoltTyped,
    { volt: '' },
    {
      enter: ({ volt }) => state.append({ kind: 'residual', hazard: hazard.key, volt }),
      clears: ['volt'],
      choices: ['volt'],
    },
  );
  const read = state.journal.residuals.findLast((one) => one.hazard === hazard.key);

  return (
    <Actions as="form" onSubmit={onSubmit}>
      <small>{chargeWords(read)}</small>
      <input
        aria-label={`Volts read on: ${hazard.words}`}
        inputMode="decimal"
        placeholder="volts"
        style={{ width: '5em', minHeight: 'var(--touch)' }}
        {...form.register('volt')}
      />
      <Button type="submit" look="quiet">
        Read
      </Button>
      <Refused words={refusal} />
    </Actions>
  );
}

function chargeWords(read: CaseState['journal']['residuals'][number] | undefined): string {
  if (!read)
    return `not read yet: below ${TOUCH_LIMIT_VOLT} V before hands, below ${METER_LIMIT_VOLT} V before ohms or ESR`;
  if (!read.current) return `${read.volt} V, but power was on since: read it again`;
  if (read.volt >= TOUCH_LIMIT_VOLT)
    return `${read.volt} V: not below ${TOUCH_LIMIT_VOLT} V. Discharge it, read it again`;
  return read.volt >= METER_LIMIT_VOLT
    ? `${read.volt} V: hands may go in; below ${METER_LIMIT_VOLT} V for ohms or ESR`
    : `${read.volt} V`;
}
