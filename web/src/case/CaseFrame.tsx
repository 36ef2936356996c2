import type { ReactNode } from 'react';
import { Button } from '../ui/Button';
import { Masthead } from '../ui/Masthead';
import { Notice } from '../ui/Notice';
import { Pad } from '../ui/Pad';
import style from './CaseFrame.module.css';
import { STAGE_NAMES, STAGES, type Stage } from './progress';
import type { CaseState } from './use-case';

/** The frame of every stage of a case: the band, the track down the left edge, the stage itself, and a foot for the strip. */
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
  const { view, progress } = state;
  return (
    <div className={style.frame}>
      <Masthead here="case">
        <span className={style.number}>{view.number}</span>
        <h1 className={style.title} title={view.title}>
          {view.title}
        </h1>
        <Sync state={state} />
      </Masthead>
      <div className={style.body}>
        <nav className={style.track} aria-label="Stages of the case">
          {STAGES.map((name) => (
            <a key={name} href={`/case/${view.number}/${name}`} aria-current={name === stage ? 'step' : undefined} className={style.stop}>
              <Pad state={progress.pads[name]} />
              <span>{STAGE_NAMES[name]}</span>
            </a>
          ))}
        </nav>
        <main className={bare ? style.bare : style.stage}>
          <Refused state={state} />
          {children}
        </main>
      </div>
      {foot && <footer className={style.foot}>{foot}</footer>}
    </div>
  );
}

/** Whether everything on screen is stored, in words. */
function Sync({ state }: { state: CaseState }) {
  const { waiting, reachable } = state;
  if (!reachable) {
    return (
      <p className={style.unreachable} role="status">
        The workshop server does not answer. {waiting} {waiting === 1 ? 'entry is' : 'entries are'} kept in this browser and will be sent when it is back.
      </p>
    );
  }
  return (
    <p className={style.sync} role="status">
      {waiting === 0 ? 'all stored' : `sending ${waiting} …`}
    </p>
  );
}

function Refused({ state }: { state: CaseState }) {
  if (state.refusals.length === 0) return null;
  return (
    <div className={style.refusals}>
      {state.refusals.map(({ entry, detail }) => (
        <Notice key={entry.id} look="attention" title="Not accepted:" live>
          {entry.body.kind === 'reading' ? `“${entry.body.typed}”` : entry.body.kind}: {detail}.{' '}
          <Button look="quiet" onClick={() => state.dismiss(entry.id)}>
            Understood
          </Button>
        </Notice>
      ))}
    </div>
  );
}
