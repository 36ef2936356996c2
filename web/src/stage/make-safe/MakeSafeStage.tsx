import { useEffect, useMemo, useState } from 'react';
import { lockedBy, type Gate as GateName, type Hazard, type Lock } from '@hanzai/core/bench';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { caseHazards } from '../../case/unit';
import type { CaseState } from '../../case/use-case';
import { ButtonLink } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Column, Columns } from '../../ui/Columns';
import { Actions, FormRow } from '../../ui/FormRow';
import { Rows } from '../../ui/Rows';
import tone from '../../ui/Words.module.css';
import { Discharge } from './Discharge';
import { HazardRow } from './HazardRow';
import { wholeCharacters } from '../../case/wording';
import { useMe } from '../../people/use-me';

/**
 * Make safe: what can hurt, from where it is known; the gate that locks powered and open-case work
 * until somebody has acknowledged it; what is left on a capacitor.
 */
export function MakeSafeStage({ state }: { state: CaseState }) {
  const { journal, model, index } = state;
  const hazards = useMemo(() => caseHazards(model, index, journal), [model, index, journal]);
  const me = useMe();
  const [typed, setWho] = useState('');
  const who = me?.name ?? typed;
  const [refusal, setRefusal] = useState<string>();
  useEffect(() => setWho(localStorage.getItem('who') ?? ''), []);
  const locks = (gate: GateName): readonly Lock[] =>
    lockedBy(hazards, journal.acknowledged, gate, journal.residuals);

  function acknowledge({ key }: Hazard, notHere: boolean): void {
    const name = who.trim();
    if (name === '') return setRefusal('say first who acknowledges it');
    localStorage.setItem('who', name);
    setRefusal(
      state.append({
        kind: 'acknowledge',
        hazard: key,
        who: wholeCharacters(name, 80),
        ...(notHere ? { notHere } : {}),
      }),
    );
  }

  const left = hazards.filter(({ key }) => !journal.acknowledged.some((one) => one.hazard === key));
  return (
    <CaseFrame state={state} stage="make-safe">
      <Columns>
        <Column>
          <Caution of="in-the-case" />
          {hazards.some(({ kind }) => kind === 'mains') && <Caution of="primary" again />}
          <Panel
            title="Hazards of this unit"
            aside={
              hazards.length === 0
                ? undefined
                : `${hazards.length - left.length} of ${hazards.length} acknowledged`
            }
          >
            {hazards.length === 0 && (
              <Notice>
                None is known: {model ? '' : 'the kind of unit is not chosen on the card, '}
                {index
                  ? 'the board sheet names none and no capacitor of it holds enough to bite.'
                  : 'and there is no board sheet to work them out of.'}{' '}
                Look yourself all the same.
              </Notice>
            )}
            {left.length > 0 && (
              <FormRow>
                <TextField
                  id="who"
                  label="Acknowledged by"
                  error={refusal}
                  value={who}
                  maxLength={80}
                  readOnly={Boolean(me)}
                  onChange={(event) => setWho(event.target.value)}
                />
              </FormRow>
            )}
            <Rows>
              {hazards.map((hazard) => (
                <HazardRow
                  key={hazard.key}
                  hazard={hazard}
                  state={state}
                  onAcknowledge={(notHere) => acknowledge(hazard, notHere)}
                />
              ))}
            </Rows>
          </Panel>
          <Panel title="The gate">
            <Gate
              words="Hands in the open case: open-up steps, parts off and on"
              left={locks('open')}
            />
            <Gate words="Ohms, continuity, diode test and ESR, power off" left={locks('meter')} />
            <Gate words="Probes on a board with power" left={locks('power')} />
            <Actions as="p">
              {state.practice ? (
                <ButtonLink look="main" href={`${state.home}/trace`}>
                  On to Trace
                </ButtonLink>
              ) : (
                <ButtonLink look="main" href={`${state.home}/open-up`}>
                  On to Open up
                </ButtonLink>
              )}
            </Actions>
          </Panel>
        </Column>
        <Column>
          <Discharge hazards={hazards} />
        </Column>
      </Columns>
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

function Gate({ words, left }: { words: string; left: readonly Lock[] }) {
  const open = left.filter(({ need }) => need === 'acknowledge').length;
  const charges = left.length - open;
  const why = [
    open > 0 ? `${open} to acknowledge` : '',
    charges > 0 ? `${charges === 1 ? 'a charge' : `${charges} charges`} to read` : '',
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <p>
      <b className={left.length === 0 ? undefined : tone.harm}>
        {left.length === 0 ? 'not locked' : `locked: ${why}`}
      </b>{' '}
      · {words}
    </p>
  );
}
