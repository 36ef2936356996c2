import { useState, type ReactNode } from 'react';
import { z } from 'zod';
import { formatDistanceToNowStrict } from 'date-fns/formatDistanceToNowStrict';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { TextField } from '../ui/TextField';
import { Refused as Refusal } from '../form/EntryForm';
import { typedWords } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { Notice } from '../ui/Notice';
import { Pad } from '../ui/Pad';
import { Reckoners } from '../reckoner/Reckoners';
import { useOutbox } from '../store/use-outbox';
import { Band, OneNotStored } from './Band';
import { PracticeBar } from './PracticeBar';
import style from './CaseFrame.module.css';
import { useCircumstances } from './engine-request';
import { PRACTISED, stageTitle, STAGES, type Stage } from './stages';
import type { CaseState } from './use-case';
import { useEngineAhead } from './use-engine';
import { whatIsOut } from './whats-out';
import { wholeCharacters } from './wording';

/**
 * The frame of every stage of a case: the band, the track down the left edge, the stage itself, and
 * a foot for the strip.
 */
export function CaseFrame({
  state,
  stage,
  foot,
  children,
  bare = false,
}: {
  state: CaseState;
  stage: Stage;
  foot?: ReactNode;
  children: ReactNode;
  bare?: boolean;
}) {
  const { view, progress, journal } = state;
  const stages = state.practice ? PRACTISED : STAGES;
  /** Whether the track is shown where there is no room for it beside the stage. */
  const [unfolded, setUnfolded] = useState(false);
  const worksAhead = !journal.closed && !ASKS_ITSELF.includes(stage);
  useEngineAhead(state, useCircumstances(state), worksAhead && !state.practice);
  return (
    <div className={`${style.frame} ${state.practice ? style.practised : ''}`}>
      <Band here={state.practice ? 'practice' : 'case'}>
        {!state.practice && <span className={style.number}>{view.number}</span>}
        <h1 className={style.title} title={view.title}>
          {view.title}
        </h1>
        {!state.practice && <LeaveOff state={state} stage={stage} />}
      </Band>
      {state.practice && <PracticeBar practice={state.practice} home={state.home} />}
      <div className={style.body}>
        <button
          type="button"
          className={style.fold}
          aria-expanded={unfolded}
          aria-controls="track"
          onClick={() => setUnfolded(!unfolded)}
        >
          <Pad state={progress.pads[stage]} />
          {stageTitle(stage)}
          <small>
            {stages.indexOf(stage) + 1} of {stages.length}
          </small>
        </button>
        <nav
          id="track"
          className={`${style.track} ${unfolded ? style.unfolded : ''}`}
          aria-label={state.practice ? 'Stages of the exercise' : 'Stages of the case'}
        >
          {stages.map((name) => (
            <a
              key={name}
              href={`${state.home}/${name}`}
              aria-current={name === stage ? 'step' : undefined}
              className={style.stop}
            >
              <Pad state={progress.pads[name]} />
              <span>{stageTitle(name)}</span>
            </a>
          ))}
        </nav>
        <main className={bare ? style.bare : style.stage}>
          {view.unreadable > 0 && (
            <Notice
              look="attention"
              title={`${view.unreadable} ${view.unreadable === 1 ? 'entry' : 'entries'} cannot be read.`}
            >
              Made by a newer version, or spoilt: kept as they are, and not shown here.
            </Notice>
          )}
          <Refused state={state} />
          <LeftOff state={state} />
          {FROM_REPAIR.includes(stage) && <Out state={state} />}
          {children}
          {!bare && <Reckoners state={state} stage={stage} />}
        </main>
      </div>
      {foot && <footer className={style.foot}>{foot}</footer>}
    </div>
  );
}

/** Leaving a case in the middle of work: where one was, in a line, for the one who goes on. */
const WhereTyped = z.object({
  where: typedWords(240, 'a few words, for example: board out on the mat, ESR of C4 next'),
});

function LeaveOff({ state, stage }: { state: CaseState; stage: Stage }) {
  const [open, setOpen] = useState(false);
  const { field, onSubmit, refusal } = useEntryForm(
    WhereTyped,
    { where: '' },
    {
      enter: ({ where }) => {
        const text = wholeCharacters(`${stageTitle(stage)}: ${where}`, 300);
        const objection = state.append({ kind: 'pause', where: text });
        if (!objection) setOpen(false);
        return objection;
      },
      clears: ['where'],
    },
  );
  if (state.journal.closed) return null;
  return (
    <>
      <Button look="quiet" onClick={() => setOpen(true)}>
        Leave off
      </Button>
      <Dialog title="Leave off here" open={open} onClose={() => setOpen(false)}>
        <form noValidate onSubmit={onSubmit}>
          <TextField
            id="where"
            label="Where were you?"
            hint="The docket shows it, and this case when it is opened again."
            {...field('where')}
          />
          <Refusal words={refusal} />
          <p className={style.dialogAction}>
            <Button look="main" type="submit">
              Leave off
            </Button>
          </p>
        </form>
      </Dialog>
    </>
  );
}

/** Stages that ask the engine themselves: work ahead would call it away. */
const ASKS_ITSELF: readonly Stage[] = ['trace', 'decide', 'hand-back'];

/** The stages on which what is out is said: from the first part that may come off to the last. */
const FROM_REPAIR: readonly Stage[] = ['repair', 'adjust', 'prove', 'hand-back'];

/** What is not where it belongs, in one line, on every screen until it is. */
function Out({ state }: { state: CaseState }) {
  const out = whatIsOut(state.journal);
  if (out.length === 0 || state.journal.closed) return null;
  return (
    <p className={style.out} role="status">
      <b>Out:</b> {out.join('; ')}
    </p>
  );
}

/** Where work was left; gone with the next entry. */
function LeftOff({ state }: { state: CaseState }) {
  const { pausedAt } = state.journal;
  if (!pausedAt) return null;
  return (
    <div className={style.left}>
      <Notice look="attention" title="You left off here:">
        {pausedAt.body.where}, {formatDistanceToNowStrict(new Date(pausedAt.madeAt))} ago.{' '}
        <Button look="quiet" onClick={() => state.append({ kind: 'retract', entry: pausedAt.id })}>
          Go on
        </Button>
      </Notice>
    </div>
  );
}

/** Entries of this case that the server would not take. */
function Refused({ state }: { state: CaseState }) {
  const { aside } = useOutbox();
  const own = aside.filter(({ caseId }) => caseId === state.view.id);
  if (own.length === 0) return null;
  return (
    <div className={style.refusals}>
      {own.map((item) => (
        <OneNotStored key={item.id} item={item} />
      ))}
    </div>
  );
}
