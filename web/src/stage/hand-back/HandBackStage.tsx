import { useMemo, useState } from 'react';
import { CaseFrame } from '../../case/CaseFrame';
import { UnitLabel } from '../../case/UnitLabel';
import { keptParts } from '../../case/salvage';
import { useOtherCases } from '../../case/others';
import { useCircumstances } from '../../case/engine-request';
import { useEngine } from '../../case/use-engine';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { PaperSheet } from '../../paper/PaperSheet';
import { PaperTools } from '../../paper/PaperTools';
import { Button, ButtonLink } from '../../ui/Button';
import { OneOf } from '../../ui/Choices';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { limitOf } from '../../case/agreed';
import { VisitorLinks } from '../../visit/VisitorLinks';
import { ClosingForm } from './ClosingForm';
import { FollowUp } from './FollowUp';
import style from './HandBackStage.module.css';
import { median } from '@hanzai/core/statistics';
import { certificatePaper } from './certificate';
import { ownersPaper } from './owners';
import { technicalPaper } from './technical';
import { useReportFigures } from './use-report-figures';

type Voice = 'technical' | 'owner' | 'certificate';

/** Hand back: close the case when nothing stands against it, and the papers that go with it. */
export function HandBackStage({ state }: { state: CaseState }) {
  const { view, journal, index, model, progress } = state;
  const { obstacles, proof } = progress;
  const { figures, failure, pending } = useReportFigures(state);
  const [voice, setVoice] = useState<Voice>('technical');
  const [refusal, setRefusal] = useState<string>();
  const isGivenUp = journal.decision?.body.course === 'give-up';
  // Only where parts of it may be kept somebody has to be suspected.
  const { lineUp } = useEngine(state, useCircumstances(state), isGivenUp && index !== undefined);
  const { needs, closedMinutes } = useOtherCases(view.id);
  const usualMinutes = median(closedMinutes);
  const kept = useMemo(
    // Nothing is kept before it is known what is suspected.
    () => (lineUp ? keptParts(index, journal, lineUp.entries, needs) : []),
    [index, journal, lineUp, needs],
  );
  const closing = journal.closed ? journal.closing : undefined;
  const paper = useMemo(() => {
    const of = { view, journal, index, model, proof, kept, usualMinutes };
    const limit = limitOf(journal, view);
    if (voice === 'owner') return ownersPaper(of, closing?.body, closing?.madeAt, limit);
    if (voice === 'certificate') return certificatePaper(of, closing?.madeAt);
    return technicalPaper(of, pending ? undefined : figures, closing?.body, limit);
  }, [view, journal, index, model, proof, kept, usualMinutes, voice, closing, pending, figures]);
  return (
    <CaseFrame state={state} stage="hand-back">
      <div className={style.tools}>
        {journal.closed ? (
          <Notice look="good">Closed{closing?.body.note ? `: ${closing.body.note}` : '.'}</Notice>
        ) : obstacles.length > 0 ? (
          <Notice look="attention" title="Not ready to close:">
            {obstacles.join('; ')}.
          </Notice>
        ) : (
          <ClosingForm state={state} />
        )}
        <FollowUp state={state} />
        <OneOf
          name="voice"
          legend="Paper"
          value={voice}
          onChange={setVoice}
          choices={[
            { value: 'technical', words: 'Technical report' },
            { value: 'owner', words: 'One page for the owner' },
            { value: 'certificate', words: 'Certificate of the proof' },
          ]}
        />
        <div className={style.buttons}>
          <PaperTools paper={paper} waits={pending && voice === 'technical'} print={pending} />
          <UnitLabel view={view} />
          {view.batch !== '' && (
            <ButtonLink href={`/batch?name=${encodeURIComponent(view.batch)}`}>
              Delivery note of its batch
            </ButtonLink>
          )}
          {journal.closed && (
            <Button onClick={() => setRefusal(state.append({ kind: 'reopen' }))}>
              Reopen the case
            </Button>
          )}
          {journal.closed && view.board && (
            <a href={`/practice?case=${view.number}`}>Go through it as practice</a>
          )}
          <a href={`/api/cases/${view.id}/readings.csv`}>Readings as CSV</a>{' '}
          <a href={`/api/cases/${view.id}/evidence.json`}>Evidence as JSON</a>
          {view.board && (
            <>
              <a href={`/api/boards/${view.board.id}/file.cir`}>Sheet as deck</a>
              <a href={`/api/boards/${view.board.id}/file.json`}>Sheet as JSON</a>
            </>
          )}
        </div>
      </div>
      <div className={style.tools}>
        <VisitorLinks caseId={view.id} />
      </div>
      <Refused words={refusal} />
      {failure && <Notice look="attention">{failure}</Notice>}
      <PaperSheet paper={paper} />
      <Keys
        keys={[
          ['Ctrl+P', 'print the report'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}
