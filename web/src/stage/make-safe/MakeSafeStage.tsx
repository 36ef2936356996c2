import { useEffect, useMemo, useState } from 'react';
import { DEFER, lockedBy, TOUCH_LIMIT_VOLT, type Hazard } from '@hanzai/core/bench';
import { CaseFrame } from '../../case/CaseFrame';
import { caseHazards } from '../../case/unit';
import { useCase, type CaseState } from '../../case/use-case';
import type { CaseView } from '../../server/case/service';
import { Button, ButtonLink } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import sheet from '../../ui/Sheet.module.css';
import { Discharge } from './Discharge';

const KIND_WORDS: Readonly<Record<Hazard['kind'], string>> = {
  mains: 'mains', 'stored-charge': 'stored charge', laser: 'laser', hot: 'hot', spring: 'sprung', chemical: 'chemical', static: 'static',
}; // prettier-ignore

/** Make safe: what can hurt, from where it is known; the gate that locks powered and open-case work until somebody has acknowledged it; what is left on a capacitor. */
export function MakeSafeStage({ view }: { view: CaseView }) {
  const state = useCase(view);
  const { journal, model, index } = state;
  const hazards = useMemo(() => caseHazards(model, index, journal), [model, index, journal]);
  const [who, setWho] = useState('');
  const [refusal, setRefusal] = useState<string>();
  useEffect(() => setWho(localStorage.getItem('who') ?? ''), []);
  const open = lockedBy(hazards, journal.acknowledged, 'open');
  const power = lockedBy(hazards, journal.acknowledged, 'power');

  function acknowledge(list: readonly Hazard[]): void {
    const name = who.trim();
    if (name === '') return setRefusal('say first who acknowledges it');
    localStorage.setItem('who', name);
    setRefusal(list.map(({ key }) => state.file({ kind: 'acknowledge', hazard: key, who: name.slice(0, 80) })).find((objection) => objection !== undefined));
  }

  const left = hazards.filter(({ key }) => !journal.acknowledged.some((one) => one.hazard === key));
  return (
    <CaseFrame state={state} stage="make-safe">
      <div className={sheet.columns}>
        <div className={sheet.column}>
          <Notice look="harm" title="Mind:">
            Unplugged and discharged before hands go in; read it at zero volts. One hand near mains. {DEFER}
          </Notice>
          <Panel title="Hazards of this unit" aside={hazards.length === 0 ? undefined : `${hazards.length - left.length} of ${hazards.length} acknowledged`}>
            {hazards.length === 0 && (
              <Notice>
                None is known: {model ? '' : 'the kind of unit is not chosen on the card, '}
                {index ? 'the board sheet names none and no capacitor of it holds enough to bite.' : 'and there is no board sheet to work them out of.'} Look
                yourself all the same.
              </Notice>
            )}
            {left.length > 0 && (
              <div className={sheet.form}>
                <Field id="who" label="Acknowledged by" error={refusal}>
                  <input id="who" value={who} maxLength={80} onChange={(event) => setWho(event.target.value)} />
                </Field>
                <Button look="main" onClick={() => acknowledge(left)}>
                  Acknowledge all {left.length}
                </Button>
              </div>
            )}
            <ul className={sheet.rows}>
              {hazards.map((hazard) => (
                <HazardRow key={hazard.key} hazard={hazard} state={state} onAcknowledge={() => acknowledge([hazard])} />
              ))}
            </ul>
          </Panel>
          <Panel title="The gate">
            <Gate words="Hands in the open case: open-up steps, parts off and on" left={open} />
            <Gate words="Probes on a board with power" left={power} />
            <p className={sheet.actions}>
              <ButtonLink look="main" href={`/case/${view.number}/open-up`}>
                On to Open up
              </ButtonLink>
            </p>
          </Panel>
        </div>
        <div className={sheet.column}>
          <Discharge state={state} hazards={hazards} />
        </div>
      </div>
      <Keys
        keys={[
          ['Tab', 'to the next hazard or field'],
          ['Enter', 'acknowledge what is in focus'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

function HazardRow({ hazard, state, onAcknowledge }: { hazard: Hazard; state: CaseState; onAcknowledge: () => void }) {
  const done = state.journal.acknowledged.find((one) => one.hazard === hazard.key);
  const measured = state.journal.residuals.findLast(({ body }) => body.hazard === hazard.key);
  return (
    <li>
      <span>
        <b className={`${sheet.mark} ${sheet.harm}`}>{KIND_WORDS[hazard.kind]}</b> {hazard.words}
        <small>
          {hazard.from}
          {done && ` · acknowledged by ${done.who}, ${new Date(done.entry.madeAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}`}
          {measured && ` · measured ${measured.body.volt} V`}
          {measured && measured.body.volt > TOUCH_LIMIT_VOLT && ': not safe yet'}
        </small>
      </span>
      {done ? (
        <Button look="quiet" onClick={() => state.file({ kind: 'retract', entry: done.entry.id })} aria-label={`Take back: ${hazard.words}`}>
          Take back
        </Button>
      ) : (
        <Button onClick={onAcknowledge} aria-label={`Acknowledge: ${hazard.words}`}>
          Acknowledge
        </Button>
      )}
    </li>
  );
}

function Gate({ words, left }: { words: string; left: readonly Hazard[] }) {
  return (
    <p>
      <b className={left.length === 0 ? sheet.good : sheet.harm}>{left.length === 0 ? 'open' : `locked by ${left.length}`}</b> · {words}
    </p>
  );
}
