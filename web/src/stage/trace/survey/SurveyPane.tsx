import { lazy, Suspense, useCallback, useState } from 'react';
import { formatQuantity } from '@hanzai/core/quantity';
import type { CaseState } from '../../../case/use-case';
import { Button } from '../../../ui/Button';
import { Notice } from '../../../ui/Notice';
import { Printed } from '../../../ui/Printed';
import { Pane } from '../Pane';
import type { RunningSequence } from '../use-sequence';
import { ExtentCards } from './ExtentCards';
import { PaperSurvey } from './PaperSurvey';
import { saveSurvey } from './survey-file';
import { SurveyTable } from './SurveyTable';
import { useSurvey } from './use-survey';
import style from './Survey.module.css';

const EsrChart = lazy(() => import('./EsrChart'));

const VIEWS = [
  ['list', 'List'],
  ['chart', 'Chart'],
  ['extent', 'How far'],
] as const;
type View = (typeof VIEWS)[number][0];

/** The capacitor survey: one value and Enter each, what that says, and how far to go. */
export default function SurveyPane({
  state,
  running,
  onPlace,
  onClose,
}: {
  readonly state: CaseState;
  readonly running: RunningSequence;
  readonly onPlace: (text: string) => void;
  readonly onClose: () => void;
}) {
  const survey = useSurvey(state);
  const [view, setView] = useState<View>('list');
  const [printing, setPrinting] = useState(false);
  const printed = useCallback(() => setPrinting(false), []);
  const { rows } = survey;
  const next = running.left[0]?.measurement.at.pin?.part.ref;
  const read = rows.filter((row) => row.read !== undefined).length;
  const bad = rows.filter(({ judged }) => judged?.verdict === 'bad');
  const zeroed = state.journal.zeros.at(-1)?.body.ohm;
  return (
    <Pane
      title="Capacitors"
      fills
      keepsHead
      tools={
        <>
          <span>
            {read} of {rows.length} read{bad.length > 0 && `, ${bad.length} bad`}
          </span>
          <span className={style.views} role="group" aria-label="What is shown">
            {VIEWS.map(([key, words]) => (
              <Button key={key} aria-pressed={view === key} onClick={() => setView(key)}>
                {words}
              </Button>
            ))}
            <Button look="quiet" onClick={() => saveSurvey(rows, state.view.number)}>
              CSV
            </Button>
            <Button look="quiet" onClick={() => setPrinting(true)}>
              Print
            </Button>
          </span>
        </>
      }
      onClose={onClose}
    >
      {survey.failure !== undefined && (
        <Notice look="attention" title="Not judged:">
          {survey.failure}
        </Notice>
      )}
      {survey.zero !== undefined ? (
        <Notice title="Leads:">
          {survey.zero}.{' '}
          <Button look="quiet" onClick={() => onPlace('zero')}>
            Type what still shows
          </Button>
        </Notice>
      ) : (
        <p className={style.zero}>
          The leads add {formatQuantity(zeroed ?? 0, 'ohm', 2)}, taken off every reading since.
        </p>
      )}
      {view === 'list' && <SurveyTable rows={rows} next={next} onPlace={onPlace} />}
      {view === 'chart' && (
        <Suspense fallback={<p role="status">The chart is being fetched …</p>}>
          <EsrChart rows={rows} zeroOhm={zeroed} />
        </Suspense>
      )}
      {view === 'extent' && <ExtentCards state={state} survey={survey} />}
      {printing && (
        <Printed onDone={printed}>
          <PaperSurvey rows={rows} title={`Case ${state.view.number}: ${state.view.title}`} />
        </Printed>
      )}
    </Pane>
  );
}
