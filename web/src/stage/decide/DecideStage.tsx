import { useMemo, useState } from 'react';
import { USUAL_JOB, type JobFigures } from '@hanzai/core/decide';
import { CaseFrame } from '../../case/CaseFrame';
import { Decision } from '../../case/Decision';
import { useCircumstances } from '../../case/engine-request';
import { keptFigures } from '../../case/kept-figures';
import { useOtherCases } from '../../case/others';
import type { CaseState } from '../../case/use-case';
import { useEngine } from '../../case/use-engine';
import { keep } from '../../store/kept';
import { Button } from '../../ui/Button';
import choices from '../../ui/Choices.module.css';
import { Column, Columns } from '../../ui/Columns';
import { Fold } from '../../ui/Fold';
import { FormRow, Narrow } from '../../ui/FormRow';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { TextField } from '../../ui/TextField';
import { Small } from '../../ui/Words';
import { Consent } from './Consent';
import { CourseTable } from './CourseTable';
import { MissingParts } from './MissingParts';
import { OwnerMessage } from './OwnerMessage';
import { QuotePanel } from './QuotePanel';
import { Salvage } from './Salvage';
import { standingOf } from './standing';

const KEY = 'hanzai-job';
const FIELDS: readonly (readonly [keyof JobFigures, string])[] = [
  ['minutePrice', 'price of a minute'],
  ['partPrice', 'price of a part'],
  ['replaceMinutes', 'minutes to replace one'],
  ['testMinutes', 'minutes to test one off the board'],
  ['proveMinutes', 'minutes to prove it'],
  ['roundMinutes', 'minutes of one more round'],
  ['padRisk', 'pads that lift, of one'],
  ['padPrice', 'price of mending one'],
  ['harm', 'new part or joint bad, of one'],
  ['donorPrice', 'price of a donor'],
  ['donorGood', 'donors that are good, of one'],
  ['donorMinutes', 'minutes to put it in'],
];

/** Decide: what to do about the fault, what it costs in all, what the owner is asked. */
export function DecideStage({ state }: { state: CaseState }) {
  const { journal, view, index } = state;
  const others = useOtherCases(view.id);
  const { lineUp, next } = useEngine(state, useCircumstances(state), index !== undefined);
  const [figures, setFigures] = useState(() => keptFigures<JobFigures>(KEY, USUAL_JOB));
  const [hasDonor, setHasDonor] = useState(false);
  const standing = useMemo(
    () => standingOf(state, { lineUp, next }, others, figures, hasDonor),
    [state, lineUp, next, others, figures, hasDonor],
  );
  const { courses, quote, suspects } = standing;
  const change = (name: keyof JobFigures, text: string): void => {
    const value = Number(text.replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(value) || value < 0) return;
    const changed = { ...figures, [name]: value };
    setFigures(changed);
    keep(KEY, JSON.stringify(changed));
  };
  const weighing = index !== undefined && lineUp === undefined && journal.condemned.length === 0;
  return (
    <CaseFrame state={state} stage="decide">
      <Column>
        <Decision state={state} />
        {!index && (
          <Notice title="No sheet:">
            nothing is known of who is guilty but what was condemned. Prices of the job still hold.
          </Notice>
        )}
        <CourseTable state={state} courses={courses} />
        {(weighing || (index && !next)) && (
          <p role="status">
            {weighing
              ? 'The suspects are being weighed …'
              : 'The next measurement is being planned …'}
          </p>
        )}
        {index && <MissingParts suspects={suspects} index={index} />}
        <Columns>
          <Column>
            <QuotePanel quote={quote} closed={others.closedMinutes} />
            <label className={choices.choice}>
              <input
                type="checkbox"
                checked={hasDonor}
                onChange={(event) => setHasDonor(event.target.checked)}
              />
              there is a donor unit or board
            </label>
            <Fold>
              <summary>What it is reckoned with</summary>
              <FormRow>
                {FIELDS.map(([name, label]) => (
                  <Narrow key={name}>
                    <TextField
                      id={`job-${name}`}
                      label={label}
                      inputMode="decimal"
                      defaultValue={String(figures[name])}
                      key={figures === USUAL_JOB ? 'usual' : 'own'}
                      onChange={(event) => change(name, event.target.value)}
                    />
                  </Narrow>
                ))}
              </FormRow>
              <Small>
                Usual figures are from memory of bench practice: put your own in their place.
              </Small>
              <Button
                look="quiet"
                onClick={() => {
                  keep(KEY, undefined);
                  setFigures(USUAL_JOB);
                }}
              >
                The usual figures
              </Button>
            </Fold>
          </Column>
          <Column>
            <OwnerMessage state={state} courses={courses} quote={quote} suspects={suspects} />
            <Consent state={state} />
            <Salvage state={state} lineUp={lineUp} needs={others.needs} />
          </Column>
        </Columns>
      </Column>
      <Keys
        keys={[
          ['Tab', 'to the next course or field'],
          ['Enter', 'decide, or enter it'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}
