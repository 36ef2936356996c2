import { useState } from 'react';
import { checkMeter, STANDARD_METER, type MeterProfile } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';
import { v7 } from 'uuid';
import { z } from 'zod';
import { Band } from '../case/Band';
import { EntryForm } from '../form/EntryForm';
import { useEntryForm } from '../form/use-entry-form';
import { ask, whyNot, withBody } from '../store/answers';
import { Button } from '../ui/Button';
import { OneOf } from '../ui/Choices';
import { Field } from '../ui/Field';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Rows } from '../ui/Rows';
import { TextField } from '../ui/TextField';
import { Instrument } from './instrument';
import { asTyped, TypedInstrument, typedResistors, USES } from './typed-profile';
import style from './Instruments.module.css';

const PERCENT = (share: number): string => `${Number((100 * share).toPrecision(3))} %`;

/** The workshop's instruments: what their data sheets say, and what checks have shown. */
export function Instruments({ instruments }: { instruments: readonly Instrument[] }) {
  const [list, setList] = useState(instruments);
  const [edited, setEdited] = useState<Instrument>();
  const [round, setRound] = useState(0);
  const [failure, setFailure] = useState<string>();

  async function keep(one: Instrument): Promise<string | undefined> {
    try {
      await ask('/api/instruments', Instrument, withBody('POST', one));
    } catch (error) {
      return whyNot(error);
    }
    setList((now) =>
      [...now.filter(({ id }) => id !== one.id), one].sort((a, b) => a.name.localeCompare(b.name)),
    );
    setEdited(undefined);
    setRound((n) => n + 1);
    window.scrollTo({ top: 0 });
    return undefined;
  }
  async function setAside({ id }: Instrument): Promise<void> {
    setFailure(undefined);
    try {
      await ask(`/api/instruments/${id}`, z.unknown(), withBody('PATCH', { archived: true }));
      setList((now) => now.filter((one) => one.id !== id));
    } catch (error) {
      setFailure(whyNot(error));
    }
  }
  return (
    <>
      <Band here="instruments" />
      <main className={style.page}>
        <section>
          <h1>Instruments</h1>
          <p>
            What is read with one of these is weighed by its own accuracy, ranges, currents and
            leads. In a case it is taken into use from the reading line, by the sign of the meter.
            What is not listed counts as the standard meter: 4000 counts, 10 MΩ, volts ±(0.5 % + 2),
            ohms ±(0.8 % + 2), ESR ±(5 % + 0.02 Ω).
          </p>
          {failure !== undefined && (
            <Notice look="attention" title="Not set aside:">
              {failure}
            </Notice>
          )}
          {list.length === 0 ? (
            <Notice>
              None is written down yet. Begin with the hand meter: its data sheet has two lines that
              count, volts and ohms, such as ±(0.5 % + 2).
            </Notice>
          ) : (
            <Rows>
              {list.map((one) => (
                <li key={one.id}>
                  <span>
                    <b>{one.name}</b>
                    <small>
                      {USES.filter(([, , own]) => own.some((kind) => one.kinds.includes(kind)))
                        .map(([, words]) => words)
                        .join(', ')}
                      {'; '}volts ±({PERCENT(one.profile.volts.share)} + {one.profile.volts.counts}
                      ), ohms ±({PERCENT(one.profile.ohms.share)} + {one.profile.ohms.counts})
                      {one.profile.leadOhm !== undefined &&
                        `, leads ${formatQuantity(one.profile.leadOhm, 'ohm', 2)}`}
                    </small>
                  </span>
                  <Button
                    look="quiet"
                    aria-label={`Change ${one.name}`}
                    onClick={() => {
                      setEdited(one);
                      setRound((n) => n + 1);
                    }}
                  >
                    Change
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Set ${one.name} aside`}
                    onClick={() => void setAside(one)}
                  >
                    Set aside
                  </Button>
                </li>
              ))}
            </Rows>
          )}
        </section>
        <ProfileForm key={round} edited={edited} onKeep={keep} />
      </main>
      <Keys keys={[['?', 'these keys']]} />
    </>
  );
}

function ProfileForm({
  edited,
  onKeep,
}: {
  readonly edited: Instrument | undefined;
  readonly onKeep: (one: Instrument) => Promise<string | undefined>;
}) {
  const start = edited
    ? asTyped(edited.name, edited.kinds, edited.profile)
    : asTyped('', ['voltage', 'resistance'], STANDARD_METER);
  const entry = useEntryForm(TypedInstrument, start, {
    enter: ({ name, kinds, profile }) =>
      onKeep({ id: edited?.id ?? v7(), name, kinds: [...kinds], profile }),
    choices: ['uses'],
  });
  const uses = entry.form.watch('uses');
  const set = (key: 'leadOhm' | 'ohmShare', value: string): void =>
    entry.form.setValue(key, value, { shouldDirty: true });
  const text = (key: Parameters<typeof entry.field>[0], label: string, hint?: string) => (
    <TextField
      id={`instrument-${key}`}
      label={label}
      {...(hint === undefined ? {} : { hint })}
      {...entry.field(key)}
    />
  );
  return (
    <Panel title={edited ? `Change ${edited.name}` : 'One more'}>
      <EntryForm label="Instrument" entry={entry}>
        <div className={style.fields}>
          {text('name', 'Name')}
          {text('counts', 'Counts of a full range')}
        </div>
        <fieldset className={style.uses}>
          <legend>Used for</legend>
          {USES.map(([use, words]) => (
            <label key={use}>
              <input
                type="checkbox"
                checked={uses.includes(use)}
                onChange={(event) =>
                  entry.form.setValue(
                    'uses',
                    event.target.checked ? [...uses, use] : uses.filter((other) => other !== use),
                  )
                }
              />{' '}
              {words}
            </label>
          ))}
        </fieldset>
        {uses.includes('volts') && (
          <div className={style.fields}>
            {text('voltShare', 'Volts: ± percent')}
            {text('voltCounts', 'and counts')}
            {text('voltInputOhm', 'Input, Ω')}
            {text('voltRanges', 'Ranges, V')}
          </div>
        )}
        {uses.includes('ohms') && (
          <div className={style.fields}>
            {text('ohmShare', 'Ohms: ± percent')}
            {text('ohmCounts', 'and counts')}
            {text('leadOhm', 'Leads add, Ω', 'left empty: not looked at')}
            {text('continuityOhm', 'Beeps below, Ω')}
            {text('ohmRanges', 'Ranges and currents', 'full scale @ test current')}
            {text('ohmVoltLimit', 'Next range above, V')}
            {text('diodeAmpere', 'Diode test, A')}
            {text('diodeOverloadVolt', 'Diode test: OL from, V')}
          </div>
        )}
        {uses.includes('esr') && (
          <>
            <div className={style.fields}>
              {text('esrHertz', 'ESR at, Hz')}
              {text('esrShare', 'ESR: ± percent')}
              {text('esrOhm', 'and Ω')}
            </div>
            <OneOf
              name="esr-method"
              legend="It shows"
              choices={[
                { value: 'real', words: 'the resistance alone' },
                { value: 'magnitude', words: 'the size of the impedance' },
              ]}
              value={entry.form.watch('esrMethod')}
              onChange={(value) => entry.form.setValue('esrMethod', value)}
            />
          </>
        )}
        {uses.includes('logic') && (
          <div className={style.fields}>
            {text('logicLowVolt', '0 below, V')}
            {text('logicHighVolt', '1 above, V')}
          </div>
        )}
        {uses.includes('ohms') && (
          <KnownResistors
            profile={TypedInstrument.safeParse(entry.form.getValues()).data?.profile}
            onTake={set}
          />
        )}
        <Button look="main" type="submit">
          Keep it
        </Button>
      </EntryForm>
    </Panel>
  );
}

/** A check against known resistors: what leads and accuracy come to. */
function KnownResistors({
  profile = STANDARD_METER,
  onTake,
}: {
  readonly profile: MeterProfile | undefined;
  readonly onTake: (key: 'leadOhm' | 'ohmShare', value: string) => void;
}) {
  const [text, setText] = useState('');
  const { known, unread } = typedResistors(text);
  const found = checkMeter({ ...profile, leadOhm: undefined }, known);
  return (
    <div className={style.check}>
      <Field
        id="known-resistors"
        label="Check it against known resistors"
        hint={
          unread.length > 0
            ? `Not understood: line ${unread.join(', ')}`
            : 'one a line: what it is, what is read, its percent; such as 100 100.4 0.1'
        }
      >
        <textarea
          id="known-resistors"
          rows={4}
          className="mono"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Field>
      {found && (
        <p role="status">
          Leads {formatQuantity(found.leadOhm, 'ohm', 2)}; it reads{' '}
          {PERCENT(Math.abs(found.gainError))} {found.gainError < 0 ? 'less' : 'more'} than is
          there.{' '}
          {found.beyond.length === 0
            ? 'All are within its data.'
            : `Beyond its data: ${found.beyond.map(({ trueOhm }) => formatQuantity(trueOhm, 'ohm')).join(', ')}; they would have to say ±${PERCENT(found.shareNeeded)}.`}{' '}
          <Button
            look="quiet"
            onClick={() => onTake('leadOhm', String(Number(found.leadOhm.toPrecision(2))))}
          >
            Take the leads
          </Button>
          {found.beyond.length > 0 && (
            <Button
              look="quiet"
              onClick={() =>
                onTake('ohmShare', String(Number((100 * found.shareNeeded).toPrecision(2))))
              }
            >
              Take the accuracy
            </Button>
          )}
        </p>
      )}
    </div>
  );
}
