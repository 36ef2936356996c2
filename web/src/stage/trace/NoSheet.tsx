import { nameKey } from '@hanzai/core/board';
import { useRef } from 'react';
import { z } from 'zod';
import { CaseFrame } from '../../case/CaseFrame';
import { Caution } from '../../case/Caution';
import { LooseReadings } from '../../case/LooseReadings';
import { PowerAnyway } from '../../case/PowerAnyway';
import { drawFirst } from '../../case/draw-first';
import type { StripHandle } from '../../case/strip/Strip';
import { MeteredStrip } from '../../meter/MeteredStrip';
import type { CaseState } from '../../case/use-case';
import { EntryForm } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button, ButtonLink } from '../../ui/Button';
import { Column, Columns } from '../../ui/Columns';
import { Actions, FormRow } from '../../ui/FormRow';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { TextField } from '../../ui/TextField';
import { PracticePane } from './PracticePane';
import { QuickSurvey } from './survey/QuickSurvey';
import { useQuickSurvey } from './survey/use-survey';

const VerdictTyped = z.object({
  ref: typedWords(80, 'which part, for example C12'),
  reason: typedWords(500, 'what says so, for example: leaks, 12 ohm ESR'),
});

/**
 * Trace before a sheet was chosen: readings stand at the points that they name, a part comes into
 * being when it is named, and the sheet grows out of both.
 */
export function NoSheet({ state }: { state: CaseState }) {
  const { view, journal, practice } = state;
  const strip = useRef<StripHandle>(null);
  const survey = useQuickSurvey(state);
  const condemned = journal.condemned.map(({ body }) => body);
  const entry = useEntryForm(
    VerdictTyped,
    { ref: '', reason: '' },
    {
      enter: ({ ref, reason }) => {
        if (condemned.some((one) => nameKey(one.ref) === nameKey(ref)))
          return `${ref} is condemned already`;
        return state.append({ kind: 'condemn', ref: ref.toUpperCase(), probability: 1, reason });
      },
      clears: ['ref', 'reason'],
    },
  );
  return (
    <CaseFrame
      state={state}
      stage="trace"
      foot={
        <MeteredStrip
          ref={strip}
          state={state}
          list={survey.list}
          disabled={journal.closed}
          ready
        />
      }
    >
      <Columns>
        <Column>
          {!practice && <PowerAnyway state={state} />}
          <Panel title="Readings" aside="at the points that you name">
            {journal.loose.length === 0 ? (
              <Notice>
                {practice ? (
                  <>
                    Type a point below, for example <code>c7</code> or <code>u1.3</code>: the meter
                    of the exercise gives the value.
                  </>
                ) : (
                  <>
                    Type what the meter shows below, for example <code>vm 8.6</code> or{' '}
                    <code>c7 0.4 esr</code>.
                  </>
                )}{' '}
                No sheet says what it should be: compare with a sister board, or with what the part
                says of itself.
              </Notice>
            ) : (
              <LooseReadings state={state} />
            )}
          </Panel>
          {!practice && (
            <QuickSurvey
              state={state}
              survey={survey}
              onPlace={(text) => strip.current?.place(text)}
            />
          )}
          <Caution of="probe-powered" />
          <Caution of="before-ohms" again />
        </Column>
        <Column>
          {practice ? (
            <PracticePane
              practice={practice}
              home={state.home}
              onTry={(text) => strip.current?.place(text, false)}
            />
          ) : (
            <Panel title="The sheet, as far as it is known">
              <p>
                Without one, blocks, swaps and your own readings carry the search. A few lines
                change that: draw what hangs on the rail that reads wrong, and every reading on it
                is judged.
              </p>
              <Rows>
                {drawFirst(journal).map(({ net, why, section }) => (
                  <li key={net}>
                    <span>
                      Draw <b className="mono">{net}</b>
                      <small>{why}</small>
                    </span>
                    {section && (
                      <ButtonLink
                        look="quiet"
                        href={`/boards/new?case=${view.number}&section=${section.name}`}
                        label={`${net}: ${section.title}, from the library`}
                      >
                        {section.title}
                      </ButtonLink>
                    )}
                  </li>
                ))}
              </Rows>
              <Actions>
                <ButtonLink look="main" href={`/boards/new?case=${view.number}`}>
                  Write it from what is known
                </ButtonLink>
                <ButtonLink href={`${state.home}/take-in`}>Choose one in Take in</ButtonLink>
              </Actions>
            </Panel>
          )}
          <Panel title="Condemned">
            <Rows>
              {condemned.map(({ ref, reason }) => (
                <li key={ref}>
                  <span>
                    <b className="mono">{ref}</b>
                    <small>{reason}</small>
                  </span>
                  <Button
                    look="quiet"
                    aria-label={`Take the verdict on ${ref} back`}
                    onClick={() => state.append({ kind: 'acquit', ref })}
                  >
                    Take back
                  </Button>
                </li>
              ))}
            </Rows>
            <EntryForm label="A part that is bad" entry={entry}>
              <FormRow>
                <TextField id="verdict-ref" label="Part" className="mono" {...entry.field('ref')} />
                <TextField id="verdict-reason" label="What says so" {...entry.field('reason')} />
                <Button type="submit">Condemn it</Button>
              </FormRow>
            </EntryForm>
            {condemned.length > 0 && (
              <ButtonLink look="main" href={`${state.home}/repair`}>
                Go on to Repair
              </ButtonLink>
            )}
          </Panel>
        </Column>
      </Columns>
      <Keys
        keys={[
          ['value + Enter', 'file a reading'],
          ['Ctrl+Z', 'take the last reading back (with the line empty)'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}
