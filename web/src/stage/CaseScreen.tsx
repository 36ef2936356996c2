import { QueryClientProvider } from '@tanstack/react-query';
import { Suspense, useEffect } from 'react';
import { Band } from '../case/Band';
import type { CaseView } from '../case/case-view';
import { useLoadedCase, useCase } from '../case/use-case';
import { stageTitle, type Stage } from '../case/stages';
import { AnswerError } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { usePath } from '../ui/use-path';
import style from './CaseScreen.module.css';
import { SCREENS } from './islands';
import { placeOf, type Place } from './place';

/**
 * A case with all its stages on one page: what is on screen, in the outbox and in the engine stays
 * when one goes from stage to stage, with the server or without it.
 */
export function CaseScreen() {
  const place = placeOf(usePath(staysInCase));
  if (!place) return null;
  return (
    <QueryClientProvider client={store().queries}>
      <Loaded key={place.number} {...place} />
    </QueryClientProvider>
  );
}

/** Whether two paths are stages of one case. */
const staysInCase = (from: string, to: string): boolean => {
  const [here, there] = [placeOf(from), placeOf(to)];
  return here !== undefined && here.number === there?.number;
};

function Loaded({ number, stage }: Place) {
  const { view, failure, retry } = useLoadedCase(number);
  if (view) return <Staged view={view} stage={stage} />;
  const missing = failure instanceof AnswerError && failure.status === 404;
  return (
    <>
      <Band here="case" />
      <main className={style.wait}>
        {!failure && <p role="status">Case {number} is being fetched …</p>}
        {failure && missing && (
          <Notice look="attention" title="Not here:">
            there is no case {number}. The <a href="/">docket</a> has them all.
          </Notice>
        )}
        {failure && !missing && (
          <Notice look="attention" title={`Case ${number} could not be fetched:`} live>
            {failure.message}. It is on this machine only where it was open here lately.{' '}
            <Button onClick={retry}>Try again</Button>
          </Notice>
        )}
      </main>
    </>
  );
}

function Staged({ view, stage }: { view: CaseView; stage: Stage }) {
  const state = useCase(view);
  const Screen = SCREENS[stage];
  useEffect(() => {
    document.title = `${view.number} ${stageTitle(stage)} · Hanzai`;
  }, [view.number, stage]);
  return (
    <Suspense fallback={<Band here="case" />}>
      <Screen key={stage} state={state} />
    </Suspense>
  );
}
